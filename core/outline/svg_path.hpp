#pragma once
#include <string_view>
#include <vector>

#include "outline/outline.hpp"

namespace elkit {

/// The closed and open lines of SVG path data in its own units, curves broken into chords no farther from
/// them than `flatness`. SVG 1.1, chapter 8: M L H V C S Q T A Z, absolute and relative. Usage error that
/// shows where it cannot be read.
Result<std::vector<Outline>> lines_of_path(std::string_view data, double flatness);

/// Chords of a full ellipse.
Outline ellipse(double cx, double cy, double rx, double ry, double flatness);

}  // namespace elkit
