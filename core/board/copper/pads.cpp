// Where parts are soldered.
#include "board/copper/pads.hpp"

#include <algorithm>
#include <cmath>

#include "circuit/part_kind.hpp"

namespace elkit {

bool CopperPad::on(int layer, bool plated) const {
    return surface() ? layer == component_side : plated || layer == solder_side;
}

Ring CopperPad::corners(double more) const {
    const double w = (surface() ? width : land) / 2 + more, h = (surface() ? height : land) / 2 + more;
    Ring ring;
    for (const Point corner : {Point{-w, -h}, Point{w, -h}, Point{w, h}, Point{-w, h}})
        ring.push_back(at + turned(corner, surface() ? turn : 0));
    return ring;
}

Region CopperPad::copper(double more) const {
    return surface() || square ? Region::polygon(corners(more)) : Region::disc(at, land + 2 * more);
}

double CopperPad::from(Point a, Point b) const {
    if (!surface() && !square) return std::max(0.0, distance(at, a, b) - land / 2);
    const double w = (surface() ? width : land) / 2, h = (surface() ? height : land) / 2,
                 back = surface() ? -turn : 0;
    const Point p = turned(a - at, back), q = turned(b - at, back);
    const auto inside = [&](Point o) { return std::abs(o.x) <= w && std::abs(o.y) <= h; };
    if (inside(p) || inside(q)) return 0;
    const Ring ring{{-w, -h}, {w, -h}, {w, h}, {-w, h}};
    double least = 1e9;
    for (std::size_t k = 0; k < 4; ++k) least = std::min(least, distance(p, q, ring[k], ring[(k + 1) % 4]));
    return least;
}

double land_of(const Making& making, double hole) { return hole + 2 * making.land_ring; }

std::vector<CopperPad> pads_of(const std::vector<CopperPart>& parts, const Making& making) {
    std::vector<CopperPad> all;
    for (const CopperPart& p : parts) {
        const PartKind* kind = part_kind(p.part->kind);
        const auto& pads = p.footprint.pads;
        double nearest = 1e9;
        for (std::size_t i = 0; i < pads.size(); ++i)
            for (std::size_t k = 0; k < i; ++k)
                nearest = std::min(nearest, std::hypot(pads[i].x - pads[k].x, pads[i].y - pads[k].y));
        const double hole = making.hole(p.footprint.drill);
        const double most = std::max(nearest - making.gap - 0.1, hole + 2 * making.ring);
        const bool marked = making.plated && kind && (kind->polarised || pads.size() > 2);
        for (std::size_t k = 0; k < pads.size(); ++k) {
            CopperPad pad{p.part->designator, pads[k].pin,
                          pads[k].pin.empty() ? std::string() : p.part->net(pads[k].pin), p.pad(pads[k])};
            if (p.footprint.surface) {
                pad.width = pads[k].width, pad.height = pads[k].height, pad.turn = p.turn;
                pad.land = std::max(pad.width, pad.height);
            } else {
                pad.hole = hole, pad.land = std::min(land_of(making, hole), most);
                pad.square = k == 0 && marked;
            }
            all.push_back(std::move(pad));
        }
    }
    return all;
}

void widen_by_pad(Box& box, const Pad& pad, Point at, double turn, double around_hole, double more) {
    if (pad.width <= 0) return widen(box, at + turned({pad.x, pad.y}, turn), around_hole + more);
    for (const double sx : {-0.5, 0.5})
        for (const double sy : {-0.5, 0.5})
            widen(box, at + turned({pad.x + sx * pad.width, pad.y + sy * pad.height}, turn), more);
}

}  // namespace elkit
