// What limits the current of a light: nothing, too little, one resistor for many, one that gets hot.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "engine/models.hpp"
#include "light/light.hpp"
#include "quantity/preferred.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

constexpr double dropped_elsewhere = 0.15;  // V: more than that, and something else limits the current

/// A resistor at a pin of a light, of the first value with which `current` of it is at most `limit` [A] in
/// the worst corner.
Remedy put_resistor_at(const Part& led, const std::string& pin, double limit, const Conditions& under,
                       std::function<double(const Part&, const OperatingPoint&)> current) {
    return circuit_remedy(
        "Put a resistor before " + led.designator,
        [name = led.designator, pin, limit, under,
         current = std::move(current)](Circuit& circuit) -> std::optional<Error> {
            const PartKind& kind = *part_kind(kind_with(Role::resistor));
            const Part resistor{circuit.free_designator(kind.prefix), kind.id, {}, {}, {}};
            auto next = insert_at_pin(circuit, name, pin, resistor, name + "_A");
            if (!next) return next.error();
            circuit = std::move(next).value();
            for (double ohms = 1; ohms < 1e6; ohms = preferred_at_least(1.01 * ohms, Series::e24)) {
                circuit.find(resistor.designator)->params["value"] = ohms;
                const auto trial = while_on(circuit, under, name, {-1, -1, 0});
                if (trial && current(*circuit.find(name), trial.value()) <= limit) return {};
            }
            return Error{Fault::design, "part " + name, "no resistor is enough", "a lower supply"};
        });
}

/// A resistor before an LED that keeps it at half of its rating.
Remedy put_resistor_in(const Part& led, const Conditions& under) {
    return put_resistor_at(
        led, led.pins.front().name, led.number("max_current") / 2, under,
        [](const Part& part, const OperatingPoint& op) { return op.part(part.designator).current; });
}

/// Lights inside other parts: the colours of an RGB LED, a strip, an LED with its resistor.
void inner_light_current(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    const auto worst = e.rest({-1, -1, 0});
    for (const Part& part : e.circuit->parts) {
        if (is(part, Role::diode_light) || part_kind(part.kind)->module) continue;
        const auto lights = dies(part, known_catalogue());
        for (std::size_t k = 0; k < lights.size(); ++k) {
            const LightDie& die = lights[k];
            if (die.filament()) continue;  // judged by its volts
            const auto each = [k](const Part& of, const OperatingPoint& op) {
                const auto now = dies(of, known_catalogue());
                return k < now.size() ? die_current(of, now[k], op) / now[k].side_by_side : 0;
            };
            const double current = each(part, worst ? *worst : run->mean()), limit = die.type->max_current;
            if (!(current > limit)) continue;
            const std::string pin = die.pin.empty() ? part.pins.front().name : die.pin;
            auto& f =
                add_finding(out, Severity::error, "light", "part:" + part.designator,
                            fmt::format("{} of {} {} {}, it may have {}", die.type->name, part.designator,
                                        worst ? "gets up to" : "gets on average", amps(current), amps(limit)),
                            "From fresh cells. Above its rating an LED ages fast and may die at once.", pin);
            f.remedies.push_back(put_resistor_at(part, pin, limit / 2, e.fresh, each));
        }
    }
}

void led_current(const Evidence& e, std::vector<Finding>& out) {
    const auto op = e.rest(), worst = e.rest({-1, -1, 0});
    if (!op || !worst) return;
    for (const Part& part : e.circuit->parts) {
        const double limit = is(part, Role::diode_light) ? part.number("max_current") : 0;
        const double typical = op->part(part.designator).current, high = worst->part(part.designator).current;
        if (!(limit > 0) || high <= limit) continue;
        const bool sure = typical > limit;
        auto& f = add_finding(
            out, sure ? Severity::error : Severity::warning, "light", "part:" + part.designator,
            sure ? fmt::format("{} gets {}, it may have {}", part.designator, amps(typical), amps(limit))
                 : fmt::format("{} may get {} in the worst corner, its limit is {}", part.designator,
                               amps(high), amps(limit)),
            "From fresh cells. Above its rating an LED ages fast and may die at once.");
        add_raised_resistor(
            e, part.designator,
            [d = part.designator, limit, c = e.fresh](const Circuit& circuit) {
                const auto trial = while_on(circuit, c, d, {-1, -1, 0});
                return trial && trial.value().part(d).current <= limit;
            },
            f);
        add_goal_remedies(e.design, "led-current", part.designator, f);
        if (f.remedies.empty()) f.remedies.push_back(put_resistor_in(part, e.fresh));  // a knob alone
        return;
    }
}

