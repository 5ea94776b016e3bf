#pragma once
#include <string>
#include <vector>

#include "board/board.hpp"
#include "drawing/drawing.hpp"

namespace elkit {

/// A board on paper, A4 in mm: both sides at true size and large, what is to be done before and while parts
/// go in, its wires. What differs from the circuit stands first.
std::vector<Drawing> board_sheet(const Board& board, const std::string& name);

}  // namespace elkit
