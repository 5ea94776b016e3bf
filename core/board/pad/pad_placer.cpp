#include "board/pad/pad_placer.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <utility>

namespace elkit {
namespace {

constexpr double crowd_price = 0.5;  // holes
constexpr double cross_price = 2;    // holes: the way round, where there is one

/// On which side of the line from a to b it lies: the sign; 0 on it.
int side(Hole a, Hole b, Hole p) {
    return (b.column - a.column) * (p.row - a.row) - (b.row - a.row) * (p.column - a.column);
}

/// True if their boxes have nothing in common.
template <class A, class B>
bool beside(const A& a, const B& b) {
    return a.most.column < b.least.column || b.most.column < a.least.column || a.most.row < b.least.row ||
           b.most.row < a.least.row;
}

/// 1 if the straight ways cross, a half if they only touch.
double crossing(Hole a, Hole b, Hole c, Hole d) {
    const int one = side(a, b, c), other = side(a, b, d), third = side(c, d, a), fourth = side(c, d, b);
    if ((one > 0 && other > 0) || (one < 0 && other < 0) || (third > 0 && fourth > 0) ||
        (third < 0 && fourth < 0))
        return 0;
    return one == 0 || other == 0 || third == 0 || fourth == 0 ? 0.5 : 1;
}

}  // namespace

PadPlacer::PadPlacer(const HoleParts& parts, std::vector<Cluster> clusters, Substrate board, double airy,
                     std::uint64_t seed)
    : Placer(parts, std::move(clusters), std::move(board), airy, seed), trees_(nets_.size()) {}

void PadPlacer::touch_nets(const std::vector<int>& nets) {
    if (trees_.empty()) return;  // not yet made
    for (const int net : nets)
        if (net >= 0) trees_[static_cast<std::size_t>(net)].stale = true;
}

double PadPlacer::joining() const {
    double sum = 0;
    for (std::size_t n = 0; n < members_.size(); ++n) {
        sum += tree(n).length;
        for (std::size_t k = 0; k < n; ++k) sum += cross_price * crossings(n, k);
    }
    return sum;
}

double PadPlacer::joining_of(std::size_t i) const {
    const Piece& piece = pieces_[i];
    double sum = crowd(piece);
    for (std::size_t k = 0; k < piece.nets.size(); ++k) {
        if (piece.nets[k] < 0) continue;
        const auto net = static_cast<std::size_t>(piece.nets[k]);
        if (is_rail(net)) {
            sum += to_nearest(net, i, piece.holes[k]);
            continue;
        }
        const auto earlier = piece.nets.begin() + static_cast<std::ptrdiff_t>(k);
        if (std::find(piece.nets.begin(), earlier, piece.nets[k]) != earlier) continue;
        sum += tree(net).length;
        for (std::size_t other = 0; other < trees_.size(); ++other)
            if (std::find(piece.nets.begin(), earlier, static_cast<int>(other)) == earlier)
                sum += cross_price * crossings(net, other);
    }
    return sum;
}

double PadPlacer::crowd(const Piece& p) const {
    int beside = 0;
    for (std::size_t k = 0; k < p.holes.size(); ++k)
        for (const Hole step : {Hole{1, 0}, Hole{0, 1}, Hole{-1, 0}, Hole{0, -1}}) {
            const Hole h{p.holes[k].column + step.column, p.holes[k].row + step.row};
            if (!board_.on_grid(h)) continue;
            const Ground& g = ground_[ground_at(h)];
            beside += g.legs == 1 && g.nets != p.nets[k];
        }
    return crowd_price * airy_ * beside;
}

double PadPlacer::to_nearest(std::size_t net, std::size_t piece, Hole here) const {
    int least = board_.columns + board_.rows;
    for (const auto& [other, hole] : members_[net]) {
        if (other == piece) continue;
        const Hole h = pieces_[other].holes[hole];
        least = std::min(least, holes_between(h, here));
    }
    return least;
}

const PadPlacer::Tree& PadPlacer::tree(std::size_t net) const {
    Tree& t = trees_[net];
    if (t.stale) grow(net, t);
    return t;
}

void PadPlacer::grow(std::size_t net, Tree& t) const {
    t.stale = false, t.branches.clear(), t.length = 0;
    const auto& pins = members_[net];
    if (pins.size() < 2) return;
    if (is_rail(net)) {
        for (const auto& [piece, hole] : pins) t.length += to_nearest(net, piece, pieces_[piece].holes[hole]);
        return;
    }
    t.least = t.most = hole_of(net, 0);
    loose_.clear();
    for (std::size_t k = 1; k < pins.size(); ++k)
        loose_.push_back({hole_of(net, k), t.least, std::numeric_limits<int>::max()});
    for (Hole here = t.least; !loose_.empty();) {
        std::size_t nearest = 0;
        for (std::size_t k = 0; k < loose_.size(); ++k) {
            Loose& l = loose_[k];
            if (const int far = holes_between(l.pin, here); far < l.far) l.far = far, l.nearest = here;
            if (l.far < loose_[nearest].far) nearest = k;
        }
        const Loose next = loose_[nearest];
        loose_[nearest] = loose_.back(), loose_.pop_back();
        here = next.pin;
        t.length += next.far;
        t.branches.push_back(
            {next.nearest,
             here,
             {std::min(next.nearest.column, here.column), std::min(next.nearest.row, here.row)},
             {std::max(next.nearest.column, here.column), std::max(next.nearest.row, here.row)}});
        t.least = {std::min(t.least.column, here.column), std::min(t.least.row, here.row)};
        t.most = {std::max(t.most.column, here.column), std::max(t.most.row, here.row)};
    }
}

double PadPlacer::crossings(std::size_t one, std::size_t other) const {
    if (one == other) return 0;
    const Tree &a = tree(one), &b = tree(other);
    if (a.branches.empty() || b.branches.empty() || beside(a, b)) return 0;
    double sum = 0;
    for (const auto& p : a.branches) {
        if (beside(p, b)) continue;
        for (const auto& q : b.branches)
            if (!beside(p, q)) sum += crossing(p.a, p.b, q.a, q.b);
    }
    return sum;
}

}  // namespace elkit
