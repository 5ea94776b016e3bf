#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A light that is on for a time after a press: a timer as a one shot. Errors as timer_flasher().
Recipe timer_one_shot();

/// A light that one button turns on and another off: a timer as a memory of one bit.
Recipe timer_set_reset();

}  // namespace elkit
