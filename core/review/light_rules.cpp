// Faults of a circuit as drawn, and lights that have too little, fade, are turned round, or hurt eyes.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/connectivity.hpp"
#include "light/judgement.hpp"
#include "light/light.hpp"
#include "power/converter.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

// bench practice, as docs/rules.md says
constexpr double least_forward = 0.3;  // V: turned round, a junction never gets there

void circuit_faults(const Evidence& e, std::vector<Finding>& out) {
    int fault = 0;
    const auto add = [&](const Error& error) {
        const std::string ref = error.place.starts_with("part ")  ? "part:" + error.place.substr(5)
                                : error.place.starts_with("net ") ? "net:" + error.place.substr(4)
                                                                  : "";
        add_finding(out, Severity::error, "circuit", ref, error.place + ": " + error.found,
                    "Expected " + error.expected + ".", fault++ ? std::to_string(fault) : "");
    };
    for (const Error& error : connectivity_errors(*e.circuit)) add(error);
    if (!out.empty()) return;
    if (const auto run = e.run(); run.there() && !run) add(run.error());
}

/// Volts that a string's resistor and LEDs share.
double string_volts(const LedString& s, const OperatingPoint& op) {
    const double shared = s.shared ? std::abs(op.part(s.shared->designator).voltage) : 0;
    return std::abs(op.voltage(s.from) - op.voltage(s.to)) + shared;
}

/// The converter that feeds a string, set so high that its resistor has enough.
void add_more_from_converter(const Evidence& e, const Part& converter, double leds, Finding& finding) {
    double wanted = 0;
    while (wanted - leds < 1.1 * enough_headroom(wanted)) wanted += 0.5;
    const ParamInfo* info = part_kind(converter.kind)->param("voltage");
    if (!info || wanted > info->high) return;
    finding.remedies.push_back(with_currents_kept(
        e, fmt::format("Set {} to {}, and resistors to suit", converter.designator, volts(wanted)),
        [name = converter.designator, wanted](Circuit& circuit) {
            circuit.find(name)->params["voltage"] = wanted;
        }));
}

void headroom(const Evidence& e, std::vector<Finding>& out) {
    for (const LedString& s : led_strings(*e.circuit)) {
        const Part* r = s.resistor ? s.resistor : s.shared;
        const std::string& led = s.leds.front()->designator;
        const WhileOn op = e.while_on(led);
        if (!op) return;
        if (!r || op->part(led).current < gives_light) continue;
        const double supply = string_volts(s, *op), limit = enough_headroom(supply);
        const double across = std::abs(op->part(r->designator).voltage);
        if (across >= limit) continue;
        const double target = op->part(led).current;
        const WhileOn low = e.while_on(led, {-1, 0, 0}), high = e.while_on(led, {1, 0, 0});
        if (low && high && low->part(led).current < spread_by_bins * high->part(led).current) continue;
        const std::string spread = low && high
                                       ? fmt::format("LED bins alone spread the {} to {}–{}.", amps(target),
                                                     amps(high->part(s.leds.front()->designator).current),
                                                     amps(low->part(s.leds.front()->designator).current))
                                       : "";
        auto& f = add_finding(
            out, Severity::warning, "light", "part:" + r->designator,
            fmt::format("{} has only {} of {} to work with", r->designator, volts(across), volts(supply)),
            fmt::format("Below {} the current follows the LEDs and the cells more than the resistor. {}",
                        volts(limit), spread));
        const Part* converter = nullptr;
        for (const std::string& net : {s.from, s.to})
            if (!converter) converter = converter_at(*e.circuit, net);
        if (converter) {
            add_more_from_converter(e, *converter, supply - across, f);
            return;
        }
        add_goal_remedies(e.design, "headroom", r->designator, f);
        add_more_cells(
            e,
            [name = r->designator, led, c = e.fresh](const Circuit& circuit) {
                const auto trial = while_on(circuit, c, led);
                if (!trial) return false;
                for (const LedString& string : led_strings(circuit)) {
                    if (string.leds.front()->designator != led) continue;
                    return std::abs(trial.value().part(name).voltage) >=
                           enough_headroom(string_volts(string, trial.value()));
                }
                return false;
            },
            f);
        return;  // one string stands for all of its kind
    }
}

