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

double cost_of(const RouteGrid& grid, const CopperRouter::Way& way, std::size_t from, std::size_t to) {
    constexpr double bend = 0.3;
    double sum = 0;
    int was_c = 0, was_r = 0;
    for (std::size_t k = from + 1; k <= to; ++k) {
        const int c = grid.column_of(way[k]) - grid.column_of(way[k - 1]),
                  r = grid.row_of(way[k]) - grid.row_of(way[k - 1]);
        sum += std::hypot(c, r);
        if (k > from + 1 && (c != was_c || r != was_r)) sum += bend * (c * was_c + r * was_r > 0 ? 1 : 3);
        was_c = c, was_r = r;
    }
    return sum;
}

}  // namespace

bool CopperRouter::free_for(int net, int node) const {
    return grid_.may_lie(RouteGrid::track, node, net) && grid_.crowd(RouteGrid::track, node) == 0;
}

void CopperRouter::tighten(int net, Way& run) const {
    for (int pass = 0; pass < 3; ++pass) {
        bool better = false;
        for (std::size_t i = 0; i + 2 < run.size(); ++i)
            for (std::size_t j = run.size() - 1; j > i + 1; --j) {
                const double was = cost_of(grid_, run, i ? i - 1 : 0, std::min(j + 1, run.size() - 1));
                for (const bool diagonal_first : {true, false}) {
                    const Way way = elbow(grid_, run[i], run[j], diagonal_first);
                    if (!std::all_of(way.begin(), way.end(), [&](int n) { return free_for(net, n); }))
                        continue;
                    Way next(run.begin(), run.begin() + static_cast<std::ptrdiff_t>(i));
                    next.insert(next.end(), way.begin(), way.end());
                    const std::size_t end = next.size() - 1;
                    next.insert(next.end(), run.begin() + static_cast<std::ptrdiff_t>(j) + 1, run.end());
                    if (cost_of(grid_, next, i ? i - 1 : 0, std::min(end + 1, next.size() - 1)) > was - 1e-6)
                        continue;
                    run = std::move(next), better = true;
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
        enter(net);
    }
}

}  // namespace elkit