/// Whether what feeds a string at rest gives way as it takes more, much sooner than the cells themselves do:
/// two resistors side by side, a transistor that limits.
bool held_elsewhere(const Evidence& e, const LedString& s, const OperatingPoint& op, double current) {
    constexpr double more = 0.05, given_way = 0.25, beyond_cells = 3;  // of the current; V; times their own
    const double volts = std::abs(op.voltage(s.from) - op.voltage(s.to));
    const auto source = source_model(*e.circuit->source(), known_catalogue(), e.fresh);
    if (!source || !(volts > 0)) return false;
    Circuit loaded = *e.circuit;
    const std::string load = loaded.free_designator("R");
    loaded.parts.push_back(
        {load, "resistor", {{"value", volts / (more * current)}}, {{"a", s.from}, {"b", s.to}}, {}});
    const auto rest = e.ask(RestQuery(Keyed<Circuit>(std::move(loaded)), e.fresh));
    if (!rest) return false;
    const std::string& led = s.leds.front()->designator;
    const double amps = rest->part(led).current + std::abs(rest->part(load).current) - current;
    const double ohms =
        (volts - std::abs(rest->voltage(s.from) - rest->voltage(s.to))) / std::max(amps, 1e-9);
    return ohms * current > given_way && ohms > beyond_cells * source.value().lasting();
}

void no_resistor(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.circuit->source();
    const auto cell = source ? cell_of(*source, known_catalogue()) : std::nullopt;
    if (!source) return;
    for (const LedString& s : led_strings(*e.circuit)) {
        if (s.resistor || s.shared) continue;
        const std::string& first = s.leds.front()->designator;
        const WhileOn op = e.while_on(first);
        if (!op) return;
        const double current = op->part(first).current;
        if (current < gives_light) continue;
        double across = 0;  // the LEDs of the string
        for (const Part* led : s.leds) across += op->part(led->designator).voltage;
        const double spare = op->part(op->source).voltage - across;
        if (spare > dropped_elsewhere) continue;
        if (op.run().moves() && (spare < 0 || meets_coil(*e.circuit, s.from, s.to)))
            continue;  // a coil meters it out
        if (!op.run().moves() && held_elsewhere(e, s, *op, current)) continue;
        const WhileOn low = e.while_on(first, {1, 0, 0}), high = e.while_on(first, {-1, 0, 0});
        const std::string spread =
            low && high ? fmt::format("{}–{} over the LED's bins", amps(low->part(first).current),
                                      amps(high->part(first).current))
                        : "";
        const bool self = cell && cell->limits_itself;
        if (self) {
            auto model = source_model(*source, known_catalogue(), e.fresh);
            add_finding(out, Severity::note, "light", "part:" + s.leds.front()->designator,
                        fmt::format("The cell limits {} to {}", s.leds.front()->designator, amps(current)),
                        fmt::format("No resistor: the {} of the {} itself does it, {}. Accepted practice "
                                    "with coin cells only.",
                                    format_quantity(model ? model.value().lasting() : 0, Unit::ohm),
                                    source->text("cell"), spread));
        } else {
            auto& f = add_finding(
                out, Severity::error, "light", "part:" + s.leds.front()->designator,
                fmt::format("Nothing limits the current through {}", s.leds.front()->designator),
                fmt::format("{} typical, {}: this source does not limit itself, so the LED's bin decides.",
                            amps(current), spread));
            add_goal_remedies(e.design, "no-resistor", s.leds.front()->designator, f);
            if (f.remedies.empty()) f.remedies.push_back(put_resistor_in(*s.leds.front(), e.fresh));
        }
        return;
    }
}

void resistor_rating(const Evidence& e, std::vector<Finding>& out) {
    const auto corner = e.rest({-1, -1, 0});
    const auto run = corner ? Answer<LongRun>() : e.run();
    if (!corner && !run) return;
    const OperatingPoint& worst = corner ? *corner : run->mean();
    for (const Part& part : e.circuit->parts) {
        if (!is(part, Role::resistor)) continue;
        const double power = worst.part(part.designator).power(), rating = part.number("rating");
        if (2 * power <= rating) continue;
        const double enough = resistor_rating_at_least(2 * power);
        auto& f = add_finding(out, power > rating ? Severity::error : Severity::warning, "light",
                              "part:" + part.designator,
                              fmt::format("{} takes {} of its {}", part.designator,
                                          format_quantity(power, Unit::watt), rating_text(rating)),
                              "Worst corner, fresh cells. Choose twice the power: a resistor at its rating "
                              "is too hot to touch.");
        if (std::isfinite(enough))
            f.remedies.push_back(set_param("Use " + rating_text(enough), part.designator, "rating", enough));
    }
}

