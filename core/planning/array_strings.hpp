#pragma once
#include "planning/arrays.hpp"

namespace elkit {

/// So many LEDs in strings of so many, the last string of what is left over: not yet sized.
Arrangement split_into(int count, int per_string);

/// The strings of an arrangement as real parts on their source, with the resistors that it has.
Circuit strings_on_source(const ArrayQuestion& question, const Arrangement& arrangement);

}  // namespace elkit
