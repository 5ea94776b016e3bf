#include "board/pad/pad_nets.hpp"

#include <algorithm>
#include <map>
#include <numeric>

namespace elkit {

PadNets::PadNets(const HoleLayout& layout) : grid(layout.columns(), layout.rows()) {
    std::map<std::string, std::size_t> index;
    for (const auto& pin : layout.pins) {
        if (pin.net.empty()) {
            grid.at(pin.hole) = PadGrid::nobody;
            continue;
        }
        const auto [at, fresh] = index.emplace(pin.net, pads.size());
        if (fresh) pads.emplace_back(), names.push_back(pin.net);
        pads[at->second].push_back(pin.hole);
        grid.at(pin.hole) = static_cast<int>(at->second);
    }
    for (const auto& of_net : pads) legs.push_back(of_net.size());
    keep_free(layout);
    pass_pulls(layout.wishes.pulls);
}

void PadNets::keep_free(const HoleLayout& layout) {
    if (layout.wishes.free.empty() && layout.board.off.empty()) return;
    for (std::size_t i = 0; i < grid.size(); ++i)
        if (const Hole h = grid.hole(i);
            grid.at(h) == PadGrid::free_pad && (layout.wishes.keeps_free(h) || !layout.board.has(h)))
            grid.at(h) = PadGrid::nobody;
}

void PadNets::pass_pulls(const std::vector<HolePull>& pulls) {
    for (const HolePull& p : pulls) {
        const auto name = std::find(names.begin(), names.end(), p.net);
        const auto net = static_cast<std::size_t>(name - names.begin());
        if (name == names.end() || pads[net].size() < 2 || !grid.has(p.hole) ||
            grid.at(p.hole) != PadGrid::free_pad)
            continue;
        pads[net].push_back(p.hole);
        grid.at(p.hole) = static_cast<int>(net);
    }
}

std::vector<std::size_t> PadNets::shortest_first() const {
    std::vector<std::size_t> order(pads.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    const auto reach = [&](std::size_t n) {
        const auto across = [](Hole a, Hole b) { return a.column < b.column; };
        const auto down = [](Hole a, Hole b) { return a.row < b.row; };
        const auto [left, right] = std::minmax_element(pads[n].begin(), pads[n].end(), across);
        const auto [top, bottom] = std::minmax_element(pads[n].begin(), pads[n].end(), down);
        return right->column - left->column + bottom->row - top->row;
    };
    std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) { return reach(a) < reach(b); });
    return order;
}

void PadNets::mark(std::size_t net, std::vector<Mark>& marks) const {
    std::fill(marks.begin(), marks.end(), Mark::none);
    for (const Hole h : pads[net]) marks[grid.index(h)] = Mark::wanted;
    marks[grid.index(pads[net].front())] = Mark::joined;
}

const Hole* PadNets::lone(std::size_t net, const std::vector<Mark>& marks) const {
    for (const Hole& h : pads[net])
        if (marks[grid.index(h)] == Mark::wanted) return &h;
    return nullptr;
}

void add_way(const std::vector<Hole>& way, std::vector<Bridge>& bridges, std::vector<Wire>& wires) {
    for (std::size_t k = 1; k < way.size(); ++k)
        if (holes_between(way[k - 1], way[k]) > 1)
            wires.push_back({way[k - 1], way[k], Wire::Kind::link});
        else
            bridges.push_back({way[k - 1], way[k]});
}

Wire jumper_to(const PadNets& nets, std::size_t net, const std::vector<Mark>& marks, Hole to) {
    Hole nearest = nets.pads[net].front();
    for (const Hole h : nets.pads[net])
        if (marks[nets.grid.index(h)] == Mark::joined && holes_between(h, to) < holes_between(nearest, to))
            nearest = h;
    return {nearest, to, Wire::Kind::jumper};
}

}  // namespace elkit
