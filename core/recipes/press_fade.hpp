#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A press charges the capacitor at a MOSFET's gate; the lights die away as it empties.
Recipe press_fade();

}  // namespace elkit