/// A resistor for each string in place of a shared one, as many times as large as strings shared it.
Remedy one_resistor_each(const std::string& shared) {
    return circuit_remedy("One resistor for each string", [shared](Circuit& circuit) -> std::optional<Error> {
        Part* r = circuit.find(shared);
        if (!r) return Error{Fault::design, "part " + shared, "it is gone", "a part of the circuit"};
        // the net that the strings meet at: only their ends and the resistor's
        for (std::size_t k = 0; k < 2; ++k) {
            const std::string joint = r->pins[k].net, feed = r->pins[1 - k].net;
            std::vector<Pin*> ends;
            bool others = false;
            for (Part& part : circuit.parts)
                for (Pin& pin : part.pins) {
                    if (pin.net != joint || part.designator == shared) continue;
                    others |= !is(part, Role::light) && !is(part, Role::junction);
                    ends.push_back(&pin);
                }
            if (others || ends.size() < 2) continue;
            const double ohms =
                preferred_at_least(0.97 * r->number("value") * static_cast<double>(ends.size()), Series::e24);
            const Part like = *r;
            r->params["value"] = ohms;
            for (std::size_t n = 1; n < ends.size(); ++n) ends[n]->net = joint + "_" + std::to_string(n + 1);
            for (std::size_t n = 1; n < ends.size(); ++n) {
                Part more = like;
                more.designator = circuit.free_designator(part_kind(like.kind)->prefix);
                more.params["value"] = ohms;
                more.pins[k].net = joint + "_" + std::to_string(n + 1), more.pins[1 - k].net = feed;
                circuit.parts.push_back(std::move(more));
            }
            return {};
        }
        return Error{Fault::design, "part " + shared, "more than lights meet at its ends",
                     "strings that meet there alone"};
    });
}

/// The circuit with the first of the strings that share a resistor as it is, and the others turned round, so
/// that they are dark.
Circuit with_one_string_of(const Circuit& circuit, const std::string& shared) {
    Circuit one = circuit;
    bool first = true;
    for (const LedString& s : led_strings(circuit)) {
        if (!s.shared || s.shared->designator != shared || std::exchange(first, false)) continue;
        Part& led = *one.find(s.leds.front()->designator);
        std::swap(led.pins[0].net, led.pins[1].net);
    }
    return one;
}

void shared_resistor(const Evidence& e, std::vector<Finding>& out) {
    std::map<std::string, int> users;
    for (const LedString& s : led_strings(*e.circuit))
        if (s.shared) ++users[s.shared->designator];
    for (const auto& [r, count] : users) {
        // one string of low forward voltage among typical ones takes more than its share
        Circuit odd = *e.circuit;
        for (const LedString& s : led_strings(odd))
            if (s.shared && s.shared->designator == r) {
                for (const Part* led : s.leds) odd.find(led->designator)->params["bin"] = std::string("low");
                break;
            }
        const auto run = e.ask(RunQuery(Keyed<Circuit>(odd), e.fresh));
        double least = 1e9, most = 0;
        if (run)
            for (const LedString& s : led_strings(odd))
                if (s.shared && s.shared->designator == r) {
                    const double i = run->mean().part(s.leds.front()->designator).current;
                    least = std::min(least, i), most = std::max(most, i);
                }
        if (!(least > gives_light)) continue;  // they are never lit together
        const auto together = e.run();
        const auto alone = e.ask(RunQuery(Keyed<Circuit>(with_one_string_of(*e.circuit, r)), e.fresh));
        std::string change;
        for (const LedString& s : led_strings(*e.circuit)) {
            if (!s.shared || s.shared->designator != r || !alone || !together) continue;
            const std::string& led = s.leds.front()->designator;
            change =
                fmt::format("{} alone gets {}, with the others {}: it dims as they join. ", led,
                            amps(alone->mean().part(led).current), amps(together->mean().part(led).current));
            break;
        }
        auto& f = add_finding(
            out, Severity::warning, "light", "part:" + r, fmt::format("{} strings share {}", count, r),
            change + fmt::format("With one string of low-voltage LEDs they get {} against {} "
                                 "now. One resistor a string keeps them equal.",
                                 amps(most), amps(least)));
        add_goal_remedies(e.design, "shared-resistor", r, f);
        if (f.remedies.empty()) f.remedies.push_back(one_resistor_each(r));
    }
}

}  // namespace

std::vector<Rule> limiter_rules() {
    return {
        {"inner-light-current",
         "a colour of an RGB LED, a strip or an LED with its resistor over its rating",
         "it ages fast or dies at once",
         "operating point in the worst corner, else the mean of the long run; rating of the LED type inside",
         {On::conditions},
         inner_light_current,
         Over::every},
        {"no-resistor",
         "an LED with nothing to limit its current",
         "on a cell of low resistance the LED's bin decides; a coin cell limits itself",
         "operating point over LED bins",
         {On::conditions, On::blocks},
         no_resistor},
        {"led-current",
         "an LED over its rating",
         "it ages fast or dies at once",
         "operating point in the worst corner: low forward voltage, low resistors, fresh cells",
         {On::conditions, On::blocks},
         led_current,
         Over::every},
        {"resistor-rating",
         "a resistor above half of its rating",
         "it gets too hot to touch and drifts",
         "worst-corner power; twice the power is bench practice",
         {On::conditions},
         resistor_rating,
         Over::every},
        {"shared-resistor",
         "strings that share one resistor",
         "they share the current unequally",
         "operating point with one string of low-voltage LEDs",
         {On::conditions, On::blocks},
         shared_resistor},
    };
}

}  // namespace elkit
