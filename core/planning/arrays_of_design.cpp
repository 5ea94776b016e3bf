#include "planning/arrays_of_design.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>
#include <utility>

#include "circuit/part_kind.hpp"
#include "design/content.hpp"
#include "engine/models.hpp"
#include "light/light.hpp"
#include "planning/lights_place.hpp"
#include "recipes/blocks.hpp"
#include "recipes/variants.hpp"

namespace elkit {
namespace {

constexpr const char* lights_recipe = "steady-light";

ArrayQuestion from_goals(const Goals& goals) {
    ArrayQuestion q;
    q.led = {"L1", "led", {}, {}, {}};
    q.led.params["type"] = goals.text("led");
    q.count = static_cast<int>(goals.number("count"));
    q.current = goals.number("current");
    if (goals.text("switch") == "yes") q.contact = Part{"S1", "switch", {}, {}, {}}.number("on_resistance");
    if (auto series = parse_series(goals.text("series"))) q.series = series.value();
    q.rounding = goals.text("rounding") == "nearest" ? Rounding::nearest : Rounding::under;
    return q;
}

/// These strings of real parts on their source, as a circuit of their own.
Circuit strings_on_source(const ArrayQuestion& question, const Arrangement& arrangement) {
    Circuit circuit;
    Part source = question.source;
    source.pins = {{"+", "V+"}, {"-", "GND"}};
    circuit.parts.push_back(std::move(source));
    int nets = 0;
    const auto add = [&](const char* prefix, Part part) {
        part.designator = circuit.free_designator(prefix);
        circuit.parts.push_back(std::move(part));
    };
    for (const AlikeStringsOfArray& s : arrangement.strings)
        for (int k = 0; k < s.strings; ++k) {
            std::string net = "V+";
            if (s.resistance > 0) {
                net = fmt::format("A{}", ++nets);
                Part resistor{"", "resistor", {{"value", s.resistance}}, {{"a", "V+"}, {"b", net}}, {}};
                if (s.rating > 0.25 && std::isfinite(s.rating)) resistor.params["rating"] = s.rating;
                add("R", std::move(resistor));
            }
            for (int n = 1; n <= s.leds; ++n) {
                const std::string next = n == s.leds ? "GND" : fmt::format("A{}", ++nets);
                add("L", {"", question.led.kind, question.led.params, {{"a", net}, {"k", next}}, {}});
                net = next;
            }
        }
    return circuit;
}

/// A circuit's source and the cells of its kind that stand in a row with it, as one battery.
Part with_those_in_a_row(const Circuit& circuit) {
    Part row = *circuit.source();
    if (!is(row, Role::cells)) return row;
    std::set<std::string> taken{row.designator};
    for (bool grew = true; std::exchange(grew, false);)
        for (const Part& other : circuit.parts) {
            if (!is(other, Role::cells) || other.text("cell") != row.text("cell")) continue;
            for (const auto& [own, end] : {std::pair("+", "-"), std::pair("-", "+")}) {
                if (other.net(end) != row.net(own) || !taken.insert(other.designator).second) continue;
                for (Pin& pin : row.pins)
                    if (pin.name == own) pin.net = other.net(own);
                row.params["count"] = row.number("count") + other.number("count");
                grew = true;
            }
        }
    return row;
}

/// What feeds the lights: the source, or all of the cells in a row where the lights have more than its volts.
Part feeds_the_lights(const Ask& ask, const Circuit& circuit, const Conditions& conditions) {
    constexpr double more = 1.15;
    const Part& source = *circuit.source();
    Part row = with_those_in_a_row(circuit);
    if (row.number("count") == source.number("count")) return source;
    const auto place = without_lights(circuit);
    const Keyed<Circuit> keyed(circuit);
    const Conditions cells = fresh(circuit, conditions);
    const auto op = ask(RestQuery(keyed, cells));
    const auto own = source_model(source, known_catalogue(), cells);
    if (!place || !op || !own) return source;
    const double volts = op->voltage(place.value().plus) - op->voltage(place.value().minus);
    return volts > more * own.value().voltage ? row : source;
}

/// Whether the recipe's goals say all of an LED.
bool only_a_type(const Part& led) { return led.params.size() <= led.params.count("type"); }

}  // namespace

std::optional<std::size_t> lights_block(const Design& design) {
    const Part* source = design.circuit.source();
    return source && is(*source, Role::cells) ? block_with(design, lights_recipe) : std::nullopt;
}

Result<ArrayQuestion> array_question(const Ask& ask, const Design& design, const Conditions& conditions) {
    const Part* source = design.circuit.source();
    if (!source)
        return Error{Fault::design, "circuit", "it has no source",
                     "cells or a supply, such as battery 3 x LR6"};
    ArrayQuestion q = from_goals(find_recipe(lights_recipe)->standard());
    const auto block = lights_block(design);
    if (block)
        q = from_goals(goals_of(design, design.blocks[*block]));
    else
        q.contact = 0;
    q.source = *source;
    const auto strings = led_strings(design.circuit);
    if (strings.empty()) return q;
    const Part& first = *strings.front().leds.front();
    if (block && first.text("type") == q.led.text("type")) q.led = first;  // with its bin and measured points
    if (block) return q;
    q.source = feeds_the_lights(ask, design.circuit, conditions);
    q.led = first, q.count = 0;
    for (const LedString& s : strings)
        for (const Part* led : s.leds) q.count += led->text("type") == first.text("type");
    const Keyed<Circuit> circuit(design.circuit);
    if (const auto light = ask(LightQuery(circuit, fresh(*circuit, conditions)));
        light && !light->strings.empty() && light->strings.front().fresh_current.value > 1e-6)
        q.current = light->strings.front().fresh_current.value;
    return q;
}

Digest ArraysQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << wishes.led << wishes.count.has_value() << wishes.count.value_or(0) << wishes.current.has_value()
      << wishes.current.value_or(0) << wishes.owned;
    return d.digest();
}

