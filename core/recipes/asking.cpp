#include "recipes/asking.hpp"

#include "recipes/block_parts.hpp"
#include "recipes/ways_out.hpp"

namespace elkit {

/// The goals with those that follow, and perhaps one more, chosen anew to suit the others.
static Goals followed(const Recipe& recipe, const Goals& goals, const std::set<std::string>& said,
                      const Environment& environment) {
    std::set<std::string> kept;
    for (const GoalInfo& goal : recipe.goals)
        if (!goal.follows || said.contains(goal.info.key)) kept.insert(goal.info.key);
    return recipe.complete ? recipe.complete(goals, kept, environment) : goals;
}

Result<Design> with_said(const Design& design, std::size_t block,
                         const std::map<std::string, ParamValue>& said) {
    if (block >= design.blocks.size() || !recipe_of(design.blocks[block]))
        return Error{Fault::design, "/blocks", "there is no such block", no_recipe};
    Goals goals = goals_of(design, design.blocks[block]);
    for (const auto& [key, value] : said) goals.values[key] = value;
    auto next = with_goals(design, block, goals);
    if (next) return next;
    const Recipe& recipe = *recipe_of(design.blocks[block]);
    const Environment environment = environment_of(design, design.blocks[block], {});
    std::set<std::string> keys;
    for (const auto& [key, value] : said) keys.insert(key);
    if (auto other = with_goals(design, block, followed(recipe, goals, keys, environment))) return other;
    for (const WayOut& way : ways_out(recipe, goals, environment))
        if (!said.contains(way.key)) {
            Goals another = goals;
            another.values[way.key] = way.value;
            if (auto other = with_goals(design, block, another)) return other;
            keys.insert(way.key);
            if (auto other = with_goals(design, block, followed(recipe, another, keys, environment)))
                return other;
            keys.erase(way.key);
        }
    return next;
}

}  // namespace elkit
