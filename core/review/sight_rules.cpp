// What people will see: lights that stay dark, colours of unequal brightness, flicker, curves used elsewhere.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "light/flicker.hpp"
#include "light/strings.hpp"
#include "quantity/preferred.hpp"
#include "review/rules.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

constexpr double unequal_from = 3;         // brightest to dimmest that looks like a fault; bench practice
constexpr double flashes_harm_from = 3;    // a second (W3C, Web Content Accessibility Guidelines 2.1, 2.3.1)
constexpr double flashes_merge_from = 15;  // Hz, from where it is meant to look steady; bench practice
constexpr double curve_reaches = 3;        // times beyond its points

/// The most current that a light gets in any situation, or with every contact closed.
std::map<std::string, double> brightest(const Evidence& e) {
    std::map<std::string, double> most;
    const auto note = [&](const OperatingPoint& op) {
        for (const Part& part : e.circuit->parts)
            for (const LightDie& die : dies(part, known_catalogue()))
                most[part.designator] = std::max(most[part.designator], die_current(part, die, op));
    };
    for (const Situation& s : e.situations)
        if (const auto run = e.run_in(s)) note(run->mean());
    Conditions all = e.fresh;  // a grid lights in combinations that no situation need have
    all.events.clear();
    for (const Part& part : e.circuit->parts)
        if (is(part, Role::contact)) all.switches[part.designator] = true;
    if (const auto together = e.ask(RestQuery(e.circuit, all))) note(*together);
    const auto lit = [&most] {
        return std::all_of(most.begin(), most.end(), [](const auto& m) { return m.second >= gives_light; });
    };
    if (!lit())  // one that warns of empty cells
        if (const auto flat = e.flat_run()) note(flat->mean());
    // one that tells how full they are
    for (all.battery = 0.95; !lit() && all.battery > 0; all.battery -= 0.05)
        if (const auto between = e.ask(RestQuery(e.circuit, all))) note(*between);
    return most;
}

void never_lit(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;  // it cannot be solved: told elsewhere
    const auto most = brightest(e);
    std::vector<std::string> dark;
    for (const auto& [light, current] : most) {
        const Part& part = *e.circuit->find(light);
        const bool reversed = part.pins.size() == 2 && run->mean().voltage(part.pins[0].net) <
                                                           run->mean().voltage(part.pins[1].net) - 0.3;
        if (current < gives_light && !reversed) dark.push_back(light);
    }
    if (dark.empty()) return;
    const bool all = dark.size() == most.size();
    std::string names;
    for (std::size_t k = 0; k < dark.size() && k < 6; ++k) names += (k ? ", " : "") + dark[k];
    if (dark.size() > 6) names += " …";
    const double supply = run->mean().part(run->mean().source).voltage;
    auto& f = add_finding(
        out, Severity::warning, "light", "part:" + dark.front(),
        all ? fmt::format("Nothing lights: {} in none of the situations", names)
            : fmt::format("{} {} in none of the situations", names, dark.size() > 1 ? "light" : "lights"),
        fmt::format(
            "The most it gets is {}, with {} of supply. Too few volts for its string, a transistor that "
            "stays off, or a situation that is missing here.",
            amps(most.at(dark.front())), volts(supply)));
    const Part* source = e.circuit->source();
    const auto strings = led_strings(*e.circuit);
    const bool unlimited = std::any_of(strings.begin(), strings.end(), [&](const LedString& s) {
        return !s.resistor && !s.shared && s.leds.front()->designator == dark.front();
    });
    if (source && is(*source, Role::cells) && !unlimited)  // more volts alone would burn it
        f.remedies.push_back(circuit_remedy(
            "Cells until it lights",
            [name = source->designator, light = dark.front(),
             c = e.fresh](Circuit& circuit) -> std::optional<Error> {
                Part* cells = circuit.find(name);
                for (double count = cells ? cells->number("count") + 1 : 99; count <= 8; ++count) {
                    cells->params["count"] = count;
                    const auto trial = long_run(circuit, known_catalogue(), c);
                    if (trial && std::abs(trial.value().mean().part(light).current) > gives_light) return {};
                }
                return Error{Fault::design, "part " + name, "no number of cells up to 8 lights it",
                             "another way round, or a transistor that turns on"};
            }));
}

struct Seen {
    const LedString* string;
    const Part* led;
    double candela;
};

