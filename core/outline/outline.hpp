#pragma once
#include <string>
#include <string_view>
#include <utility>
#include <vector>

#include "quantity/result.hpp"

namespace elkit {

using Outline = std::vector<std::pair<double, double>>;  ///< mm, closed, x to the right, y down

/// What an SVG says of a face: its outline, and round holes that may be lights.
struct FaceDrawing {
    Outline outline;  ///< the closed shape of the largest area, with its corner at the origin
    struct Hole {
        std::string name;  ///< its id or data-ref; may be empty
        double x = 0, y = 0, diameter = 0;
    };
    std::vector<Hole> holes;  ///< circles inside it, from top to bottom and left to right
};

/// Reads paths, rectangles, circles, ellipses, polygons and polylines, with transforms of groups, curves to
/// 0.05 mm. True size from width and height with the viewBox; without units a pixel is 1/96 inch (CSS 2.2).
/// Usage error with the line: no XML, no closed shape, nested too deep, larger than 2 m, an unreadable path.
Result<FaceDrawing> read_face_svg(std::string_view svg);

/// "M0 0 L80 0 L80 60 Z", in mm to a hundredth.
std::string outline_text(const Outline& outline);
/// Reads it back; empty for an empty text. Design error for anything else.
Result<Outline> read_outline(std::string_view text);

double area_of(const Outline& outline);  ///< mm²
struct OutlineBox {
    double x0 = 1e9, y0 = 1e9, x1 = -1e9, y1 = -1e9;  ///< mm
};
OutlineBox box_around(const Outline& outline);  ///< turned inside out if it is empty
bool is_inside(const Outline& outline, double x, double y);

}  // namespace elkit
