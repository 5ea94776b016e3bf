#include "board/holes/grouped_placer.hpp"

#include <algorithm>
#include <utility>

namespace elkit {
namespace {

// holes; to lie over each other would spare two headers many groups
constexpr double fault_price = 50, overlap_price = 200;
constexpr int nobody = -1;  // an owner; also the net of a leg that leads nowhere

}  // namespace

GroupedPlacer::GroupedPlacer(const HoleParts& parts, std::vector<Cluster> clusters, Substrate board,
                             double airy, std::uint64_t seed, Prices prices, std::vector<int> owners)
    : Placer(parts, std::move(clusters), std::move(board), airy, seed),
      prices_(prices),
      owners_(std::move(owners)),
      reaches_(nets_.size()) {
    overlap_price_ = overlap_price;
    owners_.resize(board_.groups.size(), nobody);
    for (const auto& group : board_.groups) {
        cells_.emplace_back();
        for (const Hole h : group) cells_.back().push_back(ground_at(h));
    }
}

bool GroupedPlacer::sound() const { return scan().faults == 0; }

double GroupedPlacer::joining() const {
    const Sum sum = scan();
    return sum.cost + fault_price * sum.faults;
}

void GroupedPlacer::reach(Sum& sum, int net, Hole from, Hole to, bool full) const {
    if (net < 0) return;
    Reach& r = reaches_[static_cast<std::size_t>(net)];
    if (r.groups > 0) {
        const int across = std::max({0, from.column - r.high.column, r.low.column - to.column}),
                  down = std::max({0, from.row - r.high.row, r.low.row - to.row});
        sum.cost += prices_.wire + prices_.apart * (across + down);
        sum.faults += full + (r.groups == 1 ? r.full : 0);
    }
    ++r.groups, r.full += full;
    r.low = from, r.high = to;
}

GroupedPlacer::Sum GroupedPlacer::scan() const {
    Sum sum;
    std::fill(reaches_.begin(), reaches_.end(), Reach{});
    const bool cuttable = prices_.cut > 0;
    for (std::size_t g = 0; g < cells_.size(); ++g) {
        const auto& cells = cells_[g];
        const std::size_t none = cells.size();
        std::size_t first = none, last = none;  // of the part of the group that one net has
        int net = owners_[g];
        int legs = 0;
        const auto ends = [&] {
            if (first == none) return;
            reach(sum, net, board_.groups[g][first], board_.groups[g][last],
                  legs == static_cast<int>(cells.size()));
        };
        for (std::size_t k = 0; k < cells.size(); ++k) {
            const Ground& ground = ground_[cells[k]];
            if (ground.legs == 0) continue;
            ++legs;
            const int here = ground.legs == 1 ? ground.nets : nobody;
            if (first == none && (owners_[g] == nobody || owners_[g] == here)) {
                first = last = k, net = here;
            } else if (here == net && here != nobody) {
                last = k;
            } else if (cuttable && last != none && k > last + 1) {
                ends();
                sum.cost += prices_.cut;
                first = last = k, net = here;
            } else {
                ++sum.faults;
            }
        }
        ends();
    }
    return sum;
}

}  // namespace elkit
