#include "planning/match.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "design/content.hpp"
#include "engine/models.hpp"
#include "light/light.hpp"
#include "planning/arrays_of_design.hpp"
#include "planning/comparison.hpp"
#include "quantity/brightness.hpp"
#include "recipes/blocks.hpp"
#include "recipes/string_resistor.hpp"

namespace elkit {
namespace {

/// cd, or lm, for each ampere; usage error where it is not known or not seen.
Result<double> light_for_each_ampere(const Part& led, bool diffuse) {
    const auto all = dies(led, known_catalogue());
    const std::string name = led.text("type");
    if (all.empty() || !all.front().type->visible || !(all.front().intensity > 0))
        return Error{Fault::usage, name, "its light is not seen, or how bright it is is not known",
                     "a visible LED with an intensity"};
    const LightDie& die = all.front();
    if (!diffuse) return die.intensity / die.test_current;
    const double angle = led.number("viewing_angle");
    if (!(angle > 0))
        return Error{Fault::usage, name, "its viewing angle is not known, which a diffuser needs",
                     "an LED with a viewing angle"};
    return flux(die.intensity, angle) / die.test_current;
}

}  // namespace

Result<Match> match_lights(const MatchQuestion& q) {
    if (q.lights.empty()) return Error{Fault::usage, "lights", "there are none", "two kinds of LED or more"};
    if (!(q.current > 0 && q.current <= 10))
        return Error{Fault::usage, "current", format_quantity(q.current, Unit::ampere),
                     "more than 0, 10 A at most"};
    std::vector<double> slope;  // light for each ampere of one LED
    for (const auto& light : q.lights) {
        auto one = light_for_each_ampere(light.led, q.diffuse);
        if (!one) return one.error();
        slope.push_back(one.value());
    }
    Match match;
    match.dimmest = static_cast<std::size_t>(std::min_element(slope.begin(), slope.end()) - slope.begin());
    const double target = slope[match.dimmest] * q.current;
    double total = 0;
    for (std::size_t k = 0; k < slope.size(); ++k) total += q.lights[k].strings * target / slope[k];
    double least = HUGE_VAL, most = 0;
    for (std::size_t k = 0; k < slope.size(); ++k) {
        const auto& light = q.lights[k];
        const double wanted = target / slope[k];
        const auto fed = q.fed(light, light.strings * wanted, total);
        if (!fed) return fed.error();
        auto sized = size_string({.source = q.source,
                                  .led = light.led,
                                  .leds = light.leds,
                                  .led_current = wanted,
                                  .current = wanted,
                                  .total = fed.value().amps,
                                  .contact = q.contact,
                                  .series = q.series,
                                  .rounding = q.rounding,
                                  .owned = q.owned,
                                  .feed = light.feed ? std::optional(fed.value().line) : std::nullopt});
        if (!sized) return sized.error();
        auto led = junction_model(light.led, known_catalogue(), bench_warmth, 0);
        if (!led) return led.error();
        const double ohms = sized.value().value;
        const Junction in_a_row{led.value().saturation, light.leds * led.value().slope,
                                light.leds * led.value().resistance + ohms};
        const double amps = in_a_row.at(fed.value().volts()).current, gives = slope[k] * amps;
        const std::string name = light.led.text("type"), id = fmt::format("match.{}.", name);
        MatchRow row;
        row.led = light.led, row.leds = light.leds;
        row.resistor = {id + "resistor",      "resistor of " + name, ohms, Unit::ohm, {}, {},
                        sized.value().working};
        row.resistor.working.insert(
            row.resistor.working.begin(),
            fmt::format("wanted: {} at {:.4g} for each ampere = {}",
                        q.diffuse ? fmt::format("{:.3g} lm", target) : format_quantity(target, Unit::candela),
                        slope[k], format_quantity(wanted, Unit::ampere)));
        row.current = {id + "current",      "current of " + name, amps, Unit::ampere, {}, {},
                       row.resistor.working};
        row.current.working.push_back(
            fmt::format("with {} and the LED's own curve: {}", row.resistor.text(), row.current.text()));
        row.light = {
            id + "light",
            "light of " + name,
            gives,
            q.diffuse ? Unit::none : Unit::candela,
            {},
            {},
            {fmt::format("{:.4g} for each ampere × {}", slope[k], format_quantity(amps, Unit::ampere))}};
        const double looks = 100 * perceived(gives / target);
        row.looks = {
            id + "looks",
            "how bright " + name + " looks",
            looks,
            Unit::percent,
            {},
            {},
            {fmt::format("{:.3g} of the dimmest kind's light; CIE 1976 lightness makes {:.0f} % of it",
                         gives / target, looks)}};
        least = std::min(least, gives), most = std::max(most, gives);
        match.rows.push_back(std::move(row));
    }
    match.apart = most / least;
    return match;
}

namespace {

/// What a light gets where it hangs; nothing where that cannot be measured.
std::optional<LightsFeed> feed_of(const Ask& ask, const Design& design, const Part& led,
                                  const Conditions& conditions) {
    const auto place = without_lights(design.circuit, led.designator);
    if (!place) return std::nullopt;
    FeedSpan span{0.02, static_cast<int>(place.value().strings.size())};
    span.current = lit_current(ask, design, place.value(), conditions).value_or(span.current);
    const auto fed = fed_place(ask, design, place.value(), conditions, span);
    return fed && !fed->by_coil ? std::optional(fed->feeds.usual) : std::nullopt;
}

}  // namespace

Result<MatchQuestion::Fed> MatchQuestion::fed(const Light& light, double own, double all) const {
    if (light.feed) return Fed{light.feed->at(own), own};
    auto model = source_model(source, known_catalogue(), {});
    if (!model) return model.error();
    return Fed{{model.value().voltage, model.value().lasting() + contact}, all};
}

Result<MatchQuestion> match_question(const Ask& ask, const Design& design, const Conditions& conditions) {
    auto usual = array_question(ask, design, conditions);
    if (!usual) return usual.error();
    MatchQuestion q;
    q.source = usual.value().source, q.contact = usual.value().contact, q.series = usual.value().series;
    const Keyed<Circuit> circuit(design.circuit);
    const auto op = ask(RestQuery(circuit, fresh(*circuit, conditions)));
    double most = 0;
    for (const LedString& s : led_strings(design.circuit)) {
        if (!s.resistor) continue;
        const Part& led = *s.leds.front();
        const auto known = std::find_if(q.lights.begin(), q.lights.end(), [&](const MatchQuestion::Light& l) {
            return l.led.text("type") == led.text("type") && l.leds == static_cast<int>(s.leds.size());
        });
        if (known != q.lights.end())
            ++known->strings;
        else
            q.lights.push_back(
                {led, static_cast<int>(s.leds.size()), 1, feed_of(ask, design, led, conditions)});
        if (op) most = std::max(most, op->part(led.designator).current);
    }
    if (q.lights.size() < 2)
        return Error{Fault::design, "lights", "there are no two kinds with resistors of their own",
                     "LEDs of two colours, each with its resistor"};
    q.current = most > 1e-6 ? most : usual.value().current;
    return q;
}

Digest MatchQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << diffuse << owned;
    return d.digest();
}

Result<Match> MatchQuery::compute(const Ask& ask) const {
    auto asked = match_question(ask, design, conditions);
    if (!asked) return asked.error();
    asked.value().diffuse = diffuse, asked.value().owned = owned;
    return match_lights(asked.value());
}

Design with_match(const Design& design, const Match& match) {
    Circuit next = design.circuit;
    for (const LedString& s : led_strings(design.circuit))
        for (const MatchRow& row : match.rows)
            if (s.resistor && s.leds.front()->text("type") == row.led.text("type") &&
                static_cast<int>(s.leds.size()) == row.leds)
                next.find(s.resistor->designator)->params["value"] = row.resistor.value;
    return with_circuit(design, std::move(next));
}

}  // namespace elkit
