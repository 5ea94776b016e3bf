#include <algorithm>
#include <functional>
#include <map>
#include <set>

#include "board/pad/layout.hpp"

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

bool side_by_side(const Bridge& b) {
    return std::abs(b.a.column - b.b.column) + std::abs(b.a.row - b.b.row) == 1;
}

}  // namespace

std::vector<std::vector<std::string>> extract_groups(const PadLayout& layout) {
    Pads pads;
    for (const auto& b : layout.bridges)
        if (side_by_side(b)) pads.join(b.a, b.b);  // solder does not jump a pad
    for (const auto& j : layout.jumpers) pads.join(j.a, j.b);
    std::map<Hole, std::vector<std::string>> groups;
    for (const auto& pin : layout.pins)
        if (!pin.pin.empty())
            groups[pads.root(pin.hole)].push_back(pin.designator + "." + pin.pin);
        else
            groups[pads.root(pin.hole)];
    std::vector<std::vector<std::string>> out;
    for (auto& [hole, names] : groups) {
        if (names.empty()) continue;
        std::sort(names.begin(), names.end());
        out.push_back(names);
    }
    std::sort(out.begin(), out.end());
    return out;
}

std::vector<std::string> layout_differences(const PadLayout& layout, const Circuit& circuit) {
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
    for (const auto& [pin, net] : net_of)
        if (!placed.contains(pin)) differences.push_back(pin + " is not on the board");
    return differences;
}

std::map<Hole, std::string> pad_nets(const PadLayout& layout) {
    Pads pads;
    std::set<Hole> used;
    for (const auto& b : layout.bridges) {
        pads.join(b.a, b.b);
        used.insert(b.a);
        used.insert(b.b);
    }
    for (const auto& j : layout.jumpers) pads.join(j.a, j.b);
    std::map<Hole, std::string> net_of_root, net_of;
    for (const auto& p : layout.pins) {
        used.insert(p.hole);
        net_of_root[pads.root(p.hole)] = p.net;
    }
    for (const Hole h : used) net_of[h] = net_of_root[pads.root(h)];
    return net_of;
}

std::vector<Bridge> isolation_gaps(const PadLayout& layout) {
    const auto nets = pad_nets(layout);
    std::vector<Bridge> gaps;
    for (const auto& [h, net] : nets)
        for (const Hole n : {Hole{h.column + 1, h.row}, Hole{h.column, h.row + 1}})
            if (const auto beside = nets.find(n); beside != nets.end() && beside->second != net)
                gaps.push_back({h, n});
    return gaps;
}

}  // namespace elkit
