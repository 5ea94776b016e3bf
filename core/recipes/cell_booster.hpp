#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A blocking oscillator: two windings on one core, a transistor and a base resistor lift one cell to an LED.
Recipe cell_booster();

}  // namespace elkit
