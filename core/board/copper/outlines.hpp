#pragma once
#include <vector>

#include "board/copper/layout.hpp"
#include "outline/shapes.hpp"

namespace elkit {

/// Outlines with their upper left corner at 0, 0; curves in chords.
Ring rectangle_outline(double width, double height);
Ring rounded_outline(double width, double height);
Ring round_outline(double diameter);
/// One drawn as SVG path data, where it was drawn. Design error if it is none.
Result<Ring> drawn_outline(const std::string& path);

/// A hole of this diameter for a screw near each corner, with as much board around it as its head takes; none
/// if it is 0.
std::vector<PlainHole> corner_screws(const Ring& outline, double diameter, const Making& making);

}  // namespace elkit
