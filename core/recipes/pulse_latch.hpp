#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// An NPN and a PNP transistor that hold each other on once a pulse has turned on the first.
Recipe pulse_latch();

}  // namespace elkit
