#include "board/pad/pad_nets.hpp"

#include <algorithm>
#include <map>
#include <numeric>

namespace elkit {

PadNets::PadNets(const HoleLayout& layout) : grid(layout.columns(), layout.rows()) {
    std::map<std::string, std::size_t> index;
    for (const auto& pin : layout.pins) {
        if (pin.net.empty()) {
            grid.at(pin.hole) = -2;
            continue;
        }
        const auto [at, fresh] = index.emplace(pin.net, pads.size());
        if (fresh) pads.emplace_back(), names.push_back(pin.net);
        pads[at->second].push_back(pin.hole);
        grid.at(pin.hole) = static_cast<int>(at->second);
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

Wire jumper_to(const PadNets& nets, std::size_t net, const std::vector<Mark>& marks, Hole to) {
    Hole nearest = nets.pads[net].front();
    for (const Hole h : nets.pads[net])
        if (marks[nets.grid.index(h)] == Mark::joined && holes_between(h, to) < holes_between(nearest, to))
            nearest = h;
    return {nearest, to, Wire::Kind::jumper};
}

}  // namespace elkit
