#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A computer or controller board that switches lamps by relay modules or transistors: one after the other,
/// to the next at a press, or all at once. The lamps run from the supply, the board from 5 V of it.
Recipe lamp_switcher();

}  // namespace elkit
