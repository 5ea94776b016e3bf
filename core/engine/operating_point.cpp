#include "engine/operating_point.hpp"

#include <algorithm>
#include <cmath>

#include "circuit/connectivity.hpp"
#include "circuit/part_kind.hpp"
#include "engine/history.hpp"
#include "engine/long_run.hpp"
#include "engine/models.hpp"
#include "engine/newton.hpp"
#include "engine/system.hpp"
#include "engine/transient.hpp"

namespace elkit {
namespace {

PartState part_state(const Part& part, const System& system, std::size_t k, const Moment& moment) {
    PartState state;
    state.designator = part.designator;
    system.pin_currents(k, moment, state.pins);
    if (state.pins.empty()) return state;
    const auto volts = [&](std::size_t pin) { return moment.x[system.pin_unknown(k, pin)]; };
    std::size_t main = 0, against = part.pins.size() - 1;
    const PartKind* kind = part_kind(part.kind);
    for (std::size_t p = 0; p < part.pins.size(); ++p) {
        const auto wanted = static_cast<std::size_t>(system.main_pin(k));
        if (kind && wanted < kind->pins.size() && part.pins[p].name == kind->pins[wanted]) main = p;
        if (kind && !kind->against.empty() ? part.pins[p].name == kind->against : part.pins[p].name == "gnd")
            against = p;
        state.taken += volts(p) * state.pins[p];
    }
    state.main = main, state.against = against;
    state.current = state.pins[main];
    state.voltage = volts(main) - volts(against);
    return state;
}

bool same_state(const OperatingPoint& a, const OperatingPoint& b) {
    for (std::size_t k = 0; k < a.voltages.size(); ++k)
        if (std::abs(a.voltages[k] - b.voltages[k]) > 0.01) return false;
    return true;
}

}  // namespace

double OperatingPoint::voltage(std::string_view net) const {
    for (std::size_t i = 0; i < nets.size(); ++i)
        if (nets[i] == net) return voltages[i];
    return 0;
}

const PartState& OperatingPoint::part(std::string_view designator) const {
    static const PartState none;
    for (const PartState& p : parts)
        if (p.designator == designator) return p;
    return none;
}

double OperatingPoint::supply_current() const { return -part(source).current; }

OperatingPoint readings_at(const Circuit& circuit, const System& system, const Moment& moment) {
    OperatingPoint op;
    op.nets = system.nets();
    op.voltages.assign(moment.x, moment.x + op.nets.size());
    op.inner.assign(moment.x + op.nets.size(), moment.x + system.unknowns() + 1);
    op.parts.reserve(circuit.parts.size());
    for (std::size_t k = 0; k < circuit.parts.size(); ++k)
        op.parts.push_back(part_state(circuit.parts[k], system, k, moment));
    op.source = circuit.source()->designator;
    return op;
}

std::vector<double> unknowns_of(const OperatingPoint& op, const System& system) {
    const std::size_t nets = system.nets().size();
    std::vector<double> x(static_cast<std::size_t>(system.unknowns()) + 1, 0);
    for (std::size_t n = 1; n < nets; ++n) x[n] = op.voltage(system.nets()[n]);
    if (op.inner.size() == x.size() - nets)
        std::copy(op.inner.begin(), op.inner.end(), x.begin() + static_cast<std::ptrdiff_t>(nets));
    return x;
}

Result<OperatingPoint> operating_point(const Circuit& circuit, const Catalogue& catalogue,
                                       const Conditions& conditions, const Corner& corner,
                                       const OperatingPoint* start) {
    if (auto errors = circuit_errors(circuit, catalogue, conditions); !errors.empty()) return errors.front();
    if (!conditions.events.empty()) {
        if (!remembers(circuit))
            return operating_point(circuit, catalogue, conditions.after_events(), corner, start);
        if (conditions.moment > 0) return state_at_moment(circuit, catalogue, conditions, corner);
        auto lived = state_from_power_up(circuit, catalogue, conditions, corner);
        if (lived || !may_move(circuit)) return lived;
        auto passing = operating_point(circuit, catalogue, conditions.after_events(), corner, start);
        if (passing) passing.value().oscillates = true;
        return passing;
    }
    auto system = System::build(circuit, catalogue, conditions, corner);
    if (!system) return system.error();
    std::vector<double> guess;
    if (start) guess = unknowns_of(*start, system.value());
    auto rest = settle_at_rest(system.value(), start ? &guess : nullptr);
    if (!rest) return rest.error();
    OperatingPoint op = readings_at(circuit, system.value(), {rest.value().x.data()});
    op.iterations = rest.value().iterations, op.residual = rest.value().residual,
    op.oscillates = rest.value().oscillates;
    return op;
}

Result<std::vector<OperatingPoint>> operating_points(const Circuit& circuit, const Catalogue& catalogue,
                                                     const Conditions& conditions) {
    if (auto errors = circuit_errors(circuit, catalogue, conditions); !errors.empty()) return errors.front();
    if (!conditions.events.empty()) {  // they say which of its states it is in
        auto lived = operating_point(circuit, catalogue, conditions);
        if (!lived) return lived.error();
        return std::vector{std::move(lived).value()};
    }
    std::vector<OperatingPoint> found;
    const auto add = [&](OperatingPoint op) {
        for (const auto& known : found)
            if (same_state(known, op)) return;
        found.push_back(std::move(op));
    };
    auto first = operating_point(circuit, catalogue, conditions);
    if (!first) return first.error();
    // A state counts only if the circuit stays in it when it is let go: the balance point of a latch does
    // not.
    const auto settled = [&](const OperatingPoint& from) {
        return stable_state(circuit, catalogue, conditions, from);
    };
    if (auto powered = state_from_power_up(circuit, catalogue, conditions))
        if (auto kept = settled(powered.value())) add(std::move(kept).value());
    double highest = 0;
    for (const double v : first.value().voltages) highest = std::max(highest, v);
    for (std::size_t n = 1; n < first.value().nets.size(); ++n)
        for (const double held : {0.0, highest}) {
            OperatingPoint guess = first.value();
            guess.voltages[n] = held;
            if (auto op = settled(guess)) add(std::move(op).value());
        }
    if (found.empty()) found.push_back(std::move(first).value());
    return found;
}

}  // namespace elkit
