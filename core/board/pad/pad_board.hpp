#pragma once
#include "board/board.hpp"
#include "board/holes/layout.hpp"
#include "quantity/progress.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// The pad board as a method of making boards.
BoardMethod pad_method();

/// The best of boards of several shapes, equal strings of lights as equal columns. Solder bridges join, and
/// where there is no way through, insulated wire jumpers. Errors as of best_layout().
Result<HoleLayout> lay_out_pads(const HoleParts& parts, const BoardChoices& choices,
                                const Progress& progress = {});

/// Quick is for the many boards that are only compared.
enum class RouteEffort { quick, thorough };
/// Joins the pads of each net in place: fills `bridges` and `wires` of a layout whose parts are placed. Of
/// more jumpers than `worth_sparing` at first sight none is spared.
void route_board(HoleLayout& layout, RouteEffort effort = RouteEffort::thorough,
                 std::size_t worth_sparing = 1U << 20U);

}  // namespace elkit
