// Timing parts that leave what a timer can do, and gates that are not driven far enough.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "catalogue/catalogue.hpp"
#include "engine/models.hpp"
#include "quantity/preferred.hpp"
#include "recipes/timer_parts.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

std::string ohms_of(const Part& resistor) { return format_quantity(resistor.number("value"), Unit::ohm); }

/// A resistor with a pin on a net, and its other net.
std::vector<std::pair<const Part*, std::string>> resistors_on(const Circuit& circuit,
                                                              const std::string& net) {
    std::vector<std::pair<const Part*, std::string>> all;
    for (const Part& part : circuit.parts)
        if (is(part, Role::resistor) && part.pins.size() == 2 && !net.empty())
            for (std::size_t k = 0; k < 2; ++k)
                if (part.pins[k].net == net) all.emplace_back(&part, part.pins[1 - k].net);
    return all;
}

/// The resistors through which a timer's capacitor is charged: those on its threshold net, and of one that
/// comes from the discharge pin the one behind it.
std::vector<const Part*> charging(const Circuit& circuit, const Part& timer) {
    std::vector<const Part*> all;
    const std::string &thr = timer.net("thr"), &disch = timer.net("disch");
    for (const auto& [part, other] : resistors_on(circuit, thr)) {
        all.push_back(part);
        if (other != disch || disch == thr) continue;
        for (const auto& [behind, beyond] : resistors_on(circuit, disch))
            if (behind != part) all.push_back(behind);
    }
    return all;
}

/// The capacitor on a timer's threshold net; nullptr if there is none.
const Part* timed_by(const Circuit& circuit, const Part& timer) {
    const std::string& net = timer.net("thr");
    for (const Part& c : circuit.parts)
        if (is(c, Role::capacitor) &&
            std::any_of(c.pins.begin(), c.pins.end(), [&](const Pin& pin) { return pin.net == net; }))
            return &c;
    return nullptr;
}

/// Timers that time: the threshold of one that only remembers lies on a rail.
template <class Each>
void for_timers(const Circuit& circuit, Each each) {
    for (const Part& part : circuit.parts)
        if (const std::string& thr = part.net("thr");
            is(part, Role::chip) && !thr.empty() && thr != part.net("gnd") && thr != part.net("vcc"))
            each(part);
}

void timing_resistor(const Evidence& e, std::vector<Finding>& out) {
    for_timers(*e.circuit, [&](const Part& timer) {
        for (const Part* r : charging(*e.circuit, timer)) {
            const double ohms = r->number("value");
            if (ohms >= least_timing && ohms <= most_timing) continue;
            const bool large = ohms > most_timing;
            const double better = nearest_preferred(large ? most_timing / 3 : 2 * least_timing, Series::e12);
            auto& f = add_finding(
                out, Severity::warning, "circuit", "part:" + r->designator,
                fmt::format("{} of {} is too {} to time {}", r->designator, ohms_of(*r),
                            large ? "large" : "small", timer.designator),
                large
                    ? fmt::format(
                          "What leaks through damp fingers, board and pin counts as much from {} on. A "
                          "larger capacitor with a smaller resistor does the same.",
                          format_quantity(most_timing, Unit::ohm))
                    : fmt::format("Below {} the discharge pin's own resistance and current count. A smaller "
                                  "capacitor with a larger resistor does the same.",
                                  format_quantity(least_timing, Unit::ohm)));
            add_goal_remedies(e.design, "timing-resistor", r->designator, f);
            const Part* capacitor = timed_by(*e.circuit, timer);
            if (!capacitor) continue;
            const double farads = nearest_preferred(capacitor->number("value") * ohms / better, Series::e6);
            f.remedies.push_back(circuit_remedy(
                fmt::format("Take {} and {}", format_quantity(better, Unit::ohm),
                            format_quantity(farads, Unit::farad)),
                [r = r->designator, c = capacitor->designator, better,
                 farads](Circuit& circuit) -> std::optional<Error> {
                    Part *resistor = circuit.find(r), *store = circuit.find(c);
                    if (!resistor || !store)
                        return Error{Fault::design, "part " + r, "it is gone", "a part of the circuit"};
                    resistor->params["value"] = better, store->params["value"] = farads;
                    return {};
                }));
        }
    });
}

void timing_leak(const Evidence& e, std::vector<Finding>& out) {
    constexpr double enough = 0.8, upper_threshold = 2.0 / 3;  // of what charges it
    for_timers(*e.circuit, [&](const Part& timer) {
        double ohms = 0;
        const auto path = charging(*e.circuit, timer);
        for (const Part* r : path) ohms += r->number("value");
        const Part* c = timed_by(*e.circuit, timer);
        if (path.empty() || !c) return;
        const double leak = leak_resistance(*c), reaches = leak / (leak + ohms);
        if (!(reaches < enough)) return;
        auto& f = add_finding(
            out, reaches < upper_threshold ? Severity::error : Severity::warning, "circuit",
            "part:" + c->designator,
            fmt::format("{} leaks through some {}, and is charged through {}", c->designator,
                        format_quantity(leak, Unit::ohm), format_quantity(ohms, Unit::ohm)),
            fmt::format("It comes to {:.0f} % of what charges it; {} switches at {:.0f} %. Leaks differ ten "
                        "times from one capacitor to the next, so nobody can say when. An electrolytic one "
                        "holds its charge for so long and no longer, whatever its size: for more time take a "
                        "counter or a controller.",
                        100 * reaches, timer.designator, 100 * upper_threshold));
        add_goal_remedies(e.design, "timing-leak", c->designator, f);
        const double share = leak * (1 / 0.95 - 1) / ohms;  // that it reaches 95 %
        const Part* largest = *std::max_element(path.begin(), path.end(), [](const Part* a, const Part* b) {
            return a->number("value") < b->number("value");
        });
        const double less = nearest_preferred(share * largest->number("value"), Series::e12);
        f.remedies.push_back(set_param(
            fmt::format("Take {} for {}, and {:.2g} % of the time", format_quantity(less, Unit::ohm),
                        largest->designator, 100 * less / largest->number("value")),
            largest->designator, "value", less));
    });
}