Result<ArrayQuestion> asked_array(const Ask& ask, const ArraysQuery& query) {
    auto asked = array_question(ask, query.design, query.conditions);
    if (!asked) return asked;
    ArrayQuestion& q = asked.value();
    const ArrayWishes& wishes = query.wishes;
    if (!wishes.led.empty() && wishes.led != q.led.text("type")) {
        q.led = {"L1", "led", {}, {}, {}};
        q.led.params["type"] = wishes.led;
    }
    if (wishes.count) q.count = *wishes.count;
    if (wishes.current) q.current = *wishes.current;
    q.owned = wishes.owned;
    return asked;
}

Result<ArraysOfDesign> ArraysQuery::compute(const Ask& ask) const {
    auto asked = asked_array(ask, *this);
    if (!asked) return asked.error();
    ArraysOfDesign found{std::move(asked).value(), {}};
    const ArrayQuestion& q = found.question;
    std::size_t lights = 0, longest = 0;
    const auto strings = led_strings(design.circuit);
    for (const LedString& s : strings) lights += s.leds.size(), longest = std::max(longest, s.leds.size());
    if (longest > 0 && lights == static_cast<std::size_t>(q.count) &&
        strings.size() == (lights + longest - 1) / longest)
        found.present = static_cast<int>(longest);
    auto list = arrangements(q);
    if (!list) return list.error();
    found.list = std::move(list).value();
    return found;
}

Result<Design> with_arrangement(const Design& design, const ArrayQuestion& question,
                                const Arrangement& arrangement) {
    if (arrangement.verdict == Arrangement::Verdict::impossible)
        return Error{Fault::usage, arrangement.name(), arrangement.reason, "a possible arrangement"};
    const std::string limiter = arrangement.strings.front().resistance > 0 ? "string" : "none";
    if (const auto block = lights_block(design))
        return with_lights_goals(design, *block, question, arrangement.per_string, limiter);
    auto place = without_lights(design.circuit);
    if (!place) return place.error();
    const Part& source = *design.circuit.source();
    if (is(source, Role::cells) && only_a_type(question.led) && place.value().plus == source.net("+") &&
        place.value().minus == source.net("-")) {
        const Design bare = with_circuit(design, place.value().circuit);
        Goals goals = find_recipe(lights_recipe)->standard();
        goals.values["switch"] = std::string("no");
        goals.values["led"] = question.led.text("type");
        if (auto with = with_block(bare, lights_recipe, goals))
            if (auto sized = with_lights_goals(with.value(), bare.blocks.size(), question,
                                               arrangement.per_string, limiter))
                return sized;
    }
    const Circuit lights = strings_on_source(question, arrangement);
    const Circuit taken = design.blocks.empty() ? place.value().circuit : design.circuit;
    return with_circuit(design, with_lights(std::move(place).value(), lights, taken));
}

Result<Design> with_lights_goals(const Design& design, std::size_t block, const ArrayQuestion& question,
                                 int per_string, const std::string& limiter) {
    Variant wanted{fmt::format("strings of {}", per_string), goals_of(design, design.blocks.at(block)),
                   !question.owned.empty()};
    wanted.goals.values["led"] = question.led.text("type");
    wanted.goals.values["count"] = static_cast<double>(question.count);
    wanted.goals.values["per_string"] = static_cast<double>(per_string);
    wanted.goals.values["current"] = question.current;
    wanted.goals.values["limiter"] = limiter;
    return with_variant(design, block, wanted, question.owned);
}

}  // namespace elkit
