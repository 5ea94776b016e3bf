#include "board/copper/outlines.hpp"

#include "outline/shapes.hpp"

namespace elkit {
namespace {

Ring ring_of(const Outline& outline) {
    Ring ring;
    for (const auto& [x, y] : outline) ring.push_back({x, y});
    return ring;
}

}  // namespace

Ring rectangle_outline(double width, double height) { return ring_of(rectangle_shape(width, height)); }
Ring rounded_outline(double width, double height) { return ring_of(rounded_shape(width, height)); }
Ring round_outline(double diameter) { return ring_of(round_shape(diameter)); }

Result<Ring> drawn_outline(const std::string& path) {
    const auto outline = read_outline(path);
    if (!outline) return outline.error();
    if (outline.value().size() < 3)
        return Error{Fault::design, "/board/outline", "no outline is drawn, neither here nor for the face",
                     "a face with a drawn outline, or SVG path data in mm, as M0 0 L40 0 L20 30 Z"};
    return ring_of(outline.value());
}

std::vector<PlainHole> corner_screws(const Ring& outline, double diameter, const Making& making) {
    Outline shape;
    for (const Point p : outline) shape.emplace_back(p.x, p.y);
    std::vector<PlainHole> holes;
    if (diameter <= 0) return holes;
    for (const auto& [x, y] : corner_places(shape, diameter + making.hole_edge))
        holes.push_back({{x, y}, making.hole(diameter)});
    return holes;
}

}  // namespace elkit
