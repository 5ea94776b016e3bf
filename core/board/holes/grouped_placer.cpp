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
    groups_of_.resize(ground_.size());
    for (const auto& holes : board_.groups) {
        Group group{{}};
        for (const Hole h : holes) {
            group.cells.push_back(ground_at(h));
            groups_of_[ground_at(h)].push_back(groups_.size());
        }
        groups_.push_back(std::move(group));
    }
}

double GroupedPlacer::joining() const {
    const Sum sum = scan();
    return sum.cost + fault_price * sum.faults;
}

void GroupedPlacer::touch(std::size_t cell) {
    for (const std::size_t g : groups_of_[cell]) groups_[g].stale = true;
}

void GroupedPlacer::reach(Sum& sum, const Share& share) const {
    if (share.net < 0) return;
    Reach& r = reaches_[static_cast<std::size_t>(share.net)];
    if (r.groups > 0) {
        const int across =
                      std::max({0, share.first.column - r.high.column, r.low.column - share.last.column}),
                  down = std::max({0, share.first.row - r.high.row, r.low.row - share.last.row});
        sum.cost += prices_.wire + prices_.apart * (across + down);
        sum.faults += share.full + (r.groups == 1 ? r.full : 0);
    }
    ++r.groups, r.full += share.full;
    r.low = share.first, r.high = share.last;
}

void GroupedPlacer::look_at(std::size_t index) const {
    Group& group = groups_[index];
    group.stale = false, group.shares.clear(), group.own = {};
    const bool cuttable = prices_.cut > 0;
    const auto& cells = group.cells;
    const int owner = owners_[index];
    const std::size_t none = cells.size();
    std::size_t first = none, last = none;  // of the part of the group that one net has
    int net = owner;
    int legs = 0;
    const auto ends = [&] {
        if (first == none) return;
        group.shares.push_back({net, board_.groups[index][first], board_.groups[index][last],
                                legs == static_cast<int>(cells.size())});
    };
    for (std::size_t k = 0; k < cells.size(); ++k) {
        const Ground& ground = ground_[cells[k]];
        if (ground.legs == 0) continue;
        ++legs;
        const int here = ground.legs == 1 ? ground.nets : nobody;
        if (first == none && (owner == nobody || owner == here)) {
            first = last = k, net = here;
        } else if (here == net && here != nobody) {
            last = k;
        } else if (cuttable && last != none && k > last + 1) {
            ends();
            group.own.cost += prices_.cut;
            first = last = k, net = here;
        } else {
            ++group.own.faults;
        }
    }
    ends();
}

GroupedPlacer::Sum GroupedPlacer::scan() const {
    Sum sum;
    std::fill(reaches_.begin(), reaches_.end(), Reach{});
    for (std::size_t g = 0; g < groups_.size(); ++g) {
        if (groups_[g].stale) look_at(g);
        sum.cost += groups_[g].own.cost, sum.faults += groups_[g].own.faults;
        for (const Share& share : groups_[g].shares) reach(sum, share);
    }
    return sum;
}

}  // namespace elkit