void unequal_colours(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    const OperatingPoint& mean = run->mean();
    const auto strings = led_strings(*e.circuit);
    std::vector<Seen> seen;
    for (const LedString& s : strings)
        for (const LightDie& die : dies(*s.leds.front(), known_catalogue())) {
            const double current = die_current(*s.leds.front(), die, mean);
            if (current > gives_light && die.type->visible)
                seen.push_back({&s, s.leds.front(), die.intensity * current / die.test_current});
        }
    if (seen.size() < 2) return;
    const auto by_light = [](const Seen& a, const Seen& b) { return a.candela < b.candela; };
    const auto [dim, bright] = std::minmax_element(seen.begin(), seen.end(), by_light);
    if (bright->led->text("type") == dim->led->text("type") || bright->candela < unequal_from * dim->candela)
        return;
    const auto cd = [](double value) { return format_quantity(value, Unit::candela); };
    auto& f = add_finding(
        out, Severity::note, "light", "part:" + bright->led->designator,
        fmt::format("{} gives {}, {} gives {}", bright->led->designator, cd(bright->candela),
                    dim->led->designator, cd(dim->candela)),
        fmt::format("Side by side, the {} looks {:.0f} times as bright as the {}. A larger resistor for the "
                    "brighter one makes them equal and saves current.",
                    bright->led->text("type"), bright->candela / dim->candela, dim->led->text("type")));
    if (const Part* r = bright->string->resistor)
        f.remedies.push_back(circuit_remedy(
            fmt::format("Raise {} until they are equal", r->designator),
            [name = r->designator, led = bright->led->designator, share = dim->candela / bright->candela,
             now = mean.part(bright->led->designator).current,
             c = e.fresh](Circuit& circuit) -> std::optional<Error> {
                Part* resistor = circuit.find(name);
                for (int step = 0; resistor && step < 96; ++step) {
                    const double next = preferred_at_least(resistor->number("value") * 1.01, Series::e24);
                    if (next > 1e7) break;
                    resistor->params["value"] = next;
                    const auto trial = long_run(circuit, known_catalogue(), c);
                    if (trial && trial.value().mean().part(led).current <= 1.05 * share * now) return {};
                }
                return Error{Fault::design, "part " + name, "no value of it makes them equal", "another LED"};
            }));
}

/// A remedy that gives the capacitor which times the circuit another value, so that its period comes to
/// `period` [s] or, `slower` or faster, beyond: the one whose value moves it most.
Remedy another_pace(const std::string& label, double period, bool slower, const Conditions& under) {
    return circuit_remedy(label, [period, slower, under](Circuit& circuit) -> std::optional<Error> {
        const auto period_of = [&](const Circuit& c) {
            const auto run = long_run(c, known_catalogue(), under);
            return run && run.value().moves() ? run.value().steady().period : 0;
        };
        const double now = period_of(circuit);
        std::string timing;
        double most = 0;
        for (const Part& part : circuit.parts) {
            if (!is(part, Role::capacitor)) continue;
            Circuit trial = circuit;
            trial.find(part.designator)->params["value"] = 0.7 * part.number("value");
            const double moved = std::abs(period_of(trial) - now);
            if (moved > most) most = moved, timing = part.designator;
        }
        Part* part = circuit.find(timing);
        if (!part || most < 0.1 * now)
            return Error{Fault::design, "circuit", "no capacitor sets its pace",
                         "another way to slow or hasten it"};
        const ParamInfo& info = *part_kind(part->kind)->param("value");
        for (int step = 0; step < 8; ++step) {
            const double wanted = part->number("value") * period / period_of(circuit);
            double value = preferred_at_least(0.999 * wanted, Series::e6);
            if (!slower && value > wanted)
                value = preferred_at_least(0.999 * wanted / std::cbrt(3.17), Series::e6);
            if (!(value >= info.low && value <= info.high)) break;
            part->params["value"] = value;
            const double then = period_of(circuit);
            if (then > 0 && (slower ? then >= period : then <= period)) return {};
        }
        return Error{Fault::design, "part " + timing, "no value of it is enough",
                     "other resistors beside it"};
    });
}

void flicker(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run || !run->moves() || !run->steady().repeats) return;
    const double rate = 1 / run->steady().period;
    if (rate < flashes_harm_from || rate > pulses_seen_below) return;
    for (const Part& part : e.circuit->parts) {
        if (!is(part, Role::light) || part.pins.empty()) continue;
        const std::string& pin = part.pins.front().name;
        const double mean = std::abs(run->mean().part(part.designator).current);
        if (mean < gives_light || run->lasting(part.designator, pin) < 1.5 * mean) continue;
        const std::string hertz = format_quantity(rate, Unit::hertz);
        if (rate < flashes_merge_from) {
            auto& f = add_finding(
                out, Severity::note, "light", "part:" + part.designator,
                fmt::format("{} flashes {} times a second", part.designator,
                            format_quantity(rate, Unit::none)),
                "More than three flashes a second can set off seizures in people who are sensitive to "
                "them: keep it small and far, or slower.");
            f.remedies.push_back(another_pace("Slow it down to less than three flashes a second",
                                              1.1 / flashes_harm_from, true, e.fresh));
        } else {
            auto& f = add_finding(
                out, Severity::warning, "light", "part:" + part.designator,
                fmt::format("{} flickers at {}", part.designator, hertz),
                "It is seen from the corner of the eye up to some 80 Hz, tires, and below 30 Hz can set off "
                "seizures. A smaller timing capacitor makes it faster.");
            f.remedies.push_back(
                another_pace("Make it faster than the eye", 0.9 / pulses_seen_below, false, e.fresh));
        }
        return;
    }
}