void sag(const Evidence& e, std::vector<Finding>& out) {
    const auto strings = led_strings(*e.circuit);
    if (strings.empty()) return;
    const std::string& led = strings.front().leds.front()->designator;
    std::array<double, bin_charges.size()> bins{};
    for (std::size_t k = 0; k < bins.size(); ++k) {
        Conditions c = e.fresh;
        c.battery = bin_charges[k];
        const WhileOn op(*e.circuit, e.ask(RunQuery(e.circuit, c)), led);
        if (!op) return;
        bins[k] = op->part(led).current;
        if (!(bins[0] >= gives_light)) return;
    }
    if (bins[1] / bins[0] > least_at_half) return;
    auto& f = add_finding(
        out, Severity::warning, "light", "field:current",
        fmt::format("At half battery {:.0f} % of the current is gone", 100 * (1 - bins[1] / bins[0])),
        fmt::format("{} fresh, {} half, {} nearly flat. The eye forgives some of it; a longer light wants "
                    "more volts for the resistor.",
                    amps(bins[0]), amps(bins[1]), amps(bins[2])));
    add_goal_remedies(e.design, "sag", "", f);
    add_more_cells(
        e,
        [led, c = e.fresh](const Circuit& circuit) {
            Conditions half = c;
            half.battery = bin_charges[1];
            const auto full = while_on(circuit, c, led), later = while_on(circuit, half, led);
            return full && later &&
                   later.value().part(led).current > 1.02 * least_at_half * full.value().part(led).current;
        },
        f);
}

/// A diode in a row with LEDs; others may well be there to block.
bool in_a_string(const Circuit& circuit, const Part& diode) {
    for (const Chain& chain : chains(circuit))
        if (std::find(chain.parts.begin(), chain.parts.end(), &diode) != chain.parts.end())
            return chain.count(Role::light) > 0;
    return false;
}

void led_reversed(const Evidence& e, std::vector<Finding>& out) {
    const auto now = e.run();
    if (!now) return;
    for (const Part& part : e.circuit->parts) {
        if (!is(part, Role::junction) || (is(part, Role::blocks) && !in_a_string(*e.circuit, part))) continue;
        const std::string &a = part.pins[0].net, &k = part.pins[1].net;
        const auto conducts = [&](const LongRun& run) {
            return run.lasting(part.designator, part.pins[0].name) > gives_light &&
                   run.between(a, k).second > least_forward;
        };
        const double v = now->between(a, k).first;
        if (v > -least_forward || conducts(*now)) continue;
        Conditions all = e.fresh;  // a grid lights in combinations that no situation need have
        all.events.clear();
        for (const Part& other : e.circuit->parts)
            if (is(other, Role::contact)) all.switches[other.designator] = true;
        const auto together = e.ask(RestQuery(e.circuit, all));
        const bool conducts_once =
            (together && together->part(part.designator).current > gives_light) ||
            std::any_of(e.situations.begin(), e.situations.end(), [&](const Situation& s) {
                const auto run = e.run_in(s);
                return run && conducts(*run);
            });
        if (conducts_once) continue;
        const LedType* type = known_catalogue().led(part.text("type"));
        const std::string limit =
            type ? fmt::format(" It may stand {} backwards.", volts(type->reverse_voltage)) : "";
        auto& f = add_finding(out, Severity::error, "circuit", "part:" + part.designator,
                              fmt::format("{} is reversed: {} backwards", part.designator, volts(-v)),
                              "No current flows that way, and its string stays dark." + limit);
        f.remedies.push_back(turn_round(part.designator));
    }
}

void eye_caution(const Evidence& e, std::vector<Finding>& out) {
    for (const Part& part : e.circuit->parts) {
        const LedType* type = is(part, Role::light) ? known_catalogue().led(part.text("type")) : nullptr;
        if (!type || type->caution.empty()) continue;
        add_finding(out, Severity::note, "light", "part:" + part.designator, type->caution,
                    "Goes into the leaflet as it stands here.");
        return;
    }
}

}  // namespace

std::vector<Rule> light_rules() {
    return {
        {"circuit",
         "what keeps the circuit from being solved",
         "nothing can be computed from it",
         "connectivity of the parts",
         {On::conditions},
         circuit_faults,
         Over::every},
        {"led-reversed",
         "an LED or diode turned the wrong way",
         "its string stays dark",
         "operating point, fresh cells",
         {On::conditions},
         led_reversed},
        {"headroom",
         "less than 0.5 V across a string's resistor, or 15 % of what the string gets",
         "the current then follows the LED's bin and the battery",
         "operating point, fresh cells; the limits are bench practice",
         {On::conditions, On::blocks},
         headroom},
        {"sag",
         "less than 55 % of the fresh current at half battery",
         "the light fades long before the cells are empty",
         "operating point at half battery; the limit is bench practice",
         {On::conditions, On::blocks},
         sag},
        {"eyes",
         "bright, violet or infrared light",
         "it can hurt eyes",
         "the LED type's caution",
         {},
         eye_caution},
    };
}

}  // namespace elkit
