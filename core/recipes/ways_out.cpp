#include "recipes/ways_out.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <string_view>

#include "catalogue/catalogue.hpp"
#include "quantity/format.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

/// A tenth to ten times, the nearest first; whole numbers one by one.
std::vector<double> steps_from(const GoalInfo& goal, double now) {
    std::vector<double> values;
    for (int step = 1; step <= 12; ++step)
        for (const int direction : {1, -1}) {
            const double part = now * std::pow(10.0, direction * step / 6.0);
            const double value = goal.info.unit == Unit::count   ? now + direction * step
                                 : goal.info.unit == Unit::farad ? nearest_preferred(part, Series::e6)
                                                                 : std::stod(fmt::format("{:.2g}", part));
            if (value >= goal.info.low && value <= goal.info.high) values.push_back(value);
        }
    return values;
}

/// The goals with those that follow from others chosen anew, but for `key`.
Goals suited(const Recipe& recipe, const Goals& goals, const std::string& key,
             const Environment& environment) {
    if (!recipe.complete) return goals;
    std::set<std::string> kept;
    for (const GoalInfo& goal : recipe.goals)
        if (!goal.follows || goal.info.key == key) kept.insert(goal.info.key);
    return recipe.complete(goals, kept, environment);
}

bool works(const Recipe& recipe, Goals goals, const std::string& key, const ParamValue& value,
           bool others_follow, const Environment& environment) {
    goals.values[key] = value;
    return recipe.size(goals, environment) ||
           (others_follow && recipe.size(suited(recipe, goals, key, environment), environment));
}

std::string words(const GoalInfo& goal, const ParamValue& value) {
    if (const double* number = std::get_if<double>(&value))
        return goal.info.label + ": " + format_quantity(*number, goal.info.unit, 2);
    const auto& id = std::get<std::string>(value);
    const std::string known = known_catalogue().name_of("", id);
    return goal.info.label + ": " + (known.empty() ? goal.label_of(id) : known);
}

constexpr const char* without_lights = "nothing";  // to drive nothing is no way to drive lights

/// Whether a choice says that the block hangs on another, which nobody can choose by itself.
bool says_joined(const Recipe& recipe, const std::string& key, const std::string& choice) {
    return std::any_of(recipe.takes.begin(), recipe.takes.end(),
                       [&](const RecipeNet& joint) { return joint.goal == key && joint.value == choice; });
}

}  // namespace

std::vector<WayOut> ways_out(const Recipe& recipe, const Goals& goals, const Environment& environment,
                             std::size_t most) {
    std::vector<WayOut> found;
    if (recipe.size(goals, environment)) return found;
    // where what was said stands in the way of what would suit, that is the way out
    const Goals anew = suited(recipe, goals, {}, environment);
    const bool follows = bool(recipe.size(anew, environment));
    for (const GoalInfo& goal : recipe.goals) {
        const std::string& key = goal.info.key;
        if (follows && !(anew.values.at(key) == goals.values.at(key)) &&
            works(recipe, goals, key, anew.values.at(key), false, environment))
            found.push_back({key, words(goal, anew.values.at(key)), anew.values.at(key)});
    }
    if (found.size() >= most) return found;
    for (const bool numbers : {false, true})
        for (const GoalInfo& goal : recipe.goals) {
            if (std::holds_alternative<double>(goal.info.standard) != numbers ||
                (environment.source && goal.of_source()) ||
                std::holds_alternative<PointList>(goal.info.standard))
                continue;
            std::vector<ParamValue> values;
            if (numbers)
                for (const double v : steps_from(goal, goals.number(goal.info.key))) values.emplace_back(v);
            else if (goal.info.choices_of.empty())
                for (const std::string& choice : goal.info.choices)
                    if (choice != without_lights && !says_joined(recipe, goal.info.key, choice))
                        values.emplace_back(choice);
            for (const ParamValue& value : values) {
                if (value == goals.values.at(goal.info.key) ||
                    !works(recipe, goals, goal.info.key, value, !follows, environment))
                    continue;
                found.push_back({goal.info.key, words(goal, value), value});
                if (found.size() == most) return found;
                if (numbers) break;
            }
        }
    return found;
}

}  // namespace elkit