/// Whether a net is driven from one end to the other: by a chip's output, or through a contact from a rail,
/// with no more than small resistors between.
bool driven_hard(const Circuit& circuit, const std::string& net) {
    constexpr double small = 20e3;  // Ω
    const Part* source = circuit.source();
    std::set<std::string> seen{net};
    std::vector<std::string> open{net};
    while (!open.empty()) {
        const std::string at = open.back();
        open.pop_back();
        if (source && at == source->net("+")) return true;
        for (const Part& part : circuit.parts) {
            const PartKind* kind = part_kind(part.kind);
            if (!kind) continue;
            for (const std::string& pin : kind->drives)
                if (part.net(pin) == at && is(part, Role::chip)) return true;
            const bool passes = (is(part, Role::resistor) && part.number("value") <= small) ||
                                (is(part, Role::contact) && part.pins.size() == 2);
            if (!passes || part.pins.size() != 2) continue;
            for (std::size_t k = 0; k < 2; ++k)
                if (part.pins[k].net == at && at != circuit.negative_rail() &&
                    seen.insert(part.pins[1 - k].net).second)
                    open.push_back(part.pins[1 - k].net);
        }
    }
    return false;
}

/// V that a MOSFET keeps while it carries its most; nothing if it carries nothing to speak of.
std::optional<double> kept_by(const Circuit& circuit, const LongRun& run, const std::string& designator) {
    constexpr double counts = 2e-3;  // A
    const Part* part = circuit.find(designator);
    if (!part || run.lasting(designator, "d") < counts) return {};
    const OperatingPoint on = run.while_on(circuit, designator, "d");
    return std::abs(on.voltage(part->net("d")) - on.voltage(part->net("s")));
}

void gate_low(const Evidence& e, std::vector<Finding>& out) {
    constexpr double too_much = 0.4;  // V; bench practice for a switch
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind || !kind->param("gate_drive") || !driven_hard(*e.circuit, part.net("g"))) continue;
        const bool follows = part.net("s") != e.circuit->negative_rail() &&
                             (!e.circuit->source() || part.net("s") != e.circuit->source()->net("+"));
        const auto kept = kept_by(*e.circuit, *run, part.designator);
        if (follows || !kept || *kept < too_much) continue;
        const OperatingPoint on = run->while_on(*e.circuit, part.designator, "d");
        const double gate = std::abs(on.voltage(part.net("g")) - on.voltage(part.net("s")));
        auto& f = add_finding(
            out, Severity::warning, "circuit", "part:" + part.designator,
            fmt::format("{} is not fully on: it keeps {} for itself, with {} at its gate", part.designator,
                        volts(*kept), volts(gate)),
            fmt::format(
                "Its resistance is promised at {}. Below that it warms, dims what it switches, and one "
                "of the next bag may not open at all.",
                volts(part.number("gate_drive"))));
        add_goal_remedies(e.design, "gate-low", part.designator, f);
        for (const PartType& type : known_catalogue().types) {
            if (type.kind != part.kind || type.id == part.text("type")) continue;
            const Remedy other = set_param("Take a " + type.name, part.designator, "type", type.id);
            const auto next = other.apply(e.design);
            const auto trial =
                next ? e.ask(RunQuery(Keyed<Circuit>(next.value().circuit), e.fresh)) : Answer<LongRun>();
            const auto keeps = trial ? kept_by(next.value().circuit, *trial, part.designator) : std::nullopt;
            if (keeps && *keeps < too_much) f.remedies.push_back(other);
        }
    }
}

}  // namespace

std::vector<Rule> timing_rules() {
    return {
        {"timing-resistor",
         "a timer's resistor that is too small or too large",
         "leaks, or the discharge pin, then set the time",
         "resistors that charge its capacitor; 1 kΩ to 3 MΩ are bench practice",
         {},
         timing_resistor},
        {"timing-leak",
         "a timer's capacitor that leaks as fast as it is charged",
         "the time comes out anyhow, or never",
         "the capacitor's leak beside the resistors that charge it; typical datasheets for the leak",
         {},
         timing_leak},
        {"gate-low",
         "a MOSFET that is not fully on",
         "it warms, and the next one may not open",
         "its volts while it carries its most, fresh cells; 0.4 V is bench practice",
         {On::conditions},
         gate_low},
    };
}

}  // namespace elkit
