#pragma once
#include <vector>

#include "board/copper/layout.hpp"

namespace elkit {

inline constexpr double rounded_corner = 3;  ///< mm, radius

/// Outlines with their upper left corner at 0, 0; curves in chords.
Ring rectangle_outline(double width, double height);
Ring rounded_outline(double width, double height);
Ring round_outline(double diameter);
/// One drawn as SVG path data. Design error if it is none.
Result<Ring> drawn_outline(const std::string& path);

/// A hole of this diameter for a screw in each corner, or on the diagonals of a round board, with as much
/// board around it as its head takes; none if it is 0.
std::vector<PlainHole> corner_screws(const Ring& outline, double diameter, const Making& making, bool round);

}  // namespace elkit
