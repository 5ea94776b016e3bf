#include "board/pad/pad_placer.hpp"

#include <algorithm>
#include <cmath>

namespace elkit {
namespace {

constexpr double crowd_price = 0.5;  // holes

}  // namespace

double PadPlacer::joining() const {
    double sum = 0;
    for (std::size_t n = 0; n < members_.size(); ++n) sum += net_length(n);
    return sum;
}

double PadPlacer::joining_of(std::size_t i) const {
    double sum = crowd(pieces_[i]);
    for (std::size_t k = 0; k < pieces_[i].nets.size(); ++k) {
        if (pieces_[i].nets[k] < 0) continue;
        const auto net = static_cast<std::size_t>(pieces_[i].nets[k]);
        sum += is_rail(net) ? to_nearest(net, i, pieces_[i].holes[k]) : net_length(net);
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

double PadPlacer::net_length(std::size_t net) const {
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
            distance[k] = std::min(distance[k], double(holes_between(h, here)));
            if (distance[k] < least) least = distance[k], nearest = k;
        }
        sum += least;
        at = nearest;
    }
    return sum;
}

}  // namespace elkit
