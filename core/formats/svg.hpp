#pragma once
#include <string>

#include "drawing/drawing.hpp"

namespace elkit {

/// The drawing as an SVG 1.1 document on white paper, at its true size in mm; every item that stands for
/// something is inside a group with data-ref.
std::string write_svg(const Drawing& drawing);

/// Colour of an ink on paper, 0xRRGGBB.
unsigned paper_colour(Ink ink, unsigned rgb);

}  // namespace elkit
