#include "engine/goal.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "circuit/connectivity.hpp"
#include "circuit/part_kind.hpp"
#include "engine/measure.hpp"
#include "engine/models.hpp"
#include "engine/newton.hpp"
#include "engine/probe.hpp"
#include "quantity/format.hpp"

namespace elkit {

Result<Goal> goal_from_words(const Circuit& circuit, const std::string& words) {
    const auto gap = words.find_last_of(' ');
    Goal goal;
    if (gap != std::string::npos) goal.reading = words.substr(gap + 1);
    if (auto known = measurement({.period = 1, .high_time = 1}, goal.reading); !known) return known.error();
    auto probe = probe_from_words(circuit, words.substr(0, gap));
    if (!probe) return probe.error();
    goal.probe = probe.value();
    const std::string kind = goal.probe.substr(0, goal.probe.find(':'));
    const Unit unit = kind == "net"     ? Unit::volt
                      : kind == "part"  ? Unit::ampere
                      : kind == "power" ? Unit::watt
                                        : Unit::candela;
    goal.unit = measurement_unit(goal.reading, unit);
    goal.label = goal.reading + " of " + words.substr(0, gap);
    return goal;
}

Result<double> read_cycle(const Steady& steady, const Trace& trace, const std::string& reading) {
    const Recording& cycle = steady.cycle;
    Measurements m = measure(cycle.time, trace.values);
    constexpr double hardly_any = 1e-3;  // of the cycle: an edge that shakes is no cycle of its own
    if (steady.repeats && m.period && *m.period * m.cycles < hardly_any * steady.period)
        m.period.reset(), m.high_time.reset(), m.cycles = 0;
    if (steady.repeats && !m.period) m.period = steady.period;
    if (steady.repeats && m.cycles == 0 && (reading == "high" || reading == "low" || reading == "duty")) {
        const double middle = (m.maximum + m.minimum) / 2;
        double high = 0;
        for (std::size_t k = 1; k < cycle.time.size(); ++k)
            if (trace.values[k] + trace.values[k - 1] > 2 * middle) high += cycle.time[k] - cycle.time[k - 1];
        m.high_time = high;
    }
    return measurement(m, reading);
}

Result<double> evaluate(const Goal& goal, const Circuit& circuit, const Catalogue& catalogue,
                        const Conditions& conditions, const Corner& corner, const Steady* near) {
    if (auto errors = circuit_errors(circuit, catalogue, conditions); !errors.empty()) return errors.front();
    auto system = System::build(circuit, catalogue, conditions, corner);
    if (!system) return system.error();
    Recorder recorder(circuit, catalogue, system.value());
    if (auto added = recorder.add(goal.probe); !added) return added.error();
    const bool timed =
        goal.reading != "mean" && goal.reading != "min" && goal.reading != "max" && goal.reading != "rms";
    // nothing that could swing by itself: the state of rest says it all
    const bool may_swing = timed || system.value().monitors() > 0 || system.value().can_store();
    if (!may_swing) {
        auto rest = settle_at_rest(system.value());
        if (!rest) return rest.error();
        std::vector<Trace> traces;
        recorder.prepare(traces);
        recorder.record({rest.value().x.data()}, traces);
        return traces.front().values.front();
    }
    auto steady = steady_state(circuit, catalogue, conditions, {goal.probe}, {}, corner, near);
    if (!steady) return steady.error();
    return read_cycle(steady.value(), steady.value().cycle.traces.front(), goal.reading);
}

Result<void> set_by_name(const std::string& name, double value, Circuit& circuit, Conditions& c) {
    const auto outside = [&](double low, double high) {
        return Error{Fault::usage, name, "found " + format_plain(value),
                     fmt::format("{} to {}", format_plain(low), format_plain(high))};
    };
    const auto within = [&](double low, double high) { return value >= low && value <= high; };
    if (name == "battery") return within(0, 1) ? (c.battery = value, Result<void>(success())) : outside(0, 1);
    if (name == "temperature" || name == "temp")
        return within(-40, 125) ? (c.celsius = value, Result<void>(success())) : outside(-40, 125);
    if (name == "lux") return within(0, 2e5) ? (c.lux = value, Result<void>(success())) : outside(0, 2e5);
    if (name == "infrared")
        return within(0, 1000) ? (c.infrared = value, Result<void>(success())) : outside(0, 1000);
    const auto dot = name.find('.');
    Part* part = circuit.find(name.substr(0, dot));
    if (!part)
        return Error{Fault::usage, name, "there is nothing of that name to vary",
                     "battery, temperature, lux, infrared, a potentiometer, a switch, or PART.PARAMETER"};
    if (dot == std::string::npos && is_knob(*part))
        return within(0, 1) ? (c.knobs[part->designator] = value, Result<void>(success())) : outside(0, 1);
    if (dot == std::string::npos && is(*part, Role::contact)) {
        c.switches[part->designator] = value > 0.5;
        return success();
    }
    if (dot == std::string::npos && has_level(*part)) {
        c.levels[part->designator] = value;
        return success();
    }
    const PartKind& kind = *part_kind(part->kind);
    const std::string key = dot == std::string::npos ? kind.value_key : name.substr(dot + 1);
    const ParamInfo* info = kind.param(key);
    if (!info || !std::holds_alternative<double>(info->standard))
        return Error{Fault::usage, name, "it has no number called " + key, "one of its parameters"};
    if (!within(info->low, info->high)) return outside(info->low, info->high);
    part->params[key] = value;
    return success();
}

}  // namespace elkit
