#include "board/pad/ways.hpp"

#include <algorithm>
#include <array>
#include <limits>
#include <set>

#include "quantity/stop.hpp"

namespace elkit {
namespace {

constexpr Hole directions[]{{1, 0}, {0, 1}, {-1, 0}, {0, -1}};
constexpr double creeps = 0.3;  // holes, that a pad beside another net counts more
constexpr double fine = 10;     // steps of a hole that ways are compared in
constexpr int dearest = 255;    // of these, for one pad
constexpr int bare_link = 100;  // of these, for a link of no length
Hole operator+(Hole a, Hole b) { return {a.column + b.column, a.row + b.row}; }

/// The ways of a net, joining its pads one after the other; what finds none is left out.
std::vector<std::vector<Hole>> tree_of(const PadGrid& grid, int net, const std::vector<Hole>& pads,
                                       const std::vector<double>& dear, WayScratch& scratch) {
    std::vector<Mark> marks(grid.size(), Mark::none);
    for (const Hole h : pads) marks[grid.index(h)] = Mark::wanted;
    marks[grid.index(pads.front())] = Mark::joined;
    std::vector<std::vector<Hole>> ways;
    for (;;) {
        auto way = find_way(grid, net, marks, dear, scratch);
        if (way.empty()) return ways;
        for (const Hole h : way) marks[grid.index(h)] = Mark::joined;
        ways.push_back(std::move(way));
    }
}

/// False if its links would lie over each other.
bool links_lie(const std::vector<Hole>& way, TopSide top) {
    for (std::size_t k = 1; k < way.size(); ++k) {
        if (holes_between(way[k - 1], way[k]) < 2) continue;
        if (!top.is_clear(way[k - 1], way[k])) return false;
        top.lay(way[k - 1], way[k]);
    }
    return true;
}

}  // namespace

PadGrid::PadGrid(int columns, int rows)
    : columns_(columns),
      rows_(rows),
      owner_(static_cast<std::size_t>(columns + 2) * static_cast<std::size_t>(rows + 2), rim) {
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column) at({column, row}) = free_pad;
}

std::vector<Hole> find_way(const PadGrid& grid, int net, const std::vector<Mark>& marks,
                           const std::vector<double>& dear, WayScratch& scratch, const TopSide* top) {
    const std::size_t nowhere = grid.size();
    const auto down = static_cast<std::ptrdiff_t>(grid.stride());
    const std::array<std::ptrdiff_t, 4> steps{1, down, -1, -down};
    const auto beside = [](std::size_t i, std::ptrdiff_t step) {
        return static_cast<std::size_t>(static_cast<std::ptrdiff_t>(i) + step);
    };
    const auto passes = [&](std::size_t i) {
        const int owner = grid.owner(i);
        return owner == PadGrid::free_pad || owner == net;
    };
    const auto cost_of = [&](std::size_t i) {
        double cost = dear.empty() ? 1 : 1 + dear[i];
        for (const std::ptrdiff_t step : steps)
            if (const std::size_t side = beside(i, step); !passes(side) && grid.owner(side) != PadGrid::rim)
                cost += creeps;
        return static_cast<int>(std::min<double>(dearest, cost * fine));
    };
    if (scratch.pads.size() != grid.size()) scratch = {std::vector<WayScratch::Pad>(grid.size()), {}, 0};
    scratch.waiting.resize(dearest + 1);
    for (auto& all : scratch.waiting) all.clear();
    ++scratch.search;
    std::size_t open = 0;
    const auto reach = [&](std::size_t i, int distance, std::size_t before) {
        scratch.pads[i].distance = distance, scratch.pads[i].before = before;
        scratch.waiting[static_cast<std::size_t>(distance % (dearest + 1))].emplace_back(distance, i);
        ++open;
    };
    const auto come_to = [&](std::size_t next, std::size_t from, int more) {
        WayScratch::Pad& pad = scratch.pads[next];
        if (pad.seen != scratch.search)
            pad = {scratch.search, std::numeric_limits<int>::max(), cost_of(next), nowhere};
        const int further = scratch.pads[from].distance + std::min(dearest, pad.cost + more);
        if (further < pad.distance) reach(next, further, from);
    };
    const auto go_over = [&](std::size_t i) {
        const Hole from = grid.hole(i);
        const std::size_t before = scratch.pads[i].before;
        const bool came_by_link = before != nowhere && holes_between(grid.hole(before), from) > 1;
        if (came_by_link || !top->is_clear(from)) return;
        for (const Hole step : directions) {
            Hole end = from + step;
            for (int far = 1; grid.has(end) && top->is_clear(end); ++far, end = end + step)
                if (far > 1 && passes(grid.index(end))) come_to(grid.index(end), i, bare_link + far);
        }
    };
    for (std::size_t i = 0; i < marks.size(); ++i)
        if (marks[i] == Mark::joined) scratch.pads[i].seen = scratch.search, reach(i, 0, nowhere);
    for (int distance = 0; open > 0; ++distance) {
        auto& here = scratch.waiting[static_cast<std::size_t>(distance % (dearest + 1))];
        for (std::size_t k = 0; k < here.size(); ++k, --open) {  // none costs nothing: it does not grow
            const std::size_t i = here[k].second;
            if (scratch.pads[i].distance != distance) continue;  // there was a shorter way
            if (marks[i] == Mark::wanted) {
                std::vector<Hole> way;
                for (std::size_t at = i; at != nowhere; at = scratch.pads[at].before)
                    way.push_back(grid.hole(at));
                return top && !links_lie(way, *top) ? std::vector<Hole>{} : way;
            }
            for (const std::ptrdiff_t step : steps)
                if (const std::size_t next = beside(i, step); passes(next)) come_to(next, i, 0);
            if (top) go_over(i);
        }
        here.clear();
    }
    return {};
}

Negotiated negotiate(const PadGrid& grid, const std::vector<std::vector<Hole>>& pads, int most_rounds,
                     WayScratch& scratch) {
    constexpr double at_first = 0.5, sharper = 1.4, remembered = 0.6, sharpest = 1000;
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
    for (int round = 0; round < most_rounds; ++round, present = std::min(present * sharper, sharpest)) {
        for (std::size_t net = 0; net < pads.size(); ++net) {
            stop_point();
            each_pad(net, [&](std::size_t i) { --users[i]; });
            dear = n.dear;
            for (std::size_t i = 0; i < dear.size(); ++i) dear[i] += present * users[i];
            n.ways[net] = tree_of(grid, static_cast<int>(net), pads[net], dear, scratch);
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
