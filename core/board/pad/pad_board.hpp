#pragma once
#include <cstddef>
#include <optional>

#include "board/board.hpp"
#include "board/holes/layout.hpp"
#include "board/pad/top_side.hpp"
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
struct Routing {
    RouteEffort effort = RouteEffort::thorough;
    std::size_t worth_sparing = 1U << 20U;  ///< of more wires than these at first sight none is spared
    std::optional<TopSide> top{};           ///< where bare links may lie; without it there are only jumpers
};
/// Joins the pads of each net in place: fills `bridges` and `wires` of a layout whose parts are placed.
void route_board(HoleLayout& layout, const Routing& how = {});

/// What ends where it was pulled to goes on from there to another part of its net, where there is a way, and
/// the run that it is another way for goes: a pulled joint passes its place.
void pass_through(HoleLayout& layout);

}  // namespace elkit
