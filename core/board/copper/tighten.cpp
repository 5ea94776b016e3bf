// Shorter and straighter ways, once all nets have one.
#include <algorithm>
#include <array>
#include <cmath>
#include <set>

#include "board/copper/router.hpp"

namespace elkit {
namespace {

/// The nodes from a to b of one layer by a straight line and a diagonal, the diagonal first or last.
CopperRouter::Way elbow(const RouteGrid& grid, int a, int b, bool diagonal_first) {
    int column = grid.column_of(a), row = grid.row_of(a);
    const int dc = grid.column_of(b) - column, dr = grid.row_of(b) - row;
    const int sc = (dc > 0) - (dc < 0), sr = (dr > 0) - (dr < 0);
    const int diagonal = std::min(std::abs(dc), std::abs(dr));
    const int straight = std::max(std::abs(dc), std::abs(dr)) - diagonal;
    CopperRouter::Way way{a};
    const auto go = [&](int times, int c, int r) {
        for (int k = 0; k < times; ++k) {
            column += c, row += r;
            way.push_back(grid.node(grid.layer_of(a), column, row));
        }
    };
    const bool along = std::abs(dc) > std::abs(dr);
    if (diagonal_first) go(diagonal, sc, sr);
    go(straight, along ? sc : 0, along ? 0 : sr);
    if (!diagonal_first) go(diagonal, sc, sr);
    return way;
}

constexpr double bend = 0.3;  // in steps of the grid, for one of 45°; sharper ones cost more

/// What each way from one node of a run to another costs, without a walk for each.
class RunCosts {
  public:
    RunCosts(const RouteGrid& grid, const CopperRouter::Way& way) : to_(way.size(), 0), bent_(way.size(), 0) {
        int was_c = 0, was_r = 0;
        for (std::size_t k = 1; k < way.size(); ++k) {
            const int c = grid.column_of(way[k]) - grid.column_of(way[k - 1]),
                      r = grid.row_of(way[k]) - grid.row_of(way[k - 1]);
            const bool turns = k > 1 && (c != was_c || r != was_r);
            to_[k] = to_[k - 1] + std::hypot(c, r);
            bent_[k] = bent_[k - 1] + (turns ? bend * (c * was_c + r * was_r > 0 ? 1 : 3) : 0);
            was_c = c, was_r = r;
        }
    }
    /// With the bends between, not those at its ends.
    double between(std::size_t from, std::size_t to) const {
        if (to <= from) return 0;
        return to_[to] - to_[from] + bent_[to] - bent_[from + 1];
    }

  private:
    std::vector<double> to_, bent_;  // up to each node; a bend counts from the node after it
};

/// The least that any way from a to b costs.
double least_cost(const RouteGrid& grid, int a, int b) {
    const int dc = std::abs(grid.column_of(a) - grid.column_of(b)),
              dr = std::abs(grid.row_of(a) - grid.row_of(b));
    const bool straight = dc == 0 || dr == 0 || dc == dr;
    return std::max(dc, dr) + (std::sqrt(2.0) - 1) * std::min(dc, dr) + (straight ? 0 : bend);
}

}  // namespace

bool CopperRouter::free_for(int net, int node) const {
    return grid_.may_lie(RouteGrid::track, node, net) && grid_.crowd(RouteGrid::track, node) == 0;
}

void CopperRouter::tighten(int net, Way& run) const {
    constexpr double least_gain = 1e-6;
    for (int pass = 0; pass < 3; ++pass) {
        bool better = false;
        RunCosts costs(grid_, run);
        for (std::size_t i = 0; i + 2 < run.size(); ++i)
            for (std::size_t j = run.size() - 1; j > i + 1; --j) {
                const std::size_t before = i ? i - 1 : 0, after = std::min(j + 1, run.size() - 1);
                const double was = costs.between(before, after) - least_gain;
                if (costs.between(before, i) + least_cost(grid_, run[i], run[j]) + costs.between(j, after) >
                    was)
                    continue;
                for (const bool diagonal_first : {true, false}) {
                    const Way way = elbow(grid_, run[i], run[j], diagonal_first);
                    if (!std::all_of(way.begin(), way.end(), [&](int n) { return free_for(net, n); }))
                        continue;
                    Way next(run.begin(), run.begin() + static_cast<std::ptrdiff_t>(i));
                    next.insert(next.end(), way.begin(), way.end());
                    const std::size_t end = next.size() - 1;
                    next.insert(next.end(), run.begin() + static_cast<std::ptrdiff_t>(j) + 1, run.end());
                    RunCosts now(grid_, next);
                    if (now.between(before, std::min(end + 1, next.size() - 1)) > was) continue;
                    run = std::move(next), costs = std::move(now), better = true;
                    j = std::min(j, run.size() - 1);
                    break;
                }
            }
        if (!better) return;
    }
}

void CopperRouter::tighten() {
    for (std::size_t n = 0; n < nets_.size(); ++n) {
        Net& net = nets_[n];
        if (!net.entered || net.ways.empty() || net.kept) continue;
        leave(net);
        const auto before = net.ways;
        const auto joined = taken_up(net).group;
        std::set<int> fixed;  // where other ways of the net begin or end
        for (const Way& way : net.ways) fixed.insert(way.front()), fixed.insert(way.back());
        for (Way& way : net.ways) {
            std::vector<std::size_t> stops{0};  // what lies between two of them may move
            for (std::size_t k = 1; k + 1 < way.size(); ++k)
                if (fixed.contains(way[k]) || grid_.layer_of(way[k]) != grid_.layer_of(way[k - 1]) ||
                    grid_.layer_of(way[k]) != grid_.layer_of(way[k + 1]))
                    stops.push_back(k);
            if (way.size() > 1) stops.push_back(way.size() - 1);
            Way whole{way.front()};
            for (std::size_t s = 1; s < stops.size(); ++s) {
                Way run(way.begin() + static_cast<std::ptrdiff_t>(stops[s - 1]),
                        way.begin() + static_cast<std::ptrdiff_t>(stops[s]) + 1);
                const int layer = grid_.layer_of(run.front());
                if (!grid_.is_link(layer) && layer == grid_.layer_of(run.back()))
                    tighten(static_cast<int>(n), run);
                whole.insert(whole.end(), run.begin() + 1, run.end());
            }
            way = std::move(whole);
        }
        // ways that stayed may have met between their ends, where one of them went away now
        if (taken_up(net).group != joined) net.ways = before;
        enter(net);
    }
}

}  // namespace elkit
