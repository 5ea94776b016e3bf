#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/connectivity.hpp"
#include "engine/models.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

/// Solves the design with fresh cells, switches closed; nothing for a circuit that does not rest, which
/// stress_rules judge by its averages and peaks.
std::optional<OperatingPoint> fresh(const Evidence& e, const Corner& corner = {}) {
    if (may_move(e.design.circuit) && (!fresh_run(e) || fresh_run(e)->moves())) return std::nullopt;
    Conditions c = lit(e.design.circuit, e.conditions);
    c.battery = 1;
    auto op = operating_point(e.design.circuit, built_in_catalogue(), c, corner);
    return op ? std::optional<OperatingPoint>(std::move(op).value()) : std::nullopt;
}

void circuit_faults(const Evidence& e, std::vector<Finding>& out) {
    for (const Error& error : connectivity_errors(e.design.circuit))
        add_finding(out, Severity::error, "circuit",
                    error.place.starts_with("part ")
                        ? "part:" + error.place.substr(5)
                        : (error.place.starts_with("net ") ? "net:" + error.place.substr(4) : ""),
                    error.place + ": " + error.found, "Expected " + error.expected + ".");
    if (out.empty() && e.live.error)
        add_finding(out, Severity::error, "circuit", "", e.live.error->place + ": " + e.live.error->found,
                    "Expected " + e.live.error->expected + ".");
}

void headroom(const Evidence& e, std::vector<Finding>& out) {
    const auto op = fresh(e);
    if (!op) return;
    const double supply = op->part(op->source).voltage;
    const double limit = std::max(0.5, 0.15 * supply);
    for (const LedString& s : led_strings(e.design.circuit)) {
        const Part* r = s.resistor ? s.resistor : s.shared;
        if (!r) continue;
        const double across = std::abs(op->part(r->designator).voltage);
        if (across >= limit) continue;
        const double target = op->part(s.leds.front()->designator).current;
        const auto low = fresh(e, {-1, 0, 0}), high = fresh(e, {1, 0, 0});
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
        if (e.design.light && e.design.light->per_string > 1)
            f.remedies.push_back(
                goals_remedy(e.design.light->per_string == 2 ? "One LED a string" : "One LED fewer a string",
                             [](LightGoals& g) { g.per_string -= 1; }));
        if (e.design.light)
            f.remedies.push_back(goals_remedy("One cell more", [](LightGoals& g) { g.cells += 1; }));
        return;  // one string stands for all of its kind
    }
}

void sag(const Evidence& e, std::vector<Finding>& out) {
    if (e.live.light.strings.empty() || !fresh(e)) return;
    const auto& row = e.live.light.bins[1];
    const std::array bins{row[0].value, row[1].value, row[2].value};
    if (!(bins[0] > 0) || bins[1] / bins[0] > 0.55) return;
    auto& f = add_finding(
        out, Severity::warning, "light", "field:current",
        fmt::format("At half battery {:.0f} % of the current is gone", 100 * (1 - bins[1] / bins[0])),
        fmt::format("{} fresh, {} half, {} nearly flat. The eye forgives some of it; a longer light wants "
                    "more volts for the resistor.",
                    amps(bins[0]), amps(bins[1]), amps(bins[2])));
    if (e.design.light && e.design.light->per_string > 1)
        f.remedies.push_back(
            goals_remedy("One LED fewer a string", [](LightGoals& g) { g.per_string -= 1; }));
}

void led_current(const Evidence& e, std::vector<Finding>& out) {
    const auto op = fresh(e), worst = fresh(e, {-1, -1, 0});
    if (!op || !worst) return;
    for (const Part& part : e.design.circuit.parts) {
        const LedType* type = part.kind == "led" ? built_in_catalogue().led(part.text("type")) : nullptr;
        if (!type) continue;
        const double typical = op->part(part.designator).current, high = worst->part(part.designator).current;
        if (high <= type->max_current) continue;
        const bool sure = typical > type->max_current;
        auto& f =
            add_finding(out, sure ? Severity::error : Severity::warning, "light", "part:" + part.designator,
                        sure ? fmt::format("{} gets {}, it may have {}", part.designator, amps(typical),
                                           amps(type->max_current))
                             : fmt::format("{} may get {} in the worst corner, its limit is {}",
                                           part.designator, amps(high), amps(type->max_current)),
                        "From fresh cells. Above its rating an LED ages fast and may die at once.");
        if (e.design.light)
            f.remedies.push_back(goals_remedy("Size the resistor for 15 mA", [](LightGoals& g) {
                g.current = std::min(g.current, 0.015), g.resistor = true;
            }));
        return;
    }
}

