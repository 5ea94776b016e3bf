#pragma once
#include <string>

#include "board/board.hpp"
#include "board/holes/layout.hpp"

namespace elkit {

/// Sawing or breaking the board out of a sheet.
/// Holes that a board is longer and wider than one as it is bought.
int beyond_sheet(const HoleLayout& layout);
BoardWork cut_out(const HoleLayout& layout, const std::string& what, const std::string& how);
/// One for each wire, numbered.
void add_wire_works(Board& board, const HoleLayout& layout);
/// The share of a sheet of 100 × 160 mm that one board takes, whichever way round.
/// What a board of holes takes: joints, wires and cuts made by hand.
Board::Effort effort_of(const HoleLayout& layout);

BoardMaterial sheet_share(const Board& board, const std::string& key, const std::string& name);

/// "1 jumper", "2 jumpers".
std::string counted(std::size_t count, const std::string& what);

}  // namespace elkit
