#pragma once
#include "board/copper/layout.hpp"

namespace elkit {

/// Fills the corners where tracks meet lands that are smaller than usual, as far as the gap to other copper
/// allows.
void add_teardrops(CopperLayout& layout);

}  // namespace elkit
