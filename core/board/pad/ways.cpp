#include "board/pad/ways.hpp"

#include <algorithm>
#include <queue>
#include <set>

#include "quantity/stop.hpp"

namespace elkit {
namespace {

constexpr Hole directions[]{{1, 0}, {0, 1}, {-1, 0}, {0, -1}};
constexpr double creeps = 0.3;  // holes, that a pad beside another net counts more
Hole operator+(Hole a, Hole b) { return {a.column + b.column, a.row + b.row}; }

/// The ways of a net, joining its pads one after the other; what finds none is left out.
std::vector<std::vector<Hole>> tree_of(const Grid& grid, int net, const std::vector<Hole>& pads,
                                       const std::vector<double>& dear) {
    std::vector<Mark> marks(grid.size(), Mark::none);
    for (const Hole h : pads) marks[grid.index(h)] = Mark::wanted;
    marks[grid.index(pads.front())] = Mark::joined;
    std::vector<std::vector<Hole>> ways;
    for (;;) {
        auto way = find_way(grid, net, marks, dear);
        if (way.empty()) return ways;
        for (const Hole h : way) marks[grid.index(h)] = Mark::joined;
        ways.push_back(std::move(way));
    }
}

}  // namespace

std::vector<Hole> find_way(const Grid& grid, int net, const std::vector<Mark>& marks,
                           const std::vector<double>& dear) {
    std::vector<double> distance(grid.size(), 1e9);
    std::vector<std::size_t> before(grid.size(), grid.size());
    using Entry = std::pair<double, std::size_t>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> open;
    for (std::size_t i = 0; i < marks.size(); ++i)
        if (marks[i] == Mark::joined) {
            distance[i] = 0;
            open.emplace(0, i);
        }
    while (!open.empty()) {
        const auto [d, i] = open.top();
        open.pop();
        if (d > distance[i]) continue;
        const Hole here = grid.hole(i);
        if (marks[i] == Mark::wanted) {
            std::vector<Hole> way;
            for (std::size_t k = i; k != grid.size(); k = before[k]) way.push_back(grid.hole(k));
            return way;
        }
        for (const Hole step : directions) {
            const Hole next = here + step;
            if (!grid.has(next) || (grid.at(next) != -1 && grid.at(next) != net)) continue;
            double cost = dear.empty() ? 1 : 1 + dear[grid.index(next)];
            for (const Hole side : directions)
                if (const Hole n = next + side; grid.has(n) && grid.at(n) != -1 && grid.at(n) != net)
                    cost += creeps;
            if (d + cost < distance[grid.index(next)]) {
                distance[grid.index(next)] = d + cost;
                before[grid.index(next)] = i;
                open.emplace(d + cost, grid.index(next));
            }
        }
    }
    return {};
}

Negotiated negotiate(const Grid& grid, const std::vector<std::vector<Hole>>& pads, int most_rounds) {
    constexpr double at_first = 0.5, sharper = 1.4, remembered = 0.6;
    Negotiated n{std::vector<std::vector<std::vector<Hole>>>(pads.size()), std::vector<int>(pads.size()),
                 std::vector<double>(grid.size())};
    std::vector<int> users(grid.size());
    std::vector<double> dear;
    const auto each_pad = [&](std::size_t net, const auto& visit) {
        std::set<std::size_t> pads_of;
        for (const auto& way : n.ways[net])
            for (const Hole h : way)
                if (grid.at(h) != static_cast<int>(net)) pads_of.insert(grid.index(h));
        for (const std::size_t i : pads_of) visit(i);
    };
    double present = at_first;
    for (int round = 0; round < most_rounds; ++round, present *= sharper) {
        for (std::size_t net = 0; net < pads.size(); ++net) {
            stop_point();
            each_pad(net, [&](std::size_t i) { --users[i]; });
            dear = n.dear;
            for (std::size_t i = 0; i < dear.size(); ++i) dear[i] += present * users[i];
            n.ways[net] = tree_of(grid, static_cast<int>(net), pads[net], dear);
            each_pad(net, [&](std::size_t i) { ++users[i]; });
        }
        bool all_have_their_own = true;
        for (std::size_t net = 0; net < pads.size(); ++net) {
            n.disputed[net] = 0;
            each_pad(net, [&](std::size_t i) { n.disputed[net] += users[i] > 1; });
            all_have_their_own &= n.disputed[net] == 0;
        }
        if (all_have_their_own) break;
        for (std::size_t i = 0; i < users.size(); ++i)
            if (users[i] > 1) n.dear[i] += remembered * (users[i] - 1);
    }
    return n;
}

}  // namespace elkit
