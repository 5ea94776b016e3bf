#pragma once
#include <vector>

#include "batch/parts_list.hpp"
#include "board/pad_board.hpp"
#include "build/steps.hpp"
#include "design/design.hpp"

namespace elkit {

/// The kit leaflet as A4 pages (210 × 297 mm): the stave, parts with their colour bands to tick, the board
/// from both sides at 1:1, the steps with their cautions, and the readings to expect. `stave` is drawn from
/// fresh cells.
std::vector<Drawing> leaflet_pages(const Design& design, const Drawing& stave, const PadLayout& layout,
                                   const std::vector<BuildStep>& steps, const PartsList& parts);

}  // namespace elkit
