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
#include "planning/array_strings.hpp"
#include "planning/arrays_by_coil.hpp"
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
Part feeds_the_lights(const Ask& ask, const Circuit& circuit, const LightsPlace& place,
                      const Conditions& conditions) {
    constexpr double more = 1.15;
    const Part& source = *circuit.source();
    Part row = with_those_in_a_row(circuit);
    if (row.number("count") == source.number("count")) return source;
    const Keyed<Circuit> keyed(circuit);
    const Conditions cells = fresh(circuit, conditions);
    const auto op = ask(RestQuery(keyed, cells));
    const auto own = source_model(source, known_catalogue(), cells);
    if (!op || !own) return source;
    const double volts = op->voltage(place.plus) - op->voltage(place.minus);
    return volts > more * own.value().voltage ? row : source;
}

/// Whether lights there can become a block: on cells without anything between, of LEDs of which the recipe's
/// goals say all.
bool takes_a_block(const Design& design, const LightsPlace& place, const Part& led) {
    const Part& source = *design.circuit.source();
    return is(source, Role::cells) && led.params.size() <= led.params.count("type") &&
           place.plus == source.net("+") && place.minus == source.net("-");
}

}  // namespace

std::optional<std::size_t> lights_block(const Design& design, const std::string& light) {
    const Part* source = design.circuit.source();
    if (!source || !is(*source, Role::cells)) return std::nullopt;
    if (light.empty()) return block_with(design, lights_recipe);
    const auto block = block_of(design, light);
    return block && design.blocks[*block].recipe == lights_recipe ? block : std::nullopt;
}

Result<ArrayQuestion> array_question(const Ask& ask, const Design& design, const Conditions& conditions,
                                     const std::string& light) {
    const Part* source = design.circuit.source();
    if (!source)
        return Error{Fault::design, "circuit", "it has no source",
                     "cells or a supply, such as battery 3 x LR6"};
    auto place = without_lights(design.circuit, light);
    if (!place && !light.empty()) return place.error();
    ArrayQuestion q = from_goals(find_recipe(lights_recipe)->standard());
    const std::string at =
        place && !place.value().strings.empty() ? place.value().strings.front() : std::string();
    const auto block = lights_block(design, at);
    if (block)
        q = from_goals(goals_of(design, design.blocks[*block]));
    else
        q.contact = 0;
    q.source = *source, q.at = at;
    q.by_recipe = block || (place && takes_a_block(design, place.value(), q.led));
    if (q.at.empty()) return q;
    const Part& first = *design.circuit.find(q.at);
    if (block && first.text("type") == q.led.text("type")) q.led = first;  // with its bin and measured points
    if (block) return q;
    q.source = feeds_the_lights(ask, design.circuit, place.value(), conditions);
    q.led = first, q.count = static_cast<int>(place.value().leds);
    q.by_recipe = takes_a_block(design, place.value(), q.led);
    if (const auto amps = lit_current(ask, design, place.value(), conditions)) q.current = *amps;
    return q;
}

Digest ArraysQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << wishes.light << wishes.led << wishes.count.has_value() << wishes.count.value_or(0)
      << wishes.current.has_value() << wishes.current.value_or(0) << wishes.owned;
    return d.digest();
}

Result<ArrayQuestion> asked_array(const Ask& ask, const ArraysQuery& query) {
    auto asked = array_question(ask, query.design, query.conditions, query.wishes.light);
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

namespace {

const Arrangement* arranged_as(const std::vector<Arrangement>& list, int per_string) {
    for (const Arrangement& a : list)
        if (a.per_string == per_string && a.verdict != Arrangement::Verdict::impossible) return &a;
    return nullptr;
}

}  // namespace

Result<ArraysOfDesign> ArraysQuery::compute(const Ask& ask) const {
    auto asked = asked_array(ask, *this);
    if (!asked) return asked.error();
    ArraysOfDesign found{std::move(asked).value(), {}, 0, hung_lights(design.circuit)};
    ArrayQuestion& q = found.question;
    if (const auto place = without_lights(design.circuit, q.at)) {
        const LightsPlace& p = place.value();
        if (p.leds > 0 && p.leds == static_cast<std::size_t>(q.count) &&
            p.strings.size() == (p.leds + p.longest - 1) / p.longest)
            found.present = static_cast<int>(p.longest);
        if (auto fed = fed_place(ask, design, p, conditions, {q.current, q.count, q.cold, q.hot})) {
            q.fed = std::move(fed->words), q.usual = fed->celsius;
            q.pulsed = fed->pulsed, q.by_coil = fed->by_coil;
            if (fed->by_coil) {
                auto list = arrangements_by_coil(ask, q, p, fed->lit);
                if (!list) return list.error();
                found.list = std::move(list).value();
                const Arrangement* now = arranged_as(found.list, found.present);
                q.current = (now ? *now : found.list.front()).strings.front().current.value;
                return found;
            }
            q.feeds = std::move(fed->feeds);
        } else if (!q.at.empty()) {
            q.fed = fmt::format("the source alone: {} is dark in every situation", q.at);
        }
    }
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
    if (const auto block = lights_block(design, question.at))
        return with_lights_goals(design, *block, question, arrangement.per_string, limiter);
    auto place = without_lights(design.circuit, question.at);
    if (!place) return place.error();
    if (takes_a_block(design, place.value(), question.led)) {
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
    return with_variant(design, block, wanted, {question.owned, {}, {}});
}

}  // namespace elkit
