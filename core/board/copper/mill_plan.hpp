#pragma once
#include <vector>

#include "board/copper/layout.hpp"

namespace elkit {

/// What a mill does on one side of a board, in mm seen from the component side.
struct MillPlan {
    /// Closed ways of the tool's middle around the copper: each pass around the one before.
    std::vector<std::vector<Ring>> passes;
    std::vector<Ring> clearing;             ///< of the wider tool, over copper that joins nothing
    std::vector<std::vector<Point>> words;  ///< open lines of the first tool, in copper that joins nothing
    double width = 0, clearing_width = 0;   ///< what the tools cut
    std::vector<Ring> isolation() const;    ///< all passes
};
MillPlan mill_plan(const CopperLayout& layout, int layer, bool clear = false);

/// The copper that is left once these ways are milled with tools of these widths, on a blank that is larger
/// than the board, within the outline.
Region copper_left(const CopperLayout& layout, const MillPlan& plan);

/// What a mill makes of the layout, layer by layer: milled boards only.
std::vector<Region> copper_left(const CopperLayout& layout);

}  // namespace elkit
