#include "board/copper/route_grid.hpp"

#include <algorithm>
#include <cmath>
#include <map>

namespace elkit {
namespace {

constexpr double link_wire = 0.6, link_clear = 0.5;  // mm of a bare wire, and around it
constexpr double via_hole_plated = 0.5;              // mm
constexpr double eps = 1e-6;

}  // namespace

RouteGrid::RouteGrid(const CopperLayout& l, const std::vector<std::string>& nets, double width)
    : width_(width), gap_(l.making.gap), plated_(l.making.plated) {
    const Box frame = box_of(l.outline);
    x0_ = frame.x0, y0_ = frame.y0;
    columns_ = static_cast<int>(std::floor((frame.x1 - frame.x0) / pitch + eps)) + 1;
    rows_ = static_cast<int>(std::floor((frame.y1 - frame.y0) / pitch + eps)) + 1;
    copper_ = l.layers;
    layers_ = copper_ + (l.making.links && copper_ == 1 ? 2 : 0);
    hole_ = l.making.hole(l.making.plated ? via_hole_plated : 0.8);
    land_ = hole_ + 2 * (l.making.plated ? std::max(l.making.ring, 0.25) : l.making.land_ring);
    apart_ = static_cast<int>(std::ceil((hole_ + l.making.hole_gap) / pitch - 1e-9)) - 1;
    const std::size_t all = nodes() * static_cast<std::size_t>(layers_);
    for (const Width w : {track, land}) allowed_[w].assign(all, free_for_all), crowd_[w].assign(all, 0);
    no_hole_.assign(nodes(), false), marked_.assign(all, 0);
    places_.reserve(all);
    for (int layer = 0; layer < layers_; ++layer)
        for (int r = 0; r < rows_; ++r)
            for (int c = 0; c < columns_; ++c)
                places_.push_back({static_cast<std::int16_t>(c), static_cast<std::int16_t>(r),
                                   static_cast<std::int16_t>(layer)});
    block_outline(l);
    block_pads(l, nets);
    block_bodies(l);
    find_reaches();
}

double RouteGrid::half(Width w, int layer) const {
    return (is_link(layer) ? link_wire : w == track ? width_ : land_) / 2;
}

RouteGrid::Offsets RouteGrid::within(double radius, double beside) {
    Offsets all;
    const int most = static_cast<int>(std::ceil(radius / pitch)) + 1;
    for (int r = -most; r <= most; ++r)
        for (int c = -most; c <= most; ++c)
            if (pitch * distance({double(c), double(r)}, {beside, beside}) < radius - eps)
                all.emplace_back(c, r);
    return all;
}

void RouteGrid::find_reaches() {
    for (const Width w : {track, land}) {
        for (const Width own : {track, land}) {
            near_copper_[own][w] = within(half(own, 0) + half(w, 0) + gap_, 0);
            near_link_[own][w] = within(half(own, copper_) + half(w, copper_) + link_clear, 0);
        }
        near_diagonal_[w] = within(half(track, 0) + half(w, 0) + gap_, 0.5);
    }
}

template <class Do>
void RouteGrid::each_of(const Offsets& offsets, int n, int layer, Do run) const {
    const int column = column_of(n), row = row_of(n);
    for (const auto& [dc, dr] : offsets) {
        const int c = column + dc, r = row + dr;
        if (c >= 0 && r >= 0 && c < columns_ && r < rows_) run(node(layer, c, r));
    }
}

template <class Do>
void RouteGrid::each_within(Point centre, double radius, int layer, Do run) {
    const int c0 = std::max(0, static_cast<int>(std::ceil((centre.x - radius - x0_) / pitch - eps))),
              c1 = std::min(columns_ - 1,
                            static_cast<int>(std::floor((centre.x + radius - x0_) / pitch + eps))),
              r0 = std::max(0, static_cast<int>(std::ceil((centre.y - radius - y0_) / pitch - eps))),
              r1 = std::min(rows_ - 1, static_cast<int>(std::floor((centre.y + radius - y0_) / pitch + eps)));
    for (int r = r0; r <= r1; ++r)
        for (int c = c0; c <= c1; ++c) {
            const int n = node(layer, c, r);
            if (distance(point(n), centre) < radius - eps) run(n);
        }
}

/// Nodes nearer to the land of a pad than this.
template <class Do>
void RouteGrid::each_near(const CopperPad& pad, double around, int layer, Do run) {
    const double reach =
        std::hypot(pad.surface() ? pad.width : pad.land, pad.surface() ? pad.height : pad.land) / 2;
    each_within(pad.at, reach + around, layer, [&](int n) {
        if (pad.from(point(n), point(n)) < around - eps) run(n);
    });
}

void RouteGrid::allow_only(Width w, int n, int net) {
    int& allowed = allowed_[w][static_cast<std::size_t>(n)];
    allowed = allowed == free_for_all || allowed == net ? net : free_for_none;
}

/// True for nodes that lie within a ring: between every other pair of its crossings with their row.
std::vector<bool> RouteGrid::inside(const Ring& ring) const {
    std::vector<bool> within(nodes(), false);
    for (int r = 0; r < rows_; ++r) {
        const double y = y0_ + r * pitch;
        std::vector<double> crossings;
        for (std::size_t k = 0; k < ring.size(); ++k) {
            const Point a = ring[k], b = ring[(k + 1) % ring.size()];
            if ((a.y > y) != (b.y > y)) crossings.push_back(a.x + (y - a.y) / (b.y - a.y) * (b.x - a.x));
        }
        std::sort(crossings.begin(), crossings.end());
        for (std::size_t k = 1; k < crossings.size(); k += 2)
            for (int c = std::max(0, static_cast<int>(std::ceil((crossings[k - 1] - x0_) / pitch)));
                 c < columns_ && x0_ + c * pitch < crossings[k]; ++c)
                within[static_cast<std::size_t>(node(0, c, r))] = true;
    }
    return within;
}

/// mm from each node to the nearest place of a ring, where that is less than `reach`.
std::vector<double> RouteGrid::distances(const Ring& ring, double reach) const {
    std::vector<double> least(nodes(), reach);
    const auto along = [](double mm, int count) {
        return std::clamp(static_cast<int>(std::floor(mm / pitch)), 0, count - 1);
    };
    for (std::size_t k = 0; k < ring.size(); ++k) {
        const Point a = ring[k], b = ring[(k + 1) % ring.size()];
        const int c1 = along(std::max(a.x, b.x) + reach - x0_, columns_),
                  r1 = along(std::max(a.y, b.y) + reach - y0_, rows_);
        for (int r = along(std::min(a.y, b.y) - reach - y0_, rows_); r <= r1; ++r)
            for (int c = along(std::min(a.x, b.x) - reach - x0_, columns_); c <= c1; ++c) {
                const int n = node(0, c, r);
                double& mm = least[static_cast<std::size_t>(n)];
                mm = std::min(mm, distance(point(n), a, b));
            }
    }
    return least;
}

void RouteGrid::block_outline(const CopperLayout& l) {
    double reach = l.making.hole_edge + hole_ / 2;
    for (int layer = 0; layer < layers_; ++layer)
        for (const Width w : {track, land}) reach = std::max(reach, l.making.copper_edge + half(w, layer));
    const std::vector<bool> within = inside(l.outline);
    const std::vector<double> to_rim = distances(l.outline, reach);
    for (int n = 0; n < static_cast<int>(nodes()); ++n) {
        const auto at = static_cast<std::size_t>(n);
        const double rim = within[at] ? to_rim[at] : 0;
        for (int layer = 0; layer < layers_; ++layer)
            for (const Width w : {track, land})
                if (rim < l.making.copper_edge + half(w, layer) - eps)
                    allowed_[w][at + static_cast<std::size_t>(layer) * nodes()] = free_for_none;
        if (rim < l.making.hole_edge + hole_ / 2) no_hole_[at] = true;
    }
    for (const KeepOut& k : l.keep_out)
        for (int r = 0; r < rows_; ++r)
            for (int c = 0; c < columns_; ++c) {
                const Point p = point(node(0, c, r));
                for (int layer = 0; layer < layers_; ++layer)
                    for (const Width w : {track, land}) {
                        const double h = half(w, layer);
                        if (p.x > k.x - h && p.x < k.x + k.width + h && p.y > k.y - h &&
                            p.y < k.y + k.height + h)
                            allowed_[w][static_cast<std::size_t>(node(layer, c, r))] = free_for_none;
                    }
            }
    // the diagonal of a cell comes nearer to a hole than its ends do
    for (const PlainHole& h : l.holes)
        for (int layer = 0; layer < layers_; ++layer)
            for (const Width w : {track, land})
                each_within(h.at,
                            std::hypot(h.diameter / 2 + l.making.copper_edge + half(w, layer), pitch / 2),
                            layer, [&](int n) { allow_only(w, n, free_for_none); });
}

void RouteGrid::block_pads(const CopperLayout& l, const std::vector<std::string>& nets) {
    std::map<std::string, int> index;
    for (std::size_t k = 0; k < nets.size(); ++k) index[nets[k]] = static_cast<int>(k);
    constexpr double slack = pitch * 0.7072;  // half a diagonal: between nodes a track may come nearer
    for (const CopperPad& pad : l.pads) {
        const int net = pad.net.empty() ? free_for_none : index.at(pad.net);
        if (pad.surface()) {
            for (const Width w : {track, land}) {
                const double around = gap_ + half(w, component_side);
                each_near(pad, w == track ? std::hypot(around, slack) : around, component_side,
                          [&](int n) { allow_only(w, n, net); });
            }
            constexpr double from_land = 0.2;  // mm from the land to a hole, which solder would run into
            each_near(pad, from_land + hole_ / 2, 0,
                      [&](int n) { no_hole_[static_cast<std::size_t>(n)] = true; });
            continue;
        }
        const double corner = pad.square ? std::sqrt(2.0) : 1;
        for (int layer = 0; layer < layers_; ++layer)
            for (const Width w : {track, land}) {
                const bool conducts = !is_link(layer) && (plated_ || layer == solder_side);
                const double reach =
                    is_link(layer) ? pad.hole / 2 + link_clear : pad.land / 2 * corner + gap_;
                const double radius =
                    (conducts || is_link(layer) ? reach : pad.hole / 2 + gap_) + half(w, layer);
                each_within(pad.at, w == track ? std::hypot(radius, slack) : radius, layer, [&](int n) {
                    allow_only(w, n, is_link(layer) || !conducts ? free_for_none : net);
                });
            }
        each_within(pad.at, pad.hole / 2 + hole_ / 2 + l.making.hole_gap, 0,
                    [&](int n) { no_hole_[static_cast<std::size_t>(n)] = true; });
    }
    for (const PlainHole& h : l.holes)
        each_within(h.at, h.diameter / 2 + hole_ / 2 + l.making.hole_gap, 0,
                    [&](int n) { no_hole_[static_cast<std::size_t>(n)] = true; });
}

/// No bare wire lies under a body, and no end of a wire.
void RouteGrid::block_bodies(const CopperLayout& l) {
    for (const CopperPart& p : l.parts) {
        const Box b = p.bounds();
        const double clear = link_wire / 2 + 0.2;
        for (int r = 0; r < rows_; ++r)
            for (int c = 0; c < columns_; ++c) {
                const Point q = point(node(0, c, r));
                if (q.x < b.x0 - clear || q.x > b.x1 + clear || q.y < b.y0 - clear || q.y > b.y1 + clear)
                    continue;
                for (int layer = copper_; layer < layers_; ++layer)
                    for (const Width w : {track, land})
                        allowed_[w][static_cast<std::size_t>(node(layer, c, r))] = free_for_none;
                if (!plated_) no_hole_[static_cast<std::size_t>(node(0, c, r))] = true;
            }
    }
}

bool RouteGrid::may_drill(int n, int link_layer) const {
    if (no_hole_[static_cast<std::size_t>(n) % nodes()]) return false;
    if (link_layer < 0) return true;
    constexpr int bend = 4;  // nodes in 2.54 mm
    return (link_layer == copper_ ? column_of(n) : row_of(n)) % bend == 0;
}

std::vector<int> RouteGrid::nodes_of(const CopperPad& pad) const {
    const auto along = [](double mm, int count) {
        return std::clamp(static_cast<int>(std::lround(mm / pitch)), 0, count - 1);
    };
    const int nearest = node(0, along(pad.at.x - x0_, columns_), along(pad.at.y - y0_, rows_));
    std::vector<int> found;
    if (pad.surface()) return {node(component_side, column_of(nearest), row_of(nearest))};
    found.push_back(nearest);
    if (plated_)
        for (int layer = 1; layer < copper_; ++layer)
            found.push_back(node(layer, column_of(nearest), row_of(nearest)));
    return found;
}

void RouteGrid::enter(Claim& claim) {
    for (const Width w : {track, land}) {
        auto& near = claim.near[w];
        near.clear();
        ++mark_;
        const auto take = [&](int n) {
            if (marked_[static_cast<std::size_t>(n)] == mark_) return;
            marked_[static_cast<std::size_t>(n)] = mark_;
            near.push_back(n);
            ++crowd_[w][static_cast<std::size_t>(n)];
        };
        for (const auto& [own, n] : claim.nodes) {
            const int layer = layer_of(n);
            take(n);
            if (layer < copper_) {
                each_of(near_copper_[own][w], n, layer, take);
                continue;
            }
            // links cross each other as little as they lie on each other
            for (const int links : {copper_, copper_ + 1}) {
                take(node(links, column_of(n), row_of(n)));
                each_of(near_link_[own][w], n, links, take);
            }
        }
        for (const auto& [a, b] : claim.diagonals) {
            const int corner = node(0, std::min(column_of(a), column_of(b)), std::min(row_of(a), row_of(b)));
            each_of(near_diagonal_[w], corner, layer_of(a), take);
        }
    }
}

void RouteGrid::leave(const Claim& claim) {
    for (const Width w : {track, land})
        for (const int n : claim.near[w]) --crowd_[w][static_cast<std::size_t>(n)];
}

}  // namespace elkit
