#pragma once
#include <vector>

#include "board/copper/layout.hpp"

namespace elkit {

/// Lands of parts that are placed: as much copper around a hole as is usual, less where legs are close; what
/// lies on the surface as its footprint says.
std::vector<CopperPad> pads_of(const std::vector<CopperPart>& parts, const Making& making);
double land_of(const Making& making, double hole);  ///< mm, as is usual

/// Widens a box by a pad of a footprint that is turned about its first pad, which lies at a place: by its
/// land on the surface, or by so much around its hole; and so much more.
void widen_by_pad(Box& box, const Pad& pad, Point at, double turn, double around_hole, double more);

}  // namespace elkit
