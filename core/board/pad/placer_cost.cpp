#include <algorithm>
#include <array>
#include <cmath>

#include "board/pad/placer.hpp"

namespace elkit {
namespace {

constexpr double overlap_price = 40, crowd_price = 0.5;  // holes

}  // namespace

double Placer::cost() const {
    double sum = spread() + overlap_price * overlap_total();
    for (std::size_t n = 0; n < members_.size(); ++n) sum += net_length(n);
    for (std::size_t i = 0; i < pieces_.size(); ++i) sum += edge_cost(pieces_[i]);
    return sum;
}

double Placer::local_cost(std::size_t i) const {
    double sum = edge_cost(pieces_[i]) + crowd(pieces_[i]);
    for (std::size_t k = 0; k < pieces_[i].nets.size(); ++k) {
        if (pieces_[i].nets[k] < 0) continue;
        const auto net = static_cast<std::size_t>(pieces_[i].nets[k]);
        sum += is_rail(net) ? to_nearest(net, i, pieces_[i].holes[k]) : net_length(net);
    }
    for (std::size_t k = 0; k < pieces_.size(); ++k)
        if (k != i) sum += overlap_price * overlapping(pieces_[i], pieces_[k]);
    return sum + lights_cost();
}

double Placer::crowd(const Piece& p) const {
    int beside = 0;
    for (std::size_t k = 0; k < p.holes.size(); ++k)
        for (const Hole step : {Hole{1, 0}, Hole{0, 1}, Hole{-1, 0}, Hole{0, -1}}) {
            const Hole h{p.holes[k].column + step.column, p.holes[k].row + step.row};
            if (!on_board(h)) continue;
            const Ground& g = ground_[ground_at(h)];
            beside += g.legs == 1 && g.nets != p.nets[k];
        }
    return crowd_price * airy_ * beside;
}

double Placer::edge_cost(const Piece& p) const {
    if (!p.footprints.front().edge) return 0;
    const double x = std::min(p.body.x0 + 0.5, columns_ - 0.5 - p.body.x1),
                 y = std::min(p.body.y0 + 0.5, rows_ - 0.5 - p.body.y1);
    const bool lies = (p.placement.turn & 1) == 0;
    return 3 * std::max(0.0, lies ? y : x);
}

double Placer::lights_cost() const {
    std::array<bool, 256> rows{}, columns{};
    int lines = 0, askew = 0;
    const Piece* first = nullptr;
    for (const Piece* p : lights_) {
        if (!first) first = p;
        askew += p->placement.turn != first->placement.turn;
        bool& row = rows[static_cast<std::size_t>(p->placement.at.row) & 255U];
        bool& column = columns[static_cast<std::size_t>(p->placement.at.column) & 255U];
        lines += !row + !column;
        row = column = true;
    }
    return 2.5 * lines + 5 * askew;
}

double Placer::spread() const {
    Box b{1e9, 1e9, -1e9, -1e9};
    for (const Piece& p : pieces_)
        b = {std::min(b.x0, p.body.x0), std::min(b.y0, p.body.y0), std::max(b.x1, p.body.x1),
             std::max(b.y1, p.body.y1)};
    return 1.2 / airy_ * (b.x1 - b.x0 + b.y1 - b.y0);
}

double Placer::to_nearest(std::size_t net, std::size_t piece, Hole here) const {
    int least = columns_ + rows_;
    for (const auto& [other, hole] : members_[net]) {
        if (other == piece) continue;
        const Hole h = pieces_[other].holes[hole];
        least = std::min(least, std::abs(h.column - here.column) + std::abs(h.row - here.row));
    }
    return least;
}

double Placer::net_length(std::size_t net) const {
    const auto& pins = members_[net];
    if (pins.size() < 2) return 0;
    if (is_rail(net)) {
        double sum = 0;
        for (const auto& [piece, hole] : pins) sum += to_nearest(net, piece, pieces_[piece].holes[hole]);
        return sum;
    }
    distance_.assign(pins.size(), 1e9);
    auto& distance = distance_;
    joined_.assign(pins.size(), false);
    auto& in = joined_;
    double sum = 0;
    std::size_t at = 0;
    for (std::size_t count = 1; count < pins.size(); ++count) {
        in[at] = true;
        const Hole here = pieces_[pins[at].first].holes[pins[at].second];
        std::size_t nearest = 0;
        double least = 1e9;
        for (std::size_t k = 0; k < pins.size(); ++k) {
            if (in[k]) continue;
            const Hole h = pieces_[pins[k].first].holes[pins[k].second];
            distance[k] =
                std::min(distance[k], double(std::abs(h.column - here.column) + std::abs(h.row - here.row)));
            if (distance[k] < least) least = distance[k], nearest = k;
        }
        sum += least;
        at = nearest;
    }
    return sum;
}

bool Placer::overlap(const Piece& a, const Piece& b) {
    if (a.outline.x1 < b.outline.x0 || b.outline.x1 < a.outline.x0 || a.outline.y1 < b.outline.y0 ||
        b.outline.y1 < a.outline.y0)
        return false;
    if (a.body.overlaps(b.body)) return true;
    return std::any_of(a.holes.begin(), a.holes.end(),
                       [&](Hole h) { return std::find(b.holes.begin(), b.holes.end(), h) != b.holes.end(); });
}

double Placer::overlapping(const Piece& a, const Piece& b) {
    return overlap(a, b) ? static_cast<double>(std::max(a.parts.size(), b.parts.size())) : 0;
}

double Placer::overlap_total() const {
    double sum = 0;
    for (std::size_t i = 0; i < pieces_.size(); ++i)
        for (std::size_t k = 0; k < i; ++k) sum += overlapping(pieces_[i], pieces_[k]);
    return sum;
}

}  // namespace elkit
