#pragma once
#include <string>
#include <vector>

#include "design/design.hpp"
#include "recipes/recipe.hpp"

/// What the files of blocks.hpp share.
namespace elkit {

inline constexpr const char* no_recipe = "a design with a block of a recipe";  ///< what errors expect

const Recipe* recipe_of(const Block& block);  ///< nullptr if this version does not know it

/// Whether the part of this name in the recipe says a goal: L1 and L2 of "L".
bool says(const GoalInfo& goal, const std::string& local);
/// Designators of the parts that say a goal, in the order of the recipe's names.
std::vector<std::string> mirrors_of(const Block& block, const GoalInfo& goal);
/// A parameter as it stands: the part's own or its kind's usual one.
ParamValue standing(const Part& part, const std::string& key);

/// What a block's recipe builds on: values of the drawer, and the source where its goals cannot say that.
Environment environment_of(const Design& design, const Block& block, Environment drawer);

/// How Block::by_hand names a number and a pin.
std::string hand_key(const std::string& designator, const std::string& param);
std::string hand_pin(const std::string& designator, const std::string& pin);

/// A goal within what is declared; the standard in place of what is not.
ParamValue tidied(const GoalInfo& goal, const ParamValue& value);
/// Usage error for a goal that is missing, of the wrong type or outside what is declared.
Result<void> check_goals(const Recipe& recipe, const Goals& goals);

}  // namespace elkit
