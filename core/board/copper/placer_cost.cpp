#include <algorithm>
#include <cmath>
#include <limits>
#include <numeric>
#include <set>

#include "board/copper/placer.hpp"
#include "board/copper/supply_pairs.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

constexpr double price_of_overlap = 60, price_of_depth = 3;  // mm, and mm per mm
constexpr double glare = 15;                                 // mm from a light to a sensor that sees it
constexpr double price_of_supply = 1.5;                      // for each mm from pin to pin
constexpr double price_of_behind = 8;                        // for each mm that others stand before a clamp
constexpr double warmth = 6;  // mm between bodies: what gets warm, and what minds

/// By its type, before anything flows: power resistors, regulators, power LEDs.
bool gets_warm(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return false;
    constexpr double power_resistor = 1, power_light = 0.1;  // W, A
    if (is(part, Role::resistor) && kind->param("rating")) return part.number("rating") >= power_resistor;
    if (is(part, Role::diode_light)) {
        const LedType* type = known_catalogue().led(part.text("type"));
        return type && type->max_current >= power_light;
    }
    return kind->is(Role::chip) && kind->supply && !kind->supply->stops;  // it feeds others
}

double side_of_line(Point p, Point q, Point r) {
    return (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
}
bool apart(const Box& a, const Box& b) { return a.x1 < b.x0 || b.x1 < a.x0 || a.y1 < b.y0 || b.y1 < a.y0; }
bool lines_cross(Point a, Point b, Point c, Point d) {
    return side_of_line(a, b, c) * side_of_line(a, b, d) < 0 &&
           side_of_line(c, d, a) * side_of_line(c, d, b) < 0;
}

}  // namespace

/// The shortest tree through its pins (Prim, Bell System Technical Journal 36, 1957).
void CopperPlacer::grow(Net& net) {
    Tree& tree = net.tree;
    tree.lines.clear(), tree.length = 0, tree.box = no_box;
    tree.crossed.resize(nets_.size(), 0);
    const std::size_t n = net.pins.size();
    if (n < 2) return;
    const auto at = [&](std::size_t k) {
        const auto& [piece, pin] = net.pins[k];
        return pieces_[piece].pins[pin].at;
    };
    thread_local std::vector<double> least;
    thread_local std::vector<std::size_t> from;
    least.assign(n, std::numeric_limits<double>::infinity()), from.assign(n, 0);
    std::size_t last = 0;
    least[0] = -1;
    for (std::size_t step = 1; step < n; ++step) {
        std::size_t next = 0;
        double nearest = std::numeric_limits<double>::infinity();
        for (std::size_t k = 0; k < n; ++k) {
            if (least[k] < 0) continue;
            const Point way = at(k) - at(last);
            if (const double far = way.x * way.x + way.y * way.y; far < least[k])  // squared
                least[k] = far, from[k] = last;
            if (least[k] < nearest) nearest = least[k], next = k;
        }
        tree.lines.emplace_back(at(from[next]), at(next));
        widen(tree.box, at(from[next])), widen(tree.box, at(next));
        tree.length += std::sqrt(nearest);
        least[next] = -1, last = next;
    }
}

int CopperPlacer::crossings(const Tree& a, const Tree& b) {
    if (!a.box.overlaps(b.box)) return 0;
    int count = 0;
    for (const Line& l : a.lines) {
        if (apart(l.box, b.box)) continue;
        for (const Line& k : b.lines) count += !apart(l.box, k.box) && lines_cross(l.a, l.b, k.a, k.b);
    }
    return count;
}

/// The trees of these nets, and where they cross those of all others.
void CopperPlacer::grow(const std::vector<std::size_t>& nets) {
    for (const std::size_t n : nets) grow(nets_[n]);
    for (const std::size_t n : nets)
        for (std::size_t other = 0; other < nets_.size(); ++other)
            if (other != n)
                nets_[n].tree.crossed[other] = nets_[other].tree.crossed[n] =
                    crossings(nets_[n].tree, nets_[other].tree);
}

double CopperPlacer::joining(const std::vector<std::size_t>& nets) {
    double sum = 0;
    for (const std::size_t n : nets) {
        const Tree& tree = nets_[n].tree;
        sum += tree.length + set_.crossing * std::accumulate(tree.crossed.begin(), tree.crossed.end(), 0);
        for (const std::size_t other : nets)  // each pair once
            if (other > n) sum -= set_.crossing * tree.crossed[other];
    }
    return sum;
}

double CopperPlacer::overlap(const Piece& a, const Piece& b) {
    const Box &x = a.outline, &y = b.outline;
    if (!x.overlaps(y)) return 0;
    const double deep =
        std::min(std::min(x.x1, y.x1) - std::max(x.x0, y.x0), std::min(x.y1, y.y1) - std::max(x.y0, y.y0));
    return (price_of_overlap + price_of_depth * deep) *
           static_cast<double>(std::max(a.cluster.members.size(), b.cluster.members.size()));
}

