#pragma once
#include "design/design.hpp"
#include "recipes/recipe.hpp"

namespace elkit {

/// A light that comes on below a voltage of the supply: a comparator holds a divider of the supply against
/// two diodes in their forward direction, which hardly follow it. With feedback over a large resistor it
/// stays steady at the threshold: V falling = V ref (G1 + G2 + Gh)/(G1 + Gh), V rising = V ref (G1 + G2 +
/// Gh)/G1. Errors of sizing: cell or LED unknown, more volts than a comparator bears, too few for the light.
Recipe low_battery();

inline constexpr const char* low_battery_recipe = "low-battery";

/// The design with such a light, for these volts rounded to a tenth. Errors as with_block().
Result<Design> with_low_battery_light(const Design& design, double volts);

}  // namespace elkit
