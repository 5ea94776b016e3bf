#pragma once
#include "board/board.hpp"
#include "board/copper/layout.hpp"

namespace elkit {

/// A way of making boards of copper, one of makings(), as a method of making boards.
BoardMethod copper_method(const std::string& id);

/// What any board has, of a finished layout; what differs, what breaks a rule and what found no way stands in
/// `differences`.
Board board_of(const CopperLayout& layout, const Circuit& circuit);

}  // namespace elkit
