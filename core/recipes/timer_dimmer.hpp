#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A light that a knob dims: a timer whose potentiometer divides the cycle between charging and discharging,
/// each through its own diode and end resistor. Errors as timer_flasher(); a capacitor that gives quite
/// another rate; a strip without a transistor.
Recipe timer_dimmer();

}  // namespace elkit
