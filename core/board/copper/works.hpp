#pragma once
#include "board/board.hpp"
#include "board/copper/layout.hpp"

namespace elkit {

/// What is to be done and bought for a board of copper, by how it is made.
void add_copper_works(Board& board, const CopperLayout& layout);

}  // namespace elkit
