#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// Lights at the pins of a small controller that fade, chase, flicker or go through colours by its table.
Recipe pattern_lights();

}  // namespace elkit
