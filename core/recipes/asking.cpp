#include "recipes/asking.hpp"

#include "recipes/block_parts.hpp"
#include "recipes/ways_out.hpp"

namespace elkit {

/// The goals with those that follow chosen anew to suit the others.
static Goals followed(const Recipe& recipe, const Goals& goals, const std::set<std::string>& said,
                      const Environment& environment) {
    std::set<std::string> kept;
    for (const GoalInfo& goal : recipe.goals)
        if (!goal.follows || said.contains(goal.info.key)) kept.insert(goal.info.key);
    return recipe.complete ? recipe.complete(goals, kept, environment) : goals;
}

static std::set<std::string> keys_of(const std::map<std::string, ParamValue>& said) {
    std::set<std::string> keys;
    for (const auto& entry : said) keys.insert(entry.first);
    return keys;
}

Result<Design> with_followed(const Design& design, std::size_t block,
                             const std::map<std::string, ParamValue>& said) {
    if (block >= design.blocks.size() || !recipe_of(design.blocks[block]))
        return Error{Fault::design, "/blocks", "there is no such block", no_recipe};
    Goals goals = goals_of(design, design.blocks[block]);
    for (const auto& [key, value] : said) goals.values[key] = value;
    auto next = with_goals(design, block, goals);
    if (next) return next;
    const Recipe& recipe = *recipe_of(design.blocks[block]);
    const Environment environment = environment_of(design, design.blocks[block], {});
    auto other = with_goals(design, block, followed(recipe, goals, keys_of(said), environment));
    return other ? other : next;
}

Result<Design> with_said(const Design& design, std::size_t block,
                         const std::map<std::string, ParamValue>& said) {
    auto next = with_followed(design, block, said);
    if (next || block >= design.blocks.size() || !recipe_of(design.blocks[block])) return next;
    Goals goals = goals_of(design, design.blocks[block]);
    for (const auto& [key, value] : said) goals.values[key] = value;
    const Recipe& recipe = *recipe_of(design.blocks[block]);
    for (const WayOut& way : ways_out(recipe, goals, environment_of(design, design.blocks[block], {}))) {
        if (said.contains(way.key)) continue;
        auto more = said;
        more[way.key] = way.value;
        if (auto other = with_followed(design, block, more)) return other;
    }
    return next;
}

}  // namespace elkit
