#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A light that blinks: a timer as an astable, in one of three ways (plain, with steering diodes, from its
/// output). Errors of sizing: the supply is not the chip's; a share of the time that the way does not give;
/// timing resistors out of range; more current than the output gives.
Recipe timer_flasher();

}  // namespace elkit