void curve_elsewhere(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        const PointList* points = is(part, Role::diode_light) ? part.points("points") : nullptr;
        if (!points || points->empty()) continue;
        const double current =
            run->moves() ? run->lasting(part.designator, "a") : run->mean().part(part.designator).current;
        if (current < gives_light) continue;
        double least = 1e9, most = 0;
        for (const auto& point : *points) least = std::min(least, point[0]), most = std::max(most, point[0]);
        if (current >= least / curve_reaches && current <= most * curve_reaches) continue;
        const std::string range = least == most ? amps(most) : amps(least) + " to " + amps(most);
        add_finding(
            out, Severity::note, "light", "part:" + part.designator,
            fmt::format("{} was measured at {} and gets {}", part.designator, range, amps(current)),
            fmt::format("Beyond its points the curve is a guess. Measure its voltage at about {} too.",
                        amps(current)));
    }
}

void blind_sensor(const Evidence& e, std::vector<Finding>& out) {
    constexpr double sees_from = 1e-6;  // A at 100 lx, or of 0.1 W/m²
    const auto sees = [](const Part& part, bool infrared) {
        const PartKind& kind = *part_kind(part.kind);
        if (!kind.param("sensitivity")) return !infrared;  // a light-dependent resistor
        return infrared ? 0.1 * part.number("irradiance_sensitivity") >= sees_from
                        : 100 * part.number("sensitivity") >= sees_from;
    };
    std::string infrared_light;
    const Part *blind = nullptr, *filtered = nullptr;
    bool seen = false;
    for (const Part& part : e.circuit->parts) {
        for (const LightDie& die : dies(part, known_catalogue()))
            if (!die.type->visible) infrared_light = part.designator;
        if (!is(part, Role::light_sensor)) continue;
        if (sees(part, true))
            seen = true;
        else if (!blind)
            blind = &part;
        if (!sees(part, false) && !filtered) filtered = &part;
    }
    if (!infrared_light.empty() && blind && !seen) {
        auto& f = add_finding(
            out, Severity::warning, "circuit", "part:" + blind->designator,
            fmt::format("{} does not see the infrared light of {}", blind->designator, infrared_light),
            "A light-dependent resistor follows what eyes see. Infrared takes a phototransistor.");
        f.remedies.push_back(circuit_remedy(
            "A phototransistor in its place",
            [name = blind->designator](Circuit& circuit) -> std::optional<Error> {
                for (const PartKind& kind : part_kinds()) {
                    if (!kind.is(Role::light_sensor) || !kind.param("irradiance_sensitivity")) continue;
                    auto next = replace_kind(circuit, name, kind.id);
                    if (!next) return next.error();
                    circuit = std::move(next).value();
                    return {};
                }
                return Error{Fault::design, "part " + name, "no kind sees infrared", "a phototransistor"};
            }));
    }
    if (infrared_light.empty() && filtered) {
        auto& f = add_finding(
            out, Severity::note, "circuit", "part:" + filtered->designator,
            fmt::format("{} sees infrared only: daylight, but hardly lamps with LEDs", filtered->designator),
            fmt::format("{} at 100 lx of visible light. Indoors it takes the dark for night at noon.",
                        amps(100 * filtered->number("sensitivity"))),
            "visible");
        for (const std::string& id : text_choices(filtered->kind, "type"))
            if (100 * known_catalogue().type_value(filtered->kind, id, "sensitivity") >= sees_from)
                f.remedies.push_back(set_param("A " + known_catalogue().name_of(filtered->kind, id),
                                               filtered->designator, "type", id));
    }
}

}  // namespace

std::vector<Rule> sight_rules() {
    return {
        {"blind-sensor",
         "a sensor that does not see the light here",
         "it waits for ever",
         "kinds and types of sensors and lights; a microampere at 100 lx or 0.1 W/m²",
         {},
         blind_sensor},
        {"never-lit",
         "a light that lights in no situation",
         "the gadget looks dead",
         "long run in every situation, with every contact closed, and with cells near their end",
         {On::conditions, On::brief},
         never_lit},
        {"unequal-colours",
         "colours side by side of which one is three times as bright",
         "it looks like a fault",
         "intensity at the current that each gets; three times is bench practice",
         {On::conditions},
         unequal_colours},
        {"flicker",
         "light that flashes 3 to 80 times a second",
         "it is seen, tires, and can set off seizures",
         "period and current of the steady cycle; three flashes a second from WCAG 2.1, criterion 2.3.1",
         {On::conditions},
         flicker,
         Over::every},
        {"curve-elsewhere",
         "a measured LED used far from where it was measured",
         "its voltage there is a guess",
         "measured points against the current it gets; three times beyond them",
         {On::conditions},
         curve_elsewhere,
         Over::every},
    };
}

}  // namespace elkit
