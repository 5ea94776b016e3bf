#pragma once
#include "drawing/drawing.hpp"
#include "planning/grid_patterns.hpp"

namespace elkit {

/// A grid with the lights that are wished (full), those that then must be lit too (rings), and the rows and
/// columns that are closed. Made for a room in units. Refs: light:ROW,COLUMN, from 1.
Drawing draw_pattern(const GridPattern& wish, const PatternAnswer& answer, double width, double height);

/// "Rows 1, 3 and column 2 closed light it.", "… light 2 others too: … It takes a scan of 3 steps: …".
std::string pattern_text(const GridPattern& wish, const PatternAnswer& answer);

}  // namespace elkit
