#include "board/copper/layout.hpp"

#include <algorithm>
#include <cmath>

namespace elkit {

Point CopperPart::pad(const Pad& p) const { return at + turned({p.x, p.y}, turn); }

Ring CopperPart::body() const {
    const Box& b = footprint.body;
    Ring ring;
    for (const Point corner : {Point{b.x0, b.y0}, Point{b.x1, b.y0}, Point{b.x1, b.y1}, Point{b.x0, b.y1}})
        ring.push_back(at + turned(corner, turn));
    return ring;
}

Box CopperPart::bounds() const { return box_of(body()); }

double CopperLayout::width() const {
    const Box b = box_of(outline);
    return outline.empty() ? 0 : b.x1 - b.x0;
}
double CopperLayout::height() const {
    const Box b = box_of(outline);
    return outline.empty() ? 0 : b.y1 - b.y0;
}
double CopperLayout::track_length() const {
    double sum = 0;
    for (const Track& t : tracks) sum += distance(t.a, t.b);
    return sum;
}

bool is_passed(const CopperLayout& l, const TrackPull& pull) {
    const int layer = pull.component_side && l.layers > 1 ? component_side : solder_side;
    return std::any_of(l.tracks.begin(), l.tracks.end(), [&](const Track& t) {
        return t.net == pull.net && t.layer == layer && distance({pull.x, pull.y}, t.a, t.b) < pull_reach;
    });
}

std::vector<CopperShape> copper_on(const CopperLayout& l, int layer) {
    std::vector<CopperShape> all;
    const auto round = [&](const std::string& net, std::string what, Point at, double land) {
        all.push_back({net, std::move(what), at, at, land, Region::disc(at, land)});
    };
    for (const CopperPad& p : l.pads) {
        if (!p.on(layer, l.making.plated)) continue;
        const std::string what = p.designator + (p.pin.empty() ? "" : " " + p.pin);
        if (p.square || p.surface())
            all.push_back({p.net, what, p.at, p.at, 0, p.copper()});
        else
            round(p.net, what, p.at, p.land);
    }
    for (const Track& t : l.tracks)
        if (t.layer == layer)
            all.push_back({t.net, "track", t.a, t.b, t.width, Region::stroke(t.a, t.b, t.width)});
    for (const Via& v : l.vias) round(v.net, "via", v.at, v.land);
    if (layer == solder_side)
        for (const WireLink& w : l.links)
            for (const Point end : {w.a, w.b}) round(w.net, "link", end, w.land);
    for (const Teardrop& d : l.teardrops)
        if (d.layer == layer)
            all.push_back({d.net, "teardrop", d.ring.front(), d.ring.front(), 0, Region::polygon(d.ring)});
    for (const CopperArea& a : l.areas)
        if (a.layer == layer) all.push_back({a.net, "area", {}, {}, 0, a.copper});
    return all;
}

Region board_region(const CopperLayout& l) {
    Region board = Region::polygon(l.outline);
    for (const PlainHole& h : l.holes) board = board.without(Region::disc(h.at, h.diameter));
    return board;
}

std::vector<DrilledHole> drilled_holes(const CopperLayout& l) {
    std::vector<DrilledHole> all;
    for (const CopperPad& p : l.pads)
        if (!p.surface()) all.push_back({p.at, p.hole, l.making.plated});
    for (const Via& v : l.vias) all.push_back({v.at, v.hole, l.making.plated});
    for (const WireLink& w : l.links)
        for (const Point end : {w.a, w.b}) all.push_back({end, w.hole, l.making.plated});
    for (const PlainHole& h : l.holes) all.push_back({h.at, h.diameter, false});
    return all;
}

std::string square_name(Point at) {
    const int column = std::max(0, static_cast<int>(std::floor(at.x / 2.54 + 1e-9))),
              row = std::max(0, static_cast<int>(std::floor(at.y / 2.54 + 1e-9)));
    std::string letters;
    for (int n = column; n >= 0; n = n / 26 - 1)
        letters.insert(letters.begin(), static_cast<char>('A' + n % 26));
    return letters + std::to_string(row + 1);
}

}  // namespace elkit
