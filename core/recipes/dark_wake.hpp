#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// Lights that come on in the dark: a sensor in a divider at a MOSFET, at two transistors or at a comparator.
Recipe dark_wake();

}  // namespace elkit
