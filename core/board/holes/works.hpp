#pragma once
#include <string>

#include "board/board.hpp"
#include "board/holes/layout.hpp"

namespace elkit {

/// Holes that a board is longer and wider than one as it is bought.
int beyond_sheet(const HoleLayout& layout);
/// Sawing or breaking the board out of a sheet.
BoardWork cut_out(const HoleLayout& layout, const std::string& what, const std::string& how);
/// What of it is sawn to a shape, and drilled for screws.
void add_shape_works(Board& board, const HoleLayout& layout);
/// One for each wire, numbered.
void add_wire_works(Board& board, const HoleLayout& layout);
/// Lights that stand where the face has them are leaned into its holes; nothing if there are none.
void add_face_work(Board& board, const HoleParts& parts);
/// What a board of holes takes: joints, wires and cuts made by hand.
Board::Effort effort_of(const HoleLayout& layout);
/// The share of a sheet of 100 × 160 mm that one board takes, whichever way round.
BoardMaterial sheet_share(const Board& board, const std::string& key, const std::string& name);

/// "1 jumper", "2 jumpers".
std::string counted(std::size_t count, const std::string& what);

}  // namespace elkit