void no_resistor(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.design.circuit.source();
    const CellType* cell = source ? built_in_catalogue().cell(source->text("cell")) : nullptr;
    const auto op = fresh(e);
    if (!op || !source) return;
    for (const LedString& s : led_strings(e.design.circuit)) {
        if (s.resistor || s.shared) continue;
        const double current = op->part(s.leds.front()->designator).current;
        const auto low = fresh(e, {1, 0, 0}), high = fresh(e, {-1, 0, 0});
        const std::string spread = low && high
                                       ? fmt::format("{}–{} over the LED's bins",
                                                     amps(low->part(s.leds.front()->designator).current),
                                                     amps(high->part(s.leds.front()->designator).current))
                                       : "";
        const bool self = source->kind == "battery" && cell && cell->limits_itself;
        if (self) {
            auto model = source_model(*source, built_in_catalogue(), {1, e.conditions.celsius, {}});
            add_finding(out, Severity::note, "light", "part:" + s.leds.front()->designator,
                        fmt::format("The cell limits {} to {}", s.leds.front()->designator, amps(current)),
                        fmt::format("No resistor: the {} of the {} itself does it, {}. Accepted practice "
                                    "with coin cells only.",
                                    format_quantity(model ? model.value().resistance : 0, Unit::ohm),
                                    source->text("cell"), spread));
        } else {
            auto& f = add_finding(
                out, Severity::error, "light", "part:" + s.leds.front()->designator,
                fmt::format("Nothing limits the current through {}", s.leds.front()->designator),
                fmt::format("{} typical, {}: this source does not limit itself, so the LED's bin decides.",
                            amps(current), spread));
            f.remedies.push_back(goals_remedy(
                "Add a resistor a string", [](LightGoals& g) { g.resistor = true, g.one_resistor = false; }));
        }
        return;
    }
}

void resistor_rating(const Evidence& e, std::vector<Finding>& out) {
    auto worst = fresh(e, {-1, -1, 0});
    if (!worst && fresh_run(e)) worst = fresh_run(e)->mean();
    if (!worst) return;
    for (const Part& part : e.design.circuit.parts) {
        if (part.kind != "resistor") continue;
        const double power = worst->part(part.designator).power(), rating = part.number("rating");
        if (2 * power <= rating) continue;
        const double enough = resistor_rating_at_least(2 * power);
        auto& f = add_finding(out, power > rating ? Severity::error : Severity::warning, "light",
                              "part:" + part.designator,
                              fmt::format("{} takes {} of its {}", part.designator,
                                          format_quantity(power, Unit::watt), rating_text(rating)),
                              "Worst corner, fresh cells. Choose twice the power: a resistor at its rating "
                              "is too hot to touch.");
        if (std::isfinite(enough))
            f.remedies.push_back({"Use " + rating_text(enough),
                                  [d = part.designator, enough](const Design& design) -> Result<Design> {
                                      Design next = design;
                                      if (Part* p = next.circuit.find(d)) p->params["rating"] = enough;
                                      return next;
                                  }});
    }
}

