// Joints that stay while a part is put elsewhere.
#include <algorithm>
#include <functional>
#include <map>
#include <optional>
#include <utility>

#include "board/pad/kept_joints.hpp"
#include "board/pad/pad_board.hpp"
#include "board/pad/pad_nets.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

class Mending {
  public:
    Mending(const HoleLayout& layout, const KeptJoints& kept, const std::optional<TopSide>& top)
        : nets_(layout),
          kept_(nets_.pads.size()),
          links_(nets_.pads.size()),
          top_(top),
          marks_(nets_.grid.size()) {
        take_up(kept);
        for (std::size_t net = 0; net < kept_.size(); ++net) {
            drop_dead_ends(net);
            for (const Bridge& b : kept_[net])
                for (const Hole h : {b.a, b.b}) nets_.grid.at(h) = static_cast<int>(net);
            for (const Wire& w : links_[net]) {
                for (const Hole h : {w.a, w.b}) nets_.grid.at(h) = static_cast<int>(net);
                top_->lay(w.a, w.b);
            }
        }
        for (const std::size_t net : nets_.shortest_first()) join(net);
    }

    std::vector<Bridge> bridges{};
    std::vector<Wire> wires{};
    bool by_new_ways = false;  ///< what was kept did not join everything

  private:
    /// What lies on free pads, or on pins of its own net.
    void take_up(const KeptJoints& kept) {
        PadGrid taken = nets_.grid;
        const auto net_of = [&](const std::string& name) -> std::optional<std::size_t> {
            const auto at = std::find(nets_.names.begin(), nets_.names.end(), name);
            if (at == nets_.names.end()) return {};
            return static_cast<std::size_t>(at - nets_.names.begin());
        };
        const auto take = [&](std::size_t net, Hole a, Hole b) {
            const auto mine = static_cast<int>(net);
            for (const Hole h : {a, b})
                if (!taken.has(h) || (taken.at(h) != PadGrid::free_pad && taken.at(h) != mine)) return false;
            taken.at(a) = taken.at(b) = mine;
            return true;
        };
        for (const auto& [name, bridge] : kept.joints) {
            const auto net = net_of(name);
            if (!net || !take(*net, bridge.a, bridge.b)) continue;
            auto& own = kept_[*net];
            if (std::find(own.begin(), own.end(), bridge) == own.end()) own.push_back(bridge);
        }
        std::optional<TopSide> top = top_;
        for (const auto& [name, a, b] : kept.links) {
            const auto net = net_of(name);
            if (!net || !top || !taken.has(a) || !taken.has(b) || !top->is_clear(a, b) || !take(*net, a, b))
                continue;
            links_[*net].push_back({a, b, Wire::Kind::link});
            top->lay(a, b);
        }
        for (std::size_t net = 0; net < kept_.size(); ++net)
            if (!passes_pulls(net)) kept_[net].clear(), links_[net].clear();
    }

    /// A net that does not pass where it was pulled to is laid anew.
    bool passes_pulls(std::size_t net) const {
        const auto& pads = nets_.pads[net];
        return std::all_of(pads.begin() + static_cast<std::ptrdiff_t>(nets_.legs[net]), pads.end(),
                           [&](Hole h) {
                               return std::any_of(kept_[net].begin(), kept_[net].end(),
                                                  [&](const Bridge& b) { return b.a == h || b.b == h; });
                           });
    }

    bool is_pin(std::size_t net, Hole h) const {
        const auto& pads = nets_.pads[net];
        return std::find(pads.begin(), pads.end(), h) != pads.end();
    }

