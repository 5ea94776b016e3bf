#include "board/copper/pour.hpp"

#include <algorithm>

namespace elkit {
namespace {

constexpr double chords = 0.02;  // mm that circles lie outside of their chords, on both sides of a gap
constexpr double moat = 0.5;     // mm around a pad of its own net, between the spokes

}  // namespace

CopperArea poured(const CopperLayout& l, const std::string& net, int layer) {
    const Making& m = l.making;
    std::vector<Region> others, own, moats, spokes;
    for (const CopperShape& s : copper_on(l, layer)) {
        if (s.net != net || s.net.empty())
            others.push_back(s.region.grown(m.gap + chords));
        else
            own.push_back(s.region);
    }
    for (const CopperPad& p : l.pads) {
        if (p.surface() && layer != component_side) continue;
        if (p.net != net || net.empty()) {  // its leg is there on a layer where it has no land too
            if (!p.surface()) others.push_back(Region::disc(p.at, p.hole + 2 * m.gap));
            continue;
        }
        const double around = std::max(moat, m.gap);
        moats.push_back(p.copper(around));
        for (const Point way : {Point{1, 0}, Point{0, 1}}) {
            const double half = (!p.surface() ? p.land : way.x > 0 ? p.width : p.height) / 2;
            const Point out = turned(way, p.surface() ? p.turn : 0);
            const double r = half + around + 0.2;
            spokes.push_back(Region::stroke({p.at.x - out.x * r, p.at.y - out.y * r},
                                            {p.at.x + out.x * r, p.at.y + out.y * r},
                                            std::max(m.track_least, 0.4)));
        }
    }
    for (const KeepOut& k : l.keep_out)
        others.push_back(Region::box(k.x, k.y, k.x + k.width, k.y + k.height));
    const Region room = board_region(l).grown(-m.copper_edge - 0.005).without(Region::united(others));
    Region copper = room.without(Region::united(moats)).with(Region::united(spokes).within(room));
    const double thin = m.track_least / 2 - 0.01;
    copper = copper.grown(-thin).grown(thin).within(copper);  // opens: what is thinner goes
    std::vector<Region> kept;
    const Region mine = Region::united(own);
    for (Region& piece : copper.pieces())
        if (piece.touches(mine)) kept.push_back(std::move(piece));
    return {net, layer, Region::united(kept)};
}

}  // namespace elkit