void shared_resistor(const Evidence& e, std::vector<Finding>& out) {
    std::map<std::string, int> users;
    for (const LedString& s : led_strings(e.design.circuit))
        if (s.shared) ++users[s.shared->designator];
    for (const auto& [r, count] : users) {
        // one string of low forward voltage among typical ones takes more than its share
        Design odd = e.design;
        for (const LedString& s : led_strings(odd.circuit))
            if (s.shared && s.shared->designator == r) {
                for (const Part* led : s.leds)
                    odd.circuit.find(led->designator)->params["bin"] = std::string("low");
                break;
            }
        Conditions c = lit(odd.circuit, e.conditions);
        auto op = operating_point(odd.circuit, built_in_catalogue(), c);
        double least = 1e9, most = 0;
        if (op)
            for (const LedString& s : led_strings(odd.circuit))
                if (s.shared && s.shared->designator == r) {
                    const double i = op.value().part(s.leds.front()->designator).current;
                    least = std::min(least, i), most = std::max(most, i);
                }
        auto& f = add_finding(out, Severity::warning, "light", "part:" + r,
                              fmt::format("{} strings share {}", count, r),
                              fmt::format("With one string of low-voltage LEDs they get {} against {} now. "
                                          "One resistor a string keeps them equal.",
                                          amps(most), amps(least)));
        f.remedies.push_back(
            goals_remedy("One resistor a string", [](LightGoals& g) { g.one_resistor = false; }));
    }
}

/// A diode in a row with LEDs; others may well be there to block.
bool in_a_string(const Circuit& circuit, const Part& diode) {
    for (const Chain& chain : chains(circuit))
        if (std::find(chain.parts.begin(), chain.parts.end(), &diode) != chain.parts.end())
            return chain.count("led") > 0;
    return false;
}

void led_reversed(const Evidence& e, std::vector<Finding>& out) {
    const auto op = fresh(e);
    if (!op) return;
    for (const Part& part : e.design.circuit.parts) {
        if (part.kind != "led" && !(part.kind == "diode" && in_a_string(e.design.circuit, part))) continue;
        const double v = op->part(part.designator).voltage;
        if (v > -0.3) continue;
        const LedType* type = built_in_catalogue().led(part.text("type"));
        const std::string limit =
            type ? fmt::format(" It may stand {} backwards.", volts(type->reverse_voltage)) : "";
        auto& f = add_finding(out, Severity::error, "circuit", "part:" + part.designator,
                              fmt::format("{} is reversed: {} backwards", part.designator, volts(-v)),
                              "No current flows that way, and its string stays dark." + limit);
        f.remedies.push_back({"Turn " + part.designator + " round",
                              [d = part.designator](const Design& design) -> Result<Design> {
                                  Design next = design;
                                  if (Part* p = next.circuit.find(d))
                                      std::swap(p->pins[0].net, p->pins[1].net);
                                  return next;
                              }});
    }
}

void eye_caution(const Evidence& e, std::vector<Finding>& out) {
    for (const Part& part : e.design.circuit.parts) {
        const LedType* type = part.kind == "led" ? built_in_catalogue().led(part.text("type")) : nullptr;
        if (!type || type->caution.empty()) continue;
        add_finding(out, Severity::note, "light", "part:" + part.designator, type->caution,
                    "Goes into the leaflet as it stands here.");
        return;
    }
}

}  // namespace

std::vector<Rule> light_rules() {
    return {
        {"circuit", "what keeps the circuit from being solved", "nothing can be computed from it",
         "connectivity of the parts", circuit_faults},
        {"led-reversed", "an LED or diode turned the wrong way", "its string stays dark",
         "operating point, fresh cells", led_reversed},
        {"no-resistor", "an LED with nothing to limit its current",
         "on a cell of low resistance the LED's bin decides; a coin cell limits itself",
         "operating point over LED bins", no_resistor},
        {"led-current", "an LED over its rating", "it ages fast or dies at once",
         "operating point in the worst corner: low forward voltage, low resistors, fresh cells", led_current},
        {"headroom", "less than 0.5 V or 15 % of the supply across a resistor",
         "the current then follows the LED's bin and the battery", "operating point, fresh cells", headroom},
        {"sag", "less than 55 % of the fresh current at half battery",
         "the light fades long before the cells are empty", "operating point at half battery", sag},
        {"resistor-rating", "a resistor above half of its rating", "it gets too hot to touch and drifts",
         "worst-corner power", resistor_rating},
        {"shared-resistor", "strings that share one resistor", "they share the current unequally",
         "operating point with one string of low-voltage LEDs", shared_resistor},
        {"eyes", "bright, violet or infrared light", "it can hurt eyes", "the LED type's caution",
         eye_caution},
    };
}

}  // namespace elkit
