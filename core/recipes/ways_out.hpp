#pragma once
#include <vector>

#include "recipes/recipe.hpp"

namespace elkit {

/// One goal set otherwise, with which a recipe takes hold.
struct WayOut {
    std::string key, label;  ///< "timer: CMOS"
    ParamValue value;
};

/// What would work where a recipe refuses its goals: every choice of one goal, and of one number the nearest
/// up and down that works, at most `most`. Choices come first. Empty if the goals can be met.
std::vector<WayOut> ways_out(const Recipe& recipe, const Goals& goals, const Environment& environment,
                             std::size_t most = 4);

}  // namespace elkit
