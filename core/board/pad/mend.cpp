// Joints that stay while a part is put elsewhere.
#include <algorithm>
#include <functional>
#include <map>
#include <utility>

#include "board/pad/kept_joints.hpp"
#include "board/pad/pad_board.hpp"
#include "board/pad/pad_nets.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

class Mending {
  public:
    Mending(const HoleLayout& layout, const KeptJoints& kept)
        : nets_(layout), kept_(nets_.pads.size()), marks_(nets_.grid.size()) {
        take_up(kept);
        for (std::size_t net = 0; net < kept_.size(); ++net) {
            drop_dead_ends(net);
            for (const Bridge& b : kept_[net])
                for (const Hole h : {b.a, b.b}) nets_.grid.at(h) = static_cast<int>(net);
        }
        for (const std::size_t net : nets_.shortest_first()) join(net);
    }

    std::vector<Bridge> bridges{};
    std::vector<Wire> jumpers{};

  private:
    /// What lies on free pads, or on pins of its own net.
    void take_up(const KeptJoints& kept) {
        PadGrid taken = nets_.grid;
        for (const auto& [name, bridge] : kept.joints) {
            const auto at = std::find(nets_.names.begin(), nets_.names.end(), name);
            const auto net = static_cast<int>(at - nets_.names.begin());
            const auto free = [&](Hole h) {
                return taken.has(h) && (taken.at(h) == -1 || taken.at(h) == net);
            };
            if (at == nets_.names.end() || !free(bridge.a) || !free(bridge.b)) continue;
            auto& own = kept_[static_cast<std::size_t>(net)];
            if (std::find(own.begin(), own.end(), bridge) != own.end()) continue;
            taken.at(bridge.a) = taken.at(bridge.b) = net;
            own.push_back(bridge);
        }
    }

    bool is_pin(std::size_t net, Hole h) const {
        const auto& pads = nets_.pads[net];
        return std::find(pads.begin(), pads.end(), h) != pads.end();
    }

    void drop_dead_ends(std::size_t net) {
        auto& bridges = kept_[net];
        for (bool dropped = true; dropped;) {
            std::map<Hole, int> ends;
            for (const Bridge& b : bridges) ++ends[b.a], ++ends[b.b];
            dropped =
                std::erase_if(bridges, [&](const Bridge& b) {
                    return (ends[b.a] == 1 && !is_pin(net, b.a)) || (ends[b.b] == 1 && !is_pin(net, b.b));
                }) > 0;
        }
    }

    /// What hangs together with a joined pad by kept bridges is joined too.
    void spread(std::size_t net) {
        for (bool grown = true; grown;) {
            grown = false;
            for (const Bridge& b : kept_[net]) {
                Mark &one = marks_[nets_.grid.index(b.a)], &other = marks_[nets_.grid.index(b.b)];
                if ((one == Mark::joined) == (other == Mark::joined)) continue;
                one = other = Mark::joined, grown = true;
            }
        }
    }

    void join(std::size_t net) {
        stop_point();
        nets_.mark(net, marks_);
        for (const Bridge& b : kept_[net])  // what is kept may be joined anywhere along it
            for (const Hole h : {b.a, b.b})
                if (Mark& mark = marks_[nets_.grid.index(h)]; mark == Mark::none) mark = Mark::wanted;
        bridges.insert(bridges.end(), kept_[net].begin(), kept_[net].end());
        const auto lone = [&] {
            return std::find_if(nets_.pads[net].begin(), nets_.pads[net].end(),
                                [&](Hole h) { return marks_[nets_.grid.index(h)] == Mark::wanted; });
        };
        for (spread(net); lone() != nets_.pads[net].end(); spread(net)) {
            const auto way = find_way(nets_.grid, static_cast<int>(net), marks_, {}, scratch_);
            if (way.empty()) {
                jumpers.push_back(jumper_to(nets_, net, marks_, *lone()));
                marks_[nets_.grid.index(*lone())] = Mark::joined;
                continue;
            }
            for (std::size_t k = 1; k < way.size(); ++k) bridges.push_back({way[k - 1], way[k]});
            for (const Hole h : way)
                nets_.grid.at(h) = static_cast<int>(net), marks_[nets_.grid.index(h)] = Mark::joined;
        }
    }

    PadNets nets_;
    std::vector<std::vector<Bridge>> kept_;  // by net
    std::vector<Mark> marks_;
    WayScratch scratch_;
};

}  // namespace

void mend_board(HoleLayout& layout, const KeptJoints& kept) {
    constexpr std::size_t few = 16;  // nets, that are laid anew at once
    Mending mended(layout, kept);
    const std::size_t jumpers = mended.jumpers.size();
    std::vector<std::string> nets;
    for (const PinHole& pin : layout.pins) nets.push_back(pin.net);
    std::sort(nets.begin(), nets.end());
    const auto count = static_cast<std::size_t>(std::unique(nets.begin(), nets.end()) - nets.begin());
    if (jumpers > (count <= few ? 0 : kept.jumpers)) {
        route_board(layout, count <= few ? RouteEffort::thorough : RouteEffort::quick);
        if (layout.wires.size() < jumpers) return;
    }
    layout.bridges = std::move(mended.bridges), layout.wires = std::move(mended.jumpers);
}

}  // namespace elkit
