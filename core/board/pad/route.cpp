#include <algorithm>
#include <map>
#include <numeric>

#include "board/pad/pad_board.hpp"
#include "board/pad/ways.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

struct Attempt {
    std::vector<Bridge> bridges;
    std::vector<Wire> jumpers;
    std::vector<std::size_t> failed;  ///< nets with a jumper, in the order they were tried
};

/// Routes the nets in the given order; what finds no way gets a jumper.
Attempt attempt(PadGrid grid, const std::vector<std::vector<Hole>>& pads,
                const std::vector<std::size_t>& order, const std::vector<double>& dear, WayScratch& scratch) {
    Attempt out;
    std::vector<Mark> marks(grid.size());
    for (const std::size_t net : order) {
        stop_point();
        std::fill(marks.begin(), marks.end(), Mark::none);
        for (const Hole h : pads[net]) marks[grid.index(h)] = Mark::wanted;
        marks[grid.index(pads[net].front())] = Mark::joined;
        const auto lone = [&] {
            return std::find_if(pads[net].begin(), pads[net].end(),
                                [&](Hole h) { return marks[grid.index(h)] == Mark::wanted; });
        };
        while (lone() != pads[net].end()) {
            const auto way = find_way(grid, static_cast<int>(net), marks, dear, scratch);
            if (way.empty()) {
                const Hole to = *lone();
                Hole nearest = pads[net].front();
                const auto far = [&](Hole h) { return holes_between(h, to); };
                for (const Hole h : pads[net])
                    if (marks[grid.index(h)] == Mark::joined && far(h) < far(nearest)) nearest = h;
                out.jumpers.push_back({nearest, to, Wire::Kind::jumper});
                if (out.failed.empty() || out.failed.back() != net) out.failed.push_back(net);
                marks[grid.index(to)] = Mark::joined;
                continue;
            }
            for (std::size_t k = 1; k < way.size(); ++k) out.bridges.push_back({way[k - 1], way[k]});
            for (const Hole h : way) {
                grid.at(h) = static_cast<int>(net);
                marks[grid.index(h)] = Mark::joined;
            }
        }
    }
    return out;
}

/// What the nets agree on; those that still dispute go last, over what is left. `dear`: by pad, what was
/// disputed.
Attempt as_negotiated(PadGrid grid, const std::vector<std::vector<Hole>>& pads, int rounds,
                      std::vector<double>& dear, WayScratch& scratch) {
    Negotiated n = negotiate(grid, pads, rounds, scratch);
    dear = std::move(n.dear);
    Attempt out;
    std::vector<std::size_t> left;
    for (std::size_t net = 0; net < pads.size(); ++net) {
        std::size_t joined = n.ways[net].size() + 1;
        if (n.disputed[net] > 0 || joined < pads[net].size()) {
            left.push_back(net);
            continue;
        }
        for (const auto& way : n.ways[net]) {
            for (std::size_t k = 1; k < way.size(); ++k) out.bridges.push_back({way[k - 1], way[k]});
            for (const Hole h : way) grid.at(h) = static_cast<int>(net);
        }
    }
    std::stable_sort(left.begin(), left.end(), [&](auto a, auto b) { return n.disputed[a] < n.disputed[b]; });
    Attempt rest = attempt(std::move(grid), pads, left, dear, scratch);
    out.bridges.insert(out.bridges.end(), rest.bridges.begin(), rest.bridges.end());
    out.jumpers = std::move(rest.jumpers), out.failed = std::move(rest.failed);
    return out;
}

}  // namespace

void route_board(HoleLayout& layout, RouteEffort effort, std::size_t worth_sparing) {
    PadGrid grid(layout.columns(), layout.rows());
    std::map<std::string, std::size_t> index;
    std::vector<std::vector<Hole>> pads;
    for (const auto& pin : layout.pins) {
        if (pin.net.empty()) {
            grid.at(pin.hole) = -2;
            continue;
        }
        const auto [at, fresh] = index.emplace(pin.net, pads.size());
        if (fresh) pads.emplace_back();
        pads[at->second].push_back(pin.hole);
        grid.at(pin.hole) = static_cast<int>(at->second);
    }
    std::vector<std::size_t> order(pads.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    const auto reach = [&](std::size_t n) {
        int c0 = 1 << 20, c1 = -1, r0 = 1 << 20, r1 = -1;
        for (const Hole h : pads[n])
            c0 = std::min(c0, h.column), c1 = std::max(c1, h.column), r0 = std::min(r0, h.row),
            r1 = std::max(r1, h.row);
        return c1 - c0 + r1 - r0;
    };
    std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) { return reach(a) < reach(b); });
    // Short nets first; then where all have made room for each other; then every net once moved to the front,
    // as rip-up would do. The best attempt counts.
    WayScratch scratch;
    Attempt best = attempt(grid, pads, order, {}, scratch);
    const auto score = [](const Attempt& a) { return 10 * a.jumpers.size() + a.bridges.size(); };
    std::vector<double> dear;
    if (!best.jumpers.empty() && best.jumpers.size() <= worth_sparing) {
        Attempt a = as_negotiated(grid, pads, effort == RouteEffort::quick ? 8 : 25, dear, scratch);
        if (score(a) < score(best)) best = std::move(a);
    }
    const auto first = [&](std::size_t k) {  // the k-th net moved to the front
        auto trial = order;
        std::rotate(trial.begin(), trial.begin() + static_cast<std::ptrdiff_t>(k),
                    trial.begin() + static_cast<std::ptrdiff_t>(k) + 1);
        Attempt a = attempt(grid, pads, trial, dear, scratch);
        if (score(a) < score(best)) best = std::move(a), order = trial;
    };
    constexpr std::size_t few = 16, most_failed = 8;
    const bool thorough = effort == RouteEffort::thorough;
    if (thorough && order.size() <= few)
        for (int pass = 0; pass < 2; ++pass)
            for (std::size_t k = 1; k < order.size(); ++k) first(k);
    else if (thorough)  // of many nets only those that found no way
        for (std::size_t n = 0; n < std::min(best.failed.size(), most_failed); ++n)
            first(static_cast<std::size_t>(std::find(order.begin(), order.end(), best.failed[n]) -
                                           order.begin()));
    layout.bridges = std::move(best.bridges);
    layout.wires = std::move(best.jumpers);
}

}  // namespace elkit
