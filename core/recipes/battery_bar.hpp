#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// Lights that tell how full the cells are, one by one from empty to full: comparators against one reference,
/// along a ladder of resistors that divides the cells' volts.
Recipe battery_bar();

}  // namespace elkit
