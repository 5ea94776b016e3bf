#include <algorithm>
#include <array>
#include <cmath>

#include "board/holes/placer.hpp"

namespace elkit {

double Placer::cost() const {
    double sum = spread() + overlap_price_ * overlap_total() + joining();
    for (const Piece& p : pieces_) sum += edge_cost(p) + bend_cost(p);
    return sum;
}

double Placer::standing(std::size_t i) const {
    double sum = edge_cost(pieces_[i]) + bend_cost(pieces_[i]);
    sum += overlap_price_ * in_free_areas(pieces_[i]);
    for (std::size_t k = 0; k < pieces_.size(); ++k)
        if (k != i) sum += overlap_price_ * overlapping(pieces_[i], pieces_[k]);
    return sum + lights_cost();
}

double Placer::edge_cost(const Piece& p) const {
    if (!p.first().shapes.front().edge) return 0;
    const double x = std::min(p.body.x0 + 0.5, board_.columns - 0.5 - p.body.x1),
                 y = std::min(p.body.y0 + 0.5, board_.rows - 0.5 - p.body.y1);
    const bool lies = (p.pose.turn & 1) == 0;
    return 3 * std::max(0.0, lies ? y : x);
}

double Placer::bend_cost(const Piece& p) const {
    if (p.pose.shape == 0 || board_.kind == Substrate::Kind::sockets) return 0;
    constexpr double price = 0.5;  // holes, for each hole further apart
    const auto& shapes = p.first().shapes;
    return price * (span_of(shapes[static_cast<std::size_t>(p.pose.shape)]) - span_of(shapes.front()));
}

double Placer::lights_cost() const {
    std::array<std::uint64_t, 4> rows{}, columns{};  // a bit for each
    const auto fresh = [](auto& lines, int line) {
        const auto at = static_cast<std::size_t>(line) & 255U;
        const std::uint64_t bit = std::uint64_t{1} << (at & 63U);
        const bool is_fresh = (lines[at >> 6U] & bit) == 0;
        lines[at >> 6U] |= bit;
        return is_fresh;
    };
    int lines = 0, askew = 0;
    const Piece* first = nullptr;
    for (const Piece* p : lights_) {
        if (!first) first = p;
        askew += p->pose.turn != first->pose.turn;
        lines += fresh(rows, p->pose.at.row) + fresh(columns, p->pose.at.column);
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
    for (std::size_t i = 0; i < pieces_.size(); ++i) {
        sum += in_free_areas(pieces_[i]);
        for (std::size_t k = 0; k < i; ++k) sum += overlapping(pieces_[i], pieces_[k]);
    }
    return sum;
}

int Placer::in_free_areas(const Piece& p) const {
    return static_cast<int>(
        std::count_if(free_.begin(), free_.end(), [&](const Box& b) { return b.overlaps(p.outline); }));
}

}  // namespace elkit
