#pragma once
#include "board/board.hpp"
#include "board/copper/layout.hpp"

namespace elkit {

/// mm of copper from pad to pad of one net: along tracks, vias and links; straight where an area of the net
/// lies on the board. Infinite where no way joins them.
double copper_length(const CopperLayout& layout, const CopperPad& from, const CopperPad& to);

inline constexpr double supply_reach = 8;  ///< mm of copper from a chip to its capacitor; bench practice

/// For each chip that has a capacitor across its supply: the nearest of them, by the longer of its two ways.
std::vector<SupplyPath> supply_paths(const CopperLayout& layout);

}  // namespace elkit
