#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// A touch module lights lights: while touched or from touch to touch, its output high or low then, straight
/// or through a transistor.
Recipe touch_light();

}  // namespace elkit
