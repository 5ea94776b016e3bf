#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// Matrices of 8 × 8 lights in a chain show pictures one after the other; a small controller, or what is
/// outside, sends them. A converter makes 5 V of a supply that does not suit them.
Recipe picture_board();

}  // namespace elkit
