#pragma once
#include "board/board.hpp"
#include "board/holes/layout.hpp"
#include "quantity/progress.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// The strip board as a method of making boards.
BoardMethod strip_method();

/// The best of boards of several shapes, its strips along the rows. Bare straight links on the component side
/// join strips, insulated jumpers on the back where no straight way is free; cuts part them. Errors as of
/// best_layout().
Result<HoleLayout> lay_out_strips(const HoleParts& parts, const BoardChoices& choices,
                                  const Progress& progress = {});

/// Joins the strips of each net in place, and parts those of different nets: fills `wires` and `cuts` of a
/// layout whose parts are placed, with a hole to cut between any two nets on a strip. Nets that need an
/// insulated wire are tried before the others then, in so many orders at most.
void join_strips(HoleLayout& layout, const HoleParts& parts, int most_orders = 6);

}  // namespace elkit