double CopperPlacer::overlaps(std::size_t index) const {
    double sum = 0;
    const Piece& p = pieces_[index];
    for (std::size_t k = 0; k < pieces_.size(); ++k)
        if (k != index) sum += overlap(p, pieces_[k]);
    for (const KeepOut& keep : set_.keep_out)
        if (p.outline.overlaps({keep.x, keep.y, keep.x + keep.width, keep.y + keep.height}))
            sum += price_of_overlap;
    for (const PlainHole& hole : set_.holes) {
        const double r = hole.diameter;  // the head of its screw is as wide again
        if (p.outline.overlaps({hole.at.x - r, hole.at.y - r, hole.at.x + r, hole.at.y + r}))
            sum += price_of_overlap;
    }
    return sum;
}

double CopperPlacer::own_cost(const Piece& p, std::size_t index) const {
    double sum = overlaps(index);
    if (p.edge && p.opens == Point{}) {
        const double x = std::min(p.outline.x0 - frame_.x0, frame_.x1 - p.outline.x1),
                     y = std::min(p.outline.y0 - frame_.y0, frame_.y1 - p.outline.y1);
        sum += 2 * std::max(0.0, std::min(x, y));
    }
    for (const Pair& pair : pairs_)
        if (pair.piece == index || pair.other == index) {
            const double far =
                distance(pieces_[pair.piece].pins[pair.pin].at, pieces_[pair.other].pins[pair.other_pin].at);
            sum += price_of_supply * far;
        }
    for (const Apart& pair : apart_) {
        if (pair.a != index && pair.b != index) continue;
        const Box &a = pieces_[pair.a].outline, &b = pieces_[pair.b].outline;
        const double far = std::hypot((a.x0 + a.x1 - b.x0 - b.x1) / 2, (a.y0 + a.y1 - b.y0 - b.y1) / 2);
        sum += std::max(0.0, pair.mm - far);
    }
    return sum;
}

double CopperPlacer::spread() const {
    Box b = no_box;
    for (const Piece& p : pieces_) widen(b, p.outline);
    double behind = 0;  // mm that others stand out beyond what must look off the board
    for (const Piece& p : pieces_) {
        if (p.opens == Point{}) continue;
        const Point way = turned(p.opens, p.spot.turn);  // of one step along x or y
        behind += way.x < -0.5   ? p.outline.x0 - b.x0
                  : way.x > 0.5  ? b.x1 - p.outline.x1
                  : way.y < -0.5 ? p.outline.y0 - b.y0
                                 : b.y1 - p.outline.y1;
    }
    return 1.5 * (b.x1 - b.x0 + b.y1 - b.y0) + price_of_behind * behind;
}

double CopperPlacer::lights_cost() const {
    if (lights_.size() < 2) return 0;
    std::set<long> rows, columns;
    int askew = 0;
    for (const std::size_t k : lights_) {
        const Piece& p = pieces_[k];
        if (p.cluster.pinned || p.cluster.locked) continue;
        rows.insert(std::lround(p.spot.at.y * 100)), columns.insert(std::lround(p.spot.at.x * 100));
        askew += p.spot.turn != pieces_[lights_.front()].spot.turn;
    }
    return 5 * static_cast<double>(rows.size() + columns.size()) + 8 * askew;
}

void CopperPlacer::find_apart() {
    for (std::size_t i = 0; i < parts_.size(); ++i)
        for (std::size_t k = 0; k < parts_.size(); ++k) {
            const Part &a = *parts_[i].part, &b = *parts_[k].part;
            const bool dazzles = is(a, Role::diode_light) && is(b, Role::light_sensor),
                       warms =
                           gets_warm(a) && (is(b, Role::cells) || is(b, Role::polar) || is(b, Role::sensor));
            if (i == k || piece_of_[i] == piece_of_[k] || (!dazzles && !warms)) continue;
            const Box &x = parts_[i].footprint.body, &y = parts_[k].footprint.body;
            const double both = (std::min(x.x1 - x.x0, x.y1 - x.y0) + std::min(y.x1 - y.x0, y.y1 - y.y0)) / 2;
            apart_.push_back({piece_of_[i], piece_of_[k], dazzles ? glare : warmth + both});
        }
}

/// A capacitor across the supply of a chip belongs at its pins.
void CopperPlacer::find_pairs() {
    for (const SupplyPair& pair : supply_pairs(parts_))
        for (std::size_t k = 0; k < 2; ++k)
            pairs_.push_back({piece_of_[pair.chip], pin_of(pair.chip, pair.chip_pins[k]),
                              piece_of_[pair.capacitor], pin_of(pair.capacitor, pair.capacitor_pins[k])});
}

/// Index among the pins of its piece.
std::size_t CopperPlacer::pin_of(std::size_t part, const std::string& pin) const {
    const auto& pins = pieces_[piece_of_[part]].pins;
    return static_cast<std::size_t>(
        std::find_if(pins.begin(), pins.end(),
                     [&](const Pin& p) { return p.part == part && p.name == pin; }) -
        pins.begin());
}

}  // namespace elkit