    void drop_dead_ends(std::size_t net) {
        auto& bridges = kept_[net];
        auto& links = links_[net];
        for (bool dropped = true; dropped;) {
            std::map<Hole, int> ends;
            for (const Bridge& b : bridges) ++ends[b.a], ++ends[b.b];
            for (const Wire& w : links) ++ends[w.a], ++ends[w.b];
            const auto leads_nowhere = [&](const auto& b) {
                return (ends[b.a] == 1 && !is_pin(net, b.a)) || (ends[b.b] == 1 && !is_pin(net, b.b));
            };
            dropped = std::erase_if(bridges, leads_nowhere) + std::erase_if(links, leads_nowhere) > 0;
        }
    }

    /// What hangs together with a joined pad by what is kept is joined too.
    void spread(std::size_t net) {
        bool grown = true;
        const auto over = [&](Hole a, Hole b) {
            Mark &one = marks_[nets_.grid.index(a)], &other = marks_[nets_.grid.index(b)];
            if ((one == Mark::joined) == (other == Mark::joined)) return;
            one = other = Mark::joined, grown = true;
        };
        while (grown) {
            grown = false;
            for (const Bridge& b : kept_[net]) over(b.a, b.b);
            for (const Wire& w : links_[net]) over(w.a, w.b);
        }
    }

    void join(std::size_t net) {
        stop_point();
        nets_.mark(net, marks_);
        const auto wanted = [&](Hole h) {  // what is kept may be joined anywhere along it
            if (Mark& mark = marks_[nets_.grid.index(h)]; mark == Mark::none) mark = Mark::wanted;
        };
        for (const Bridge& b : kept_[net]) wanted(b.a), wanted(b.b);
        for (const Wire& w : links_[net]) wanted(w.a), wanted(w.b);
        bridges.insert(bridges.end(), kept_[net].begin(), kept_[net].end());
        wires.insert(wires.end(), links_[net].begin(), links_[net].end());
        for (spread(net); const Hole* lone = nets_.lone(net, marks_); spread(net)) {
            const auto mine = static_cast<int>(net);
            by_new_ways = true;
            auto way = find_way(nets_.grid, mine, marks_, {}, scratch_);
            if (way.empty() && !nets_.is_leg(net, lone)) break;
            if (way.empty() && top_) way = find_way(nets_.grid, mine, marks_, {}, scratch_, &*top_);
            if (way.empty()) {
                wires.push_back(jumper_to(nets_, net, marks_, *lone));
                marks_[nets_.grid.index(*lone)] = Mark::joined;
                continue;
            }
            const std::size_t before = wires.size();
            add_way(way, bridges, wires);
            for (std::size_t k = before; k < wires.size(); ++k) top_->lay(wires[k].a, wires[k].b);
            for (const Hole h : way) nets_.grid.at(h) = mine, marks_[nets_.grid.index(h)] = Mark::joined;
        }
    }

    PadNets nets_;
    std::vector<std::vector<Bridge>> kept_;  // by net
    std::vector<std::vector<Wire>> links_;   // likewise
    std::optional<TopSide> top_;
    std::vector<Mark> marks_;
    WayScratch scratch_;
};

}  // namespace

void mend_board(HoleLayout& layout, const KeptJoints& kept, const std::optional<TopSide>& top) {
    constexpr std::size_t few = 16;  // nets, that are laid anew at once
    Mending mended(layout, kept, top);
    const std::size_t wires = mended.wires.size(), before = kept.jumpers + kept.links.size();
    std::vector<std::string> nets;
    for (const PinHole& pin : layout.pins) nets.push_back(pin.net);
    std::sort(nets.begin(), nets.end());
    const auto count = static_cast<std::size_t>(std::unique(nets.begin(), nets.end()) - nets.begin());
    if (mended.by_new_ways && wires > (count <= few ? 0 : before)) {
        const bool thorough = count <= few && wires > before;
        route_board(layout, {thorough ? RouteEffort::thorough : RouteEffort::quick, 1U << 20U, top});
        if (layout.wires.size() < wires) return;
    }
    layout.bridges = std::move(mended.bridges), layout.wires = std::move(mended.wires);
    pass_through(layout);
}

}  // namespace elkit
