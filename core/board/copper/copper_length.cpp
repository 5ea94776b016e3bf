// How far current runs in copper.
#include "board/copper/copper_length.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <queue>

#include "board/copper/supply_pairs.hpp"

namespace elkit {
namespace {

constexpr double no_way = std::numeric_limits<double>::infinity();

/// A piece that conducts from end to end. Both ends of a via and of a pad's hole lie on all layers.
struct Conductor {
    Point a, b;
    bool on[2];
};

std::vector<Conductor> conductors_of(const CopperLayout& l, const std::string& net) {
    std::vector<Conductor> all;
    for (const Track& t : l.tracks)
        if (t.net == net) all.push_back({t.a, t.b, {t.layer == solder_side, t.layer == component_side}});
    for (const Via& v : l.vias)
        if (v.net == net) all.push_back({v.at, v.at, {true, true}});
    for (const WireLink& w : l.links)
        if (w.net == net) all.push_back({w.a, w.b, {true, false}});
    for (const CopperPad& p : l.pads)
        if (p.net == net)
            all.push_back(
                {p.at, p.at, {p.on(solder_side, l.making.plated), p.on(component_side, l.making.plated)}});
    return all;
}

bool meet(const Conductor& a, const Conductor& b) {
    constexpr double touch = 1e-3;
    if (!((a.on[0] && b.on[0]) || (a.on[1] && b.on[1]))) return false;
    return distance(a.a, b.a, b.b) < touch || distance(a.b, b.a, b.b) < touch ||
           distance(b.a, a.a, a.b) < touch || distance(b.b, a.a, a.b) < touch;
}

/// Where they meet: an end of one that lies on the other.
Point meeting(const Conductor& a, const Conductor& b) {
    for (const Point end : {a.a, a.b})
        if (distance(end, b.a, b.b) < 1e-3) return end;
    return distance(b.a, a.a, a.b) < 1e-3 ? b.a : b.b;
}

}  // namespace

double copper_length(const CopperLayout& l, const CopperPad& from, const CopperPad& to) {
    if (std::any_of(l.areas.begin(), l.areas.end(), [&](const CopperArea& a) { return a.net == from.net; }))
        return distance(from.at, to.at);
    const auto all = conductors_of(l, from.net);
    // Dijkstra over pieces; the place where a piece was entered tells how much of it is run along
    struct State {
        double length;
        std::size_t piece;
        Point at;
        bool operator>(const State& o) const { return length > o.length; }
    };
    std::priority_queue<State, std::vector<State>, std::greater<>> open;
    std::vector<double> best(all.size(), no_way);
    for (std::size_t k = 0; k < all.size(); ++k)
        if (all[k].a == from.at && all[k].b == from.at) open.push({0, k, from.at}), best[k] = 0;
    while (!open.empty()) {
        const State s = open.top();
        open.pop();
        if (all[s.piece].a == to.at && all[s.piece].b == to.at) return s.length;
        for (std::size_t k = 0; k < all.size(); ++k) {
            if (k == s.piece || !meet(all[s.piece], all[k])) continue;
            const Point at = meeting(all[s.piece], all[k]);
            const double length = s.length + distance(s.at, at);
            if (length >= best[k] - 1e-9) continue;
            best[k] = length, open.push({length, k, at});
        }
    }
    return no_way;
}

std::vector<SupplyPath> supply_paths(const CopperLayout& l) {
    std::vector<SupplyPath> all;
    const auto pad_of = [&](std::size_t part, const std::string& pin) -> const CopperPad* {
        for (const CopperPad& p : l.pads)
            if (p.designator == l.parts[part].part->designator && p.pin == pin) return &p;
        return nullptr;
    };
    for (std::size_t chip = 0; chip < l.parts.size(); ++chip) {
        SupplyPath nearest{l.parts[chip].part->designator, {}, no_way};
        for (std::size_t c = 0; c < l.parts.size(); ++c) {
            const auto pair = supply_pair(l.parts, chip, c);
            if (!pair) continue;
            double longer = 0;
            for (std::size_t k = 0; k < 2; ++k) {
                const CopperPad *a = pad_of(chip, pair->chip_pins[k]),
                                *b = pad_of(c, pair->capacitor_pins[k]);
                longer = std::max(longer, a && b ? copper_length(l, *a, *b) : no_way);
            }
            if (longer >= nearest.length) continue;
            nearest.capacitor = l.parts[c].part->designator, nearest.length = longer;
            const Point a = pad_of(chip, pair->chip_pins[0])->at, b = pad_of(chip, pair->chip_pins[1])->at;
            constexpr double across = 7.62;  // mm from row to row: a capacitor reaches both at once
            nearest.limit = supply_reach + std::max(0.0, std::abs(a.x - b.x) + std::abs(a.y - b.y) - across);
        }
        if (nearest.length < no_way) all.push_back(std::move(nearest));
    }
    return all;
}

}  // namespace elkit
