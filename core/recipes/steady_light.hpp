#pragma once
#include "recipes/recipe.hpp"

namespace elkit {

/// Cells → switch → resistor → LEDs in strings. Errors of sizing: cell or LED unknown, nothing left for the
/// resistor, the drawer without a value.
Recipe steady_light();

/// How LEDs split into strings: full strings of `per_string` and one remainder.
std::vector<int> string_lengths(int count, int per_string);

}  // namespace elkit
