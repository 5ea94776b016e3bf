#pragma once
#include <string_view>

#include "circuit/part.hpp"
#include "design/design.hpp"
#include "store/digest.hpp"

namespace elkit {

/// What the places and ways of a board depend on: parts with their kinds, footprints and nets, and what is
/// chosen for it. A resistor of another value in the same body lies as the first did.
Digest layout_key(std::string_view method, const Circuit& circuit, const BoardChoices& choices);

}  // namespace elkit
