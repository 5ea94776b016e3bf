// From ways on the grid to tracks, as wide as there is room.
#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "board/copper/router.hpp"

namespace elkit {
namespace {

constexpr double piece_length = 2.0;  // mm of a track whose width is looked at by itself
constexpr double step_of_width = 0.1;

/// Straight runs of a way's nodes on one layer.
void add_straights(CopperLayout& l, const RouteGrid& grid, const std::string& net,
                   const CopperRouter::Way& way) {
    const auto direction = [&](std::size_t k) {
        return std::pair(grid.column_of(way[k]) - grid.column_of(way[k - 1]),
                         grid.row_of(way[k]) - grid.row_of(way[k - 1]));
    };
    for (std::size_t k = 0; k + 1 < way.size();) {
        const int layer = grid.layer_of(way[k]);
        if (grid.layer_of(way[k + 1]) != layer) {
            ++k;
            continue;
        }
        std::size_t end = k + 1;
        while (end + 1 < way.size() && grid.layer_of(way[end + 1]) == layer &&
               direction(end + 1) == direction(k + 1))
            ++end;
        const Point a = grid.point(way[k]), b = grid.point(way[end]);
        if (grid.is_link(layer))
            l.links.push_back({net, a, b, grid.hole_diameter(), grid.land_diameter()});
        else
            l.tracks.push_back({net, a, b, grid.track_width(), layer});
        k = end;
    }
}

void add_vias(CopperLayout& l, const RouteGrid& grid, const std::string& net, const CopperRouter::Way& way) {
    for (std::size_t k = 1; k < way.size(); ++k) {
        const int a = grid.layer_of(way[k - 1]), b = grid.layer_of(way[k]);
        if (a == b || grid.is_link(a) || grid.is_link(b)) continue;
        const Point at = grid.point(way[k]);
        if (std::none_of(l.vias.begin(), l.vias.end(), [&](const Via& v) { return v.at == at; }))
            l.vias.push_back({net, at, grid.hole_diameter(), grid.land_diameter()});
    }
}

/// From the node in a pad's land to its middle.
void reach_middles(CopperLayout& l, const RouteGrid& grid) {
    const auto tracks = l.tracks;
    for (const CopperPad& pad : l.pads) {
        if (pad.net.empty()) continue;
        const Point node = grid.point(grid.nodes_of(pad).front());
        if (distance(node, pad.at) < 1e-6) continue;
        std::set<int> layers;
        for (const Track& t : tracks)
            if (t.net == pad.net && distance(node, t.a, t.b) < 1e-6) layers.insert(t.layer);
        for (const int layer : layers)
            if (pad.on(layer, l.making.plated))
                l.tracks.push_back({pad.net, node, pad.at, grid.track_width(), layer});
    }
}

/// False if these are further from each other than `reach`, along an axis already.
bool near(const Track& a, const Track& b, double reach) {
    return std::min(a.a.x, a.b.x) - reach < std::max(b.a.x, b.b.x) &&
           std::min(b.a.x, b.b.x) - reach < std::max(a.a.x, a.b.x) &&
           std::min(a.a.y, a.b.y) - reach < std::max(b.a.y, b.b.y) &&
           std::min(b.a.y, b.b.y) - reach < std::max(a.a.y, a.b.y);
}

void widen(CopperLayout& l, double width) {
    std::vector<Track> pieces;
    for (const Track& t : l.tracks) {
        const int count = std::max(1, static_cast<int>(std::ceil(distance(t.a, t.b) / piece_length - 1e-9)));
        for (int k = 0; k < count; ++k) {
            const auto at = [&](int i) {
                return Point{t.a.x + (t.b.x - t.a.x) * i / count, t.a.y + (t.b.y - t.a.y) * i / count};
            };
            pieces.push_back({t.net, at(k), at(k + 1), t.width, t.layer});
        }
    }
    for (Track& t : pieces) {
        double room = 1e9;
        for (const Track& o : pieces)
            if (o.layer == t.layer && o.net != t.net && near(t, o, width / 2 + o.width / 2 + l.making.gap))
                room = std::min(room, distance(t.a, t.b, o.a, o.b) - o.width / 2 - l.making.gap);
        for (const CopperPad& p : l.pads) {
            if (p.net == t.net || (p.surface() && t.layer != component_side)) continue;
            const double clear =
                p.on(t.layer, l.making.plated) ? p.from(t.a, t.b) : distance(p.at, t.a, t.b) - p.hole / 2;
            room = std::min(room, clear - l.making.gap);
        }
        for (const Via& v : l.vias)
            if (v.net != t.net) room = std::min(room, distance(v.at, t.a, t.b) - v.land / 2 - l.making.gap);
        for (const WireLink& w : l.links)
            if (w.net != t.net)
                for (const Point end : {w.a, w.b})
                    room = std::min(room, distance(end, t.a, t.b) - w.land / 2 - l.making.gap);
        for (const PlainHole& h : l.holes)
            room = std::min(room, distance(h.at, t.a, t.b) - h.diameter / 2 - l.making.copper_edge);
        for (std::size_t k = 0; k < l.outline.size(); ++k)
            room = std::min(room, distance(t.a, t.b, l.outline[k], l.outline[(k + 1) % l.outline.size()]) -
                                      l.making.copper_edge);
        const double most = step_of_width * std::floor(2 * room / step_of_width + 1e-6);
        t.width = std::max(t.width, std::min(width, most));
    }
    // pieces of a line that became equally wide are one track again
    l.tracks.clear();
    for (const Track& t : pieces) {
        if (!l.tracks.empty()) {
            Track& last = l.tracks.back();
            const bool straight = distance(last.b, last.a, t.b) < 1e-6;
            if (last.net == t.net && last.layer == t.layer && last.width == t.width && last.b == t.a &&
                straight) {
                last.b = t.b;
                continue;
            }
        }
        l.tracks.push_back(t);
    }
}

}  // namespace

void lay_tracks(CopperLayout& l, const CopperRouter& router, double width) {
    l.tracks.clear(), l.vias.clear(), l.links.clear();
    for (const CopperRouter::Found& net : router.found())
        for (const CopperRouter::Way& way : net.ways) {
            add_straights(l, router.grid(), net.net, way);
            add_vias(l, router.grid(), net.net, way);
        }
    reach_middles(l, router.grid());
    widen(l, width);
}

}  // namespace elkit
