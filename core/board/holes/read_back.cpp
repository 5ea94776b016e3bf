#include <algorithm>
#include <functional>
#include <map>
#include <set>

#include "board/holes/layout.hpp"

namespace elkit {
namespace {

/// Pads that conduct to each other, by union and find over holes.
class Pads {
  public:
    Hole root(Hole h) {
        auto [at, fresh] = parent_.emplace(h, h);
        if (fresh || at->second == h) return h;
        const Hole r = root(at->second);
        parent_[h] = r;
        return r;
    }
    void join(Hole a, Hole b) {
        const Hole ra = root(a), rb = root(b);
        parent_[ra] = rb;
    }

  private:
    std::map<Hole, Hole> parent_;
};

bool side_by_side(const Bridge& b) { return holes_between(b.a, b.b) == 1; }

/// What is joined from the start, up to the next cut.
void join_groups(const HoleLayout& layout, Pads& pads) {
    const std::set<Hole> cuts(layout.cuts.begin(), layout.cuts.end());
    for (const auto& group : layout.board.groups)
        for (std::size_t k = 1; k < group.size(); ++k)
            if (!cuts.contains(group[k - 1]) && !cuts.contains(group[k])) pads.join(group[k - 1], group[k]);
}

/// Everything that conducts; solder does not jump a pad, and a leg or wire in a cut touches nothing.
Pads joined(const HoleLayout& layout) {
    Pads pads;
    join_groups(layout, pads);
    for (const auto& b : layout.bridges)
        if (side_by_side(b)) pads.join(b.a, b.b);
    for (const auto& w : layout.wires) pads.join(w.a, w.b);
    return pads;
}

}  // namespace

std::vector<std::vector<std::string>> extract_groups(const HoleLayout& layout) {
    Pads pads = joined(layout);
    std::map<Hole, std::vector<std::string>> groups;
    for (const auto& pin : layout.pins)
        if (!pin.pin.empty()) groups[pads.root(pin.hole)].push_back(pin.designator + "." + pin.pin);
    std::vector<std::vector<std::string>> out;
    for (auto& [hole, names] : groups) {
        std::sort(names.begin(), names.end());
        out.push_back(names);
    }
    std::sort(out.begin(), out.end());
    return out;
}

namespace {

/// Legs without a net that something else is joined to: the open contact of a switch, an output that is not
/// used.
std::vector<std::string> joined_free_legs(const HoleLayout& layout) {
    Pads pads = joined(layout);
    std::map<Hole, std::vector<const PinHole*>> groups;
    for (const auto& pin : layout.pins) groups[pads.root(pin.hole)].push_back(&pin);
    std::vector<std::string> found;
    for (const auto& [root, pins] : groups)
        for (const PinHole* free : pins)
            if (free->pin.empty() && pins.size() > 1) {
                const PinHole* other = pins.front() == free ? pins.back() : pins.front();
                found.push_back("the free leg of " + free->designator + " at " +
                                layout.board.name(free->hole) + " is joined to " + other->designator +
                                " at " + layout.board.name(other->hole));
            }
    return found;
}

}  // namespace

std::vector<std::string> layout_differences(const HoleLayout& layout, const Circuit& circuit) {
    std::map<std::string, std::string> net_of;
    for (const Part& part : circuit.parts)
        for (const Pin& pin : part.pins) net_of[part.designator + "." + pin.name] = pin.net;
    std::vector<std::string> differences;
    std::set<std::string> placed;
    std::map<std::string, std::string> first_of;  // net → first pin seen on it
    for (const auto& group : extract_groups(layout)) {
        for (const auto& pin : group) {
            placed.insert(pin);
            if (net_of[pin] != net_of[group.front()])
                differences.push_back(group.front() + " and " + pin +
                                      " are joined on the board but not in the circuit");
        }
        const auto [at, fresh] = first_of.emplace(net_of[group.front()], group.front());
        if (!fresh)
            differences.push_back(at->second + " and " + group.front() +
                                  " are joined in the circuit but not on the board");
    }
    for (const std::string& leg : joined_free_legs(layout)) differences.push_back(leg);
    for (const auto& [pin, net] : net_of)
        if (!placed.contains(pin)) differences.push_back(pin + " is not on the board");
    return differences;
}

std::map<Hole, std::string> hole_nets(const HoleLayout& layout) {
    Pads pads = joined(layout);
    std::set<Hole> used;
    for (const auto& b : layout.bridges) used.insert(b.a), used.insert(b.b);
    for (const auto& w : layout.wires) used.insert(w.a), used.insert(w.b);
    std::map<Hole, std::string> net_of_root, net_of;
    for (const auto& p : layout.pins) {
        used.insert(p.hole);
        net_of_root[pads.root(p.hole)] = p.net;
    }
    for (const auto& group : layout.board.groups)  // copper is there whether it is used or not
        for (const Hole h : group)
            if (net_of_root.contains(pads.root(h))) used.insert(h);
    for (const Hole h : layout.cuts)
        if (!layout.board.groups.empty()) used.erase(h);
    for (const Hole h : used) net_of[h] = net_of_root[pads.root(h)];
    return net_of;
}

std::vector<Bridge> isolation_gaps(const HoleLayout& layout) {
    const auto nets = hole_nets(layout);
    std::set<Hole> soldered;
    for (const auto& b : layout.bridges) soldered.insert(b.a), soldered.insert(b.b);
    for (const auto& w : layout.wires) soldered.insert(w.a), soldered.insert(w.b);
    for (const auto& p : layout.pins) soldered.insert(p.hole);
    const auto net = [&](Hole h) {
        const auto at = nets.find(h);
        return at == nets.end() ? std::string() : at->second;
    };
    std::vector<Bridge> gaps;
    for (const Hole h : soldered)
        for (const Hole n : {Hole{h.column + 1, h.row}, Hole{h.column, h.row + 1}})
            if (soldered.contains(n) && net(h) != net(n)) gaps.push_back({h, n});
    return gaps;
}

}  // namespace elkit
