#include <algorithm>

#include "board/pad/pad_board.hpp"
#include "board/pad/pad_nets.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

struct Attempt {
    std::vector<Bridge> bridges;
    std::vector<Wire> wires;
    std::vector<std::size_t> failed;  ///< nets with wires, in the order they were tried

    std::size_t jumpers() const {
        return static_cast<std::size_t>(std::count_if(
            wires.begin(), wires.end(), [](const Wire& w) { return w.kind == Wire::Kind::jumper; }));
    }
    std::size_t score() const {
        constexpr std::size_t jumper = 30, link = 10;  // joints
        return (jumper - link) * jumpers() + link * wires.size() + bridges.size();
    }
};

/// Routes the nets in the given order; what finds no way over pads goes by links over the component side
/// where it may, and what finds none there gets a jumper.
Attempt attempt(PadGrid grid, const PadNets& nets, const std::vector<std::size_t>& order,
                const std::vector<double>& dear, WayScratch& scratch, std::optional<TopSide> top) {
    Attempt out;
    std::vector<Mark> marks(grid.size());
    for (const std::size_t net : order) {
        stop_point();
        nets.mark(net, marks);
        while (const Hole* lone = nets.lone(net, marks)) {
            auto way = find_way(grid, static_cast<int>(net), marks, dear, scratch);
            if (way.empty() && !nets.is_leg(net, lone)) break;
            if (way.empty() && (out.failed.empty() || out.failed.back() != net)) out.failed.push_back(net);
            if (way.empty() && top) way = find_way(grid, static_cast<int>(net), marks, dear, scratch, &*top);
            if (way.empty()) {
                const Hole to = *lone;
                out.wires.push_back(jumper_to(nets, net, marks, to));
                marks[grid.index(to)] = Mark::joined;
                continue;
            }
            add_way(way, out.bridges, out.wires);
            for (const Wire& w : out.wires)
                if (top && w.kind == Wire::Kind::link) top->lay(w.a, w.b);
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
Attempt as_negotiated(const PadNets& nets, int rounds, std::vector<double>& dear, WayScratch& scratch,
                      const std::optional<TopSide>& top) {
    PadGrid grid = nets.grid;
    Negotiated n = negotiate(nets.grid, nets.pads, rounds, scratch);
    dear = std::move(n.dear);
    Attempt out;
    std::vector<std::size_t> left;
    for (std::size_t net = 0; net < nets.pads.size(); ++net) {
        std::size_t joined = n.ways[net].size() + 1;
        if (n.disputed[net] > 0 || joined < nets.pads[net].size()) {
            left.push_back(net);
            continue;
        }
        for (const auto& way : n.ways[net]) {
            for (std::size_t k = 1; k < way.size(); ++k) out.bridges.push_back({way[k - 1], way[k]});
            for (const Hole h : way) grid.at(h) = static_cast<int>(net);
        }
    }
    std::stable_sort(left.begin(), left.end(), [&](auto a, auto b) { return n.disputed[a] < n.disputed[b]; });
    Attempt rest = attempt(std::move(grid), nets, left, dear, scratch, top);
    out.bridges.insert(out.bridges.end(), rest.bridges.begin(), rest.bridges.end());
    out.wires = std::move(rest.wires), out.failed = std::move(rest.failed);
    return out;
}

}  // namespace

void route_board(HoleLayout& layout, const Routing& how) {
    const PadNets nets(layout);
    std::vector<std::size_t> order = nets.shortest_first();
    // Short nets first; then where all have made room for each other; then every net once moved to the front,
    // as rip-up would do. The best attempt counts.
    WayScratch scratch;
    Attempt best = attempt(nets.grid, nets, order, {}, scratch, how.top);
    std::vector<double> dear;
    if (!best.wires.empty() && best.wires.size() <= how.worth_sparing) {
        Attempt a = as_negotiated(nets, how.effort == RouteEffort::quick ? 8 : 25, dear, scratch, how.top);
        if (a.score() < best.score()) best = std::move(a);
    }
    const auto first = [&](std::size_t k) {  // the k-th net moved to the front
        auto trial = order;
        std::rotate(trial.begin(), trial.begin() + static_cast<std::ptrdiff_t>(k),
                    trial.begin() + static_cast<std::ptrdiff_t>(k) + 1);
        Attempt a = attempt(nets.grid, nets, trial, dear, scratch, how.top);
        if (a.score() < best.score()) best = std::move(a), order = trial;
    };
    constexpr std::size_t few = 16, most_failed = 8;
    const bool thorough = how.effort == RouteEffort::thorough;
    if (thorough && order.size() <= few)
        for (int pass = 0; pass < 2; ++pass) {
            const std::size_t before = best.score();
            for (std::size_t k = 1; k < order.size(); ++k) first(k);
            if (best.score() == before) break;  // nor would another pass find more
        }
    else if (thorough)  // of many nets only those that found no way
        for (std::size_t n = 0; n < std::min(best.failed.size(), most_failed); ++n)
            first(static_cast<std::size_t>(std::find(order.begin(), order.end(), best.failed[n]) -
                                           order.begin()));
    layout.bridges = std::move(best.bridges);
    layout.wires = std::move(best.wires);
    pass_through(layout);
}

}  // namespace elkit
