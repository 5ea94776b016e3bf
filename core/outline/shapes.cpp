#include "outline/shapes.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace elkit {
namespace {

constexpr int circle_chords = 96, corner_chords = 8;

/// From one direction to another about a middle, in radians; 0 points right, down is a quarter.
void add_arc(Outline& outline, double x, double y, double radius, double from, double to, int chords) {
    for (int k = 0; k <= chords; ++k) {
        const double a = from + (to - from) * k / chords;
        outline.emplace_back(x + radius * std::cos(a), y + radius * std::sin(a));
    }
}

}  // namespace

Outline rectangle_shape(double width, double height) {
    return {{0, 0}, {width, 0}, {width, height}, {0, height}};
}

Outline rounded_shape(double width, double height) {
    const double r = std::min({rounded_corner, width / 2, height / 2}), quarter = std::numbers::pi / 2;
    const Outline middles{{width - r, r}, {width - r, height - r}, {r, height - r}, {r, r}};
    Outline outline;
    for (std::size_t corner = 0; corner < middles.size(); ++corner) {
        const double from = quarter * (static_cast<double>(corner) - 1);
        add_arc(outline, middles[corner].first, middles[corner].second, r, from, from + quarter,
                corner_chords);
    }
    return outline;
}

Outline round_shape(double diameter) {
    Outline outline;
    add_arc(outline, diameter / 2, diameter / 2, diameter / 2, 0, 2 * std::numbers::pi, circle_chords);
    outline.pop_back();  // where it began
    return outline;
}

Outline corner_places(const Outline& outline, double within) {
    const auto [x0, y0, x1, y1] = box_around(outline);
    constexpr int steps = 200;
    Outline places;
    for (const double cx : {x0 + within, x1 - within})
        for (const double cy : {y0 + within, y1 - within}) {
            places.emplace_back(cx, cy);
            for (int k = 0; k < steps; ++k) {
                const double t = static_cast<double>(k) / steps;
                const double x = cx + t * ((x0 + x1) / 2 - cx), y = cy + t * ((y0 + y1) / 2 - cy);
                if (!is_inside(outline, x, y) || to_rim(outline, x, y) < within - 1e-9) continue;
                places.back() = {x, y};
                break;
            }
        }
    return places;
}

double to_rim(const Outline& outline, double x, double y) {
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t k = 0; k < outline.size(); ++k) {
        const auto& [ax, ay] = outline[k];
        const auto& [bx, by] = outline[(k + 1) % outline.size()];
        const double dx = bx - ax, dy = by - ay, length = dx * dx + dy * dy;
        const double t = length > 0 ? std::clamp(((x - ax) * dx + (y - ay) * dy) / length, 0.0, 1.0) : 0;
        least = std::min(least, std::hypot(x - ax - t * dx, y - ay - t * dy));
    }
    return least;
}

}  // namespace elkit
