#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A plain astable whose second resistor is a sensor, through which it charges and discharges: it blinks
/// faster the warmer, or the brighter, it is.
Recipe warmth_flasher();
Recipe light_flasher();

}  // namespace elkit
