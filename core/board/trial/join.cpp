// Wires of a breadboard.
#include <algorithm>
#include <map>
#include <optional>
#include <set>

#include "board/trial/trial_board.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

constexpr int rail_is_nearer = 3;  // holes that a wire to a rail may be longer than to another group
constexpr int between_rails = 5;   // holes that a wire from rail to rail counts
constexpr std::size_t few_groups = 3;

class TrialJoiner {
  public:
    TrialJoiner(HoleLayout& layout, const HoleParts& parts) : l_(layout), parts_(parts) {
        const auto rails = rail_nets(l_.board, *parts.circuit);
        for (std::size_t g = 0; g < l_.board.groups.size(); ++g) {
            for (const Hole h : l_.board.groups[g]) group_of_[h] = g;
            if (!rails[g].empty()) net_of_[g] = rails[g];
        }
        for (const PinHole& pin : l_.pins) taken_.insert(pin.hole);
        for (const PinHole& pin : l_.pins)
            if (!pin.net.empty())
                net_of_[group_of_.at(pin.hole)] = pin.net, used_.insert(group_of_.at(pin.hole));
        for (const PinHole& pin : l_.pins)
            if (pin.net.empty()) closed_.insert(group_of_.at(pin.hole));
    }

    void join() {
        for (const HolePart& p : parts_.all)
            if (!l_.placement(p.part->designator)) plug_in(p);
        std::map<std::string, std::vector<std::size_t>> groups;
        for (const std::size_t g : used_) groups[net_of_.at(g)].push_back(g);
        for (auto& [net, of_net] : groups)
            if (of_net.size() > 1) join_net(net, of_net);
    }

  private:
    bool is_rail(std::size_t g) const {
        return std::find(l_.board.rails.begin(), l_.board.rails.end(), g) != l_.board.rails.end();
    }
    std::vector<Hole> free_holes(std::size_t g) const {
        std::vector<Hole> all;
        for (const Hole h : l_.board.groups[g])
            if (!taken_.contains(h)) all.push_back(h);
        return all;
    }

    /// Where a wire from beside the board goes: into the group of its net with the most room, one that is in
    /// use rather than a rail that is not; or into a group that nobody has. Nothing if there is none.
    std::optional<std::size_t> group_for(const std::string& net) const {
        std::optional<std::size_t> best, nobodys;
        std::pair<bool, std::size_t> most{false, 0};
        for (std::size_t g = 0; g < l_.board.groups.size(); ++g) {
            const auto of = net_of_.find(g);
            if (of == net_of_.end() && !nobodys && !closed_.contains(g) && !is_rail(g)) nobodys = g;
            if (of == net_of_.end() || of->second != net) continue;
            const std::pair here(used_.contains(g), free_holes(g).size());
            if (here.second > 0 && here > most) most = here, best = g;
        }
        return best ? best : nobodys;
    }

    void plug_in(const HolePart& p) {
        for (const Pin& pin : p.part->pins) {
            if (pin.net.empty()) continue;
            const auto group = group_for(pin.net);
            if (!group) continue;
            net_of_[*group] = pin.net, used_.insert(*group);
            const Hole hole = free_holes(*group).front();
            taken_.insert(hole);
            l_.pins.push_back({p.part->designator, pin.name, pin.net, hole});
        }
    }

    /// Kruskal over the net's groups, by the shortest wire between free holes.
    void join_net(const std::string& net, std::vector<std::size_t> groups) {
        // a rail that nothing is in yet is worth a wire more where several groups hang on it
        for (const std::size_t rail : l_.board.rails)
            if (net_of_.contains(rail) && net_of_.at(rail) == net &&
                std::find(groups.begin(), groups.end(), rail) == groups.end() && groups.size() > few_groups)
                groups.push_back(rail);
        std::map<std::size_t, std::size_t> root;
        for (const std::size_t g : groups) root[g] = g;
        const auto find = [&](std::size_t g) {
            while (root[g] != g) g = root[g];
            return g;
        };
        for (std::size_t joined = 1; joined < groups.size(); ++joined) {
            stop_point();
            int least = 1 << 20;
            Wire best;
            for (const std::size_t a : groups)
                for (const std::size_t b : groups) {
                    if (a >= b || find(a) == find(b)) continue;
                    if (is_rail(a) && is_rail(b)) {  // at the end of the board, out of the way
                        const auto ends = last_free(a, b);
                        if (ends && between_rails < least)
                            least = between_rails,
                            best = {ends->first, ends->second, Wire::Kind::plugged, net, {}};
                        continue;
                    }
                    const int bonus = is_rail(a) || is_rail(b) ? rail_is_nearer : 0;
                    for (const Hole from : free_holes(a))
                        for (const Hole to : free_holes(b))
                            if (const int far = holes_between(from, to) - bonus; far < least)
                                least = far, best = {from, to, Wire::Kind::plugged, net, {}};
                }
            if (best.net.empty()) return;
            taken_.insert(best.a), taken_.insert(best.b);
            root[find(group_of_.at(best.a))] = find(group_of_.at(best.b));
            l_.wires.push_back(best);
        }
    }
    /// The last column in which two rails are free, or the last holes of both.
    std::optional<std::pair<Hole, Hole>> last_free(std::size_t a, std::size_t b) const {
        const auto from = free_holes(a), to = free_holes(b);
        if (from.empty() || to.empty()) return std::nullopt;
        for (auto f = from.rbegin(); f != from.rend(); ++f)
            for (auto t = to.rbegin(); t != to.rend(); ++t)
                if (f->column == t->column) return std::pair(*f, *t);
        return std::pair(from.back(), to.back());
    }

    HoleLayout& l_;
    const HoleParts& parts_;
    std::map<Hole, std::size_t> group_of_;
    std::map<std::size_t, std::string> net_of_;
    std::set<std::size_t> used_;    // groups with legs or wires
    std::set<std::size_t> closed_;  // groups with a leg that leads nowhere
    std::set<Hole> taken_;
};

}  // namespace

std::vector<std::string> rail_nets(const Substrate& board, const Circuit& circuit) {
    std::map<std::string, int> plus, minus, legs;
    for (const Part& part : circuit.parts)
        for (const Pin& pin : part.pins) ++legs[pin.net];
    for (const Part& part : circuit.parts)
        if (is(part, Role::source) || is(part, Role::energy))
            plus[part.net("+")] = legs[part.net("+")], minus[part.net("-")] = legs[part.net("-")];
    // what most legs of a supplied circuit hang on is often behind a switch: still the rail that people use
    const auto most = [](const std::map<std::string, int>& nets) {
        const auto at = std::max_element(nets.begin(), nets.end(),
                                         [](const auto& a, const auto& b) { return a.second < b.second; });
        return at == nets.end() ? std::string() : at->first;
    };
    const std::string low = most(minus);
    std::map<std::string, int> high = plus;
    for (const Part& part : circuit.parts)
        if (is(part, Role::contact))
            for (const Pin& pin : part.pins)
                if (plus.contains(pin.net))
                    for (const Pin& other : part.pins)
                        if (!other.net.empty() && other.net != low) high[other.net] = legs[other.net];
    high.erase(low);
    std::vector<std::string> nets(board.groups.size());
    for (std::size_t k = 0; k < board.rails.size(); ++k) nets[board.rails[k]] = k % 2 == 0 ? most(high) : low;
    return nets;
}

void join_trial(HoleLayout& layout, const HoleParts& parts) { TrialJoiner(layout, parts).join(); }

}  // namespace elkit
