#include "recipes/block_parts.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "recipes/blocks.hpp"

namespace elkit {

const Recipe* recipe_of(const Block& block) { return find_recipe(block.recipe); }

bool says(const GoalInfo& goal, const std::string& local) {
    return goal.mirrored() && local.starts_with(goal.mirror_parts) &&
           local.find_first_not_of("0123456789", goal.mirror_parts.size()) == std::string::npos;
}

std::vector<std::string> mirrors_of(const Block& block, const GoalInfo& goal) {
    std::vector<std::string> found;
    for (const auto* names : {&block.parts, &block.uses})
        for (const auto& [local, designator] : *names)
            if (says(goal, local)) found.push_back(designator);
    return found;
}

ParamValue standing(const Part& part, const std::string& key) {
    const PartKind* kind = part_kind(part.kind);
    const ParamInfo* info = kind ? kind->param(key) : nullptr;
    if (info && std::holds_alternative<std::string>(info->standard)) return part.text(key);
    if (info && std::holds_alternative<PointList>(info->standard)) {
        const PointList* points = part.points(key);
        return points ? *points : PointList{};
    }
    return part.number(key);
}

std::string hand_key(const std::string& designator, const std::string& param) {
    return designator + "." + param;
}
std::string hand_pin(const std::string& designator, const std::string& pin) { return designator + ":" + pin; }
ParamValue tidied(const GoalInfo& goal, const ParamValue& value) {
    if (value.index() != goal.info.standard.index()) return goal.info.standard;
    const double* number = std::get_if<double>(&value);
    if (number) return std::clamp(*number, goal.info.low, goal.info.high);
    if (std::holds_alternative<PointList>(value)) return value;
    const auto& choices = goal.info.choices;
    const auto& text = std::get<std::string>(value);
    const bool known = choices.empty() || std::find(choices.begin(), choices.end(), text) != choices.end();
    return known ? value : goal.info.standard;
}

namespace {

/// What is wrong with a value for a goal, if anything; `place` names it.
std::optional<Error> goal_error(const GoalInfo& g, const ParamValue& value, const std::string& place,
                                Fault fault) {
    const auto* text = std::get_if<std::string>(&value);
    const double* number = std::get_if<double>(&value);
    if (std::holds_alternative<PointList>(g.info.standard))
        return std::holds_alternative<PointList>(value)
                   ? std::nullopt
                   : std::optional(Error{fault, place, "found no list", g.info.meaning});
    if (value.index() != g.info.standard.index())
        return Error{fault, place, text ? "found the text \"" + *text + "\"" : "found no text",
                     text ? "a number: " + g.info.meaning : g.info.meaning};
    if (number && !(*number >= g.info.low && *number <= g.info.high))
        return Error{fault, place, "found " + format_quantity(*number, g.info.unit),
                     fmt::format("{} to {}", format_quantity(g.info.low, g.info.unit),
                                 format_quantity(g.info.high, g.info.unit))};
    if (number && g.info.unit == Unit::count && *number != std::floor(*number))
        return Error{fault, place, "found " + format_plain(*number), "a whole number"};
    if (text && !g.info.choices.empty() && !(tidied(g, value) == value))
        return Error{fault, place, "found \"" + *text + "\"",
                     fmt::format("one of {}", fmt::join(g.info.choices, ", "))};
    return {};
}

}  // namespace

Result<void> check_goals(const Recipe& recipe, const Goals& goals) {
    for (const GoalInfo& g : recipe.goals) {
        const auto found = goals.values.find(g.info.key);
        if (found == goals.values.end())
            return Error{Fault::usage, g.info.label, "is missing", g.info.meaning};
        if (auto wrong = goal_error(g, found->second, g.info.label, Fault::usage)) return *wrong;
    }
    return success();
}

std::vector<Error> block_errors(const Design& design) {
    std::vector<Error> errors;
    std::map<std::string, std::string> owners;  // designator → place of the first that owns it
    for (std::size_t k = 0; k < design.blocks.size(); ++k) {
        const Block& block = design.blocks[k];
        const Recipe* recipe = recipe_of(block);
        if (!recipe) continue;
        for (const auto& [key, value] : block.goals) {
            const GoalInfo* goal = recipe->goal(key);
            const std::string place = fmt::format("/blocks/{}/goals/{}", k, key);
            if (auto wrong = goal ? goal_error(*goal, value, place, Fault::design) : std::nullopt)
                errors.push_back(*wrong);
        }
        for (const auto& [local, designator] : block.parts) {
            const std::string place = fmt::format("/blocks/{}/parts/{}", k, local);
            const auto [first, fresh] = owners.emplace(designator, place);
            if (!design.circuit.find(designator))
                errors.push_back(
                    {Fault::design, place, "there is no part " + designator, "a part of the circuit"});
            else if (!fresh)
                errors.push_back({Fault::design, place, designator + " is owned by " + first->second,
                                  "a part that no other recipe owns"});
        }
    }
    return errors;
}

}  // namespace elkit
