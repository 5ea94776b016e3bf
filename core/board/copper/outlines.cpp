#include "board/copper/outlines.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "outline/outline.hpp"

namespace elkit {
namespace {

constexpr int circle_chords = 96, corner_chords = 8;

/// From one direction to another about a middle, in radians; 0 points right, down is a quarter.
void add_arc(Ring& ring, Point middle, double radius, double from, double to, int chords) {
    for (int k = 0; k <= chords; ++k) {
        const double a = from + (to - from) * k / chords;
        ring.push_back(middle + Point{radius * std::cos(a), radius * std::sin(a)});
    }
}

}  // namespace

Ring rectangle_outline(double width, double height) {
    return {{0, 0}, {width, 0}, {width, height}, {0, height}};
}

Ring rounded_outline(double width, double height) {
    const double r = std::min({rounded_corner, width / 2, height / 2}), quarter = std::numbers::pi / 2;
    const std::array<Point, 4> middles{Point{width - r, r}, Point{width - r, height - r},
                                       Point{r, height - r}, Point{r, r}};
    Ring ring;
    for (std::size_t corner = 0; corner < 4; ++corner) {
        const double from = quarter * (static_cast<double>(corner) - 1);
        add_arc(ring, middles[corner], r, from, from + quarter, corner_chords);
    }
    return ring;
}

Ring round_outline(double diameter) {
    Ring ring;
    add_arc(ring, {diameter / 2, diameter / 2}, diameter / 2, 0, 2 * std::numbers::pi, circle_chords);
    ring.pop_back();  // where it began
    return ring;
}

Result<Ring> drawn_outline(const std::string& path) {
    const auto outline = read_outline(path);
    if (!outline) return outline.error();
    if (outline.value().size() < 3)
        return Error{Fault::design, "/board/outline", "no outline is drawn, neither here nor for the face",
                     "a face with a drawn outline, or SVG path data in mm, as M0 0 L40 0 L20 30 Z"};
    Ring ring;
    for (const auto& [x, y] : outline.value()) ring.push_back({x, y});
    const Box box = box_of(ring);
    for (Point& p : ring) p = p - Point{box.x0, box.y0};
    return ring;
}

std::vector<PlainHole> corner_screws(const Ring& outline, double diameter, const Making& making, bool round) {
    std::vector<PlainHole> holes;
    if (diameter <= 0) return holes;
    const Box box = box_of(outline);
    const double in = diameter + making.hole_edge,
                 diagonal = round ? 0.1464 : 0;  // 1/2 − 1/√8 of the diameter
    const double across = in + diagonal * box.x1, down = in + diagonal * box.y1;
    for (const double x : {across, box.x1 - across})
        for (const double y : {down, box.y1 - down}) holes.push_back({{x, y}, making.hole(diameter)});
    return holes;
}

}  // namespace elkit
