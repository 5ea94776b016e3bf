#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A small controller that looks at a thermistor now and then, and shines where it is too cold or too warm.
Recipe warmth_watch();

}  // namespace elkit
