#pragma once
#include "board/board.hpp"
#include "kit/page_writer.hpp"

namespace elkit {

/// Both sides at true size, and large where that helps; before them what differs from the circuit, if
/// anything.
void write_boards(PageWriter& w, const Board& board);

}  // namespace elkit
