// Copper where a track meets a land that is smaller than usual: a little off the middle, the drill would cut
// it off.
#include "board/copper/teardrops.hpp"

#include <algorithm>
#include <cmath>

#include "board/copper/pads.hpp"

namespace elkit {
namespace {

constexpr double reach = 1.2;   // mm from the rim of the land along the track
constexpr double spread = 0.9;  // of the land's radius, to both sides

/// From the land's widest to the track's width.
Ring drop(const CopperPad& pad, const Track& t, Point along) {
    const double r = spread * pad.land / 2, length = std::min(pad.land / 2 + reach, distance(t.a, t.b));
    const Point across{-along.y, along.x};
    const Point tip = pad.at + Point{along.x * length, along.y * length};
    const double half = t.width / 2;
    return {pad.at + Point{across.x * r, across.y * r}, tip + Point{across.x * half, across.y * half},
            tip - Point{across.x * half, across.y * half}, pad.at - Point{across.x * r, across.y * r}};
}

}  // namespace

void add_teardrops(CopperLayout& l) {
    l.teardrops.clear();
    std::vector<std::vector<CopperShape>> copper;
    copper.reserve(static_cast<std::size_t>(l.layers));
    for (int layer = 0; layer < l.layers; ++layer) copper.push_back(copper_on(l, layer));
    const auto fits = [&](const Region& region, const std::string& net, int layer) {
        const Region near = region.grown(l.making.gap);
        const Box box = near.bounds();
        return std::none_of(copper[static_cast<std::size_t>(layer)].begin(),
                            copper[static_cast<std::size_t>(layer)].end(), [&](const CopperShape& s) {
                                return s.net != net && s.region.bounds().overlaps(box) &&
                                       s.region.touches(near);
                            });
    };
    for (const CopperPad& pad : l.pads) {
        if (pad.surface() || pad.net.empty() || pad.land > land_of(l.making, pad.hole) - 0.05) continue;
        for (const Track& t : l.tracks) {
            const bool from_a = distance(t.a, pad.at) < 1e-6, from_b = distance(t.b, pad.at) < 1e-6;
            const double length = distance(t.a, t.b);
            if (t.net != pad.net || (!from_a && !from_b) || length < 0.3 || t.width > spread * pad.land ||
                !pad.on(t.layer, l.making.plated))
                continue;
            const Point to = from_a ? t.b : t.a;
            const Point along{(to.x - pad.at.x) / length, (to.y - pad.at.y) / length};
            Ring ring = drop(pad, t, along);
            if (fits(Region::polygon(ring), pad.net, t.layer))
                l.teardrops.push_back({pad.net, t.layer, std::move(ring)});
        }
    }
}

}  // namespace elkit
