// Holes, and parts turned and moved over them.
#include <algorithm>
#include <cmath>

#include "board/pad/layout.hpp"

namespace elkit {

std::string hole_name(Hole hole) {
    std::string letters;
    for (int c = hole.column; c >= 0; c = c / 26 - 1)
        letters.insert(letters.begin(), static_cast<char>('A' + c % 26));
    return letters + std::to_string(hole.row + 1);
}

GridFootprint on_grid(const Footprint& f) {
    GridFootprint g;
    const auto hole = [](double mm) { return static_cast<int>(std::lround(mm / pad_pitch)); };
    for (const Pad& pad : f.pads) g.pins.emplace_back(pad.pin, Hole{hole(pad.x), hole(pad.y)});
    g.body = {f.body.x0 / pad_pitch, f.body.y0 / pad_pitch, f.body.x1 / pad_pitch, f.body.y1 / pad_pitch};
    g.height = f.height, g.edge = f.edge, g.picture = f.picture;
    return g;
}

Hole placed_hole(Hole offset, const Placement& placement) {
    Hole o = offset;
    for (int k = 0; k < (placement.turn & 3); ++k) o = {-o.row, o.column};
    return {placement.at.column + o.column, placement.at.row + o.row};
}

std::vector<PinHole> placed_pins(const Part& part, const Placement& placement) {
    std::vector<PinHole> out;
    for (const auto& [pin, offset] : on_grid(footprint(part)).pins)
        out.push_back({part.designator, pin, pin.empty() ? std::string() : part.net(pin),
                       placed_hole(offset, placement)});
    return out;
}

Box placed_body(const GridFootprint& f, const Placement& p) {
    const auto turn = [&](double x, double y) {
        for (int k = 0; k < (p.turn & 3); ++k) {
            const double was = x;
            x = -y, y = was;
        }
        return std::pair(x, y);
    };
    const auto [ax, ay] = turn(f.body.x0, f.body.y0);
    const auto [bx, by] = turn(f.body.x1, f.body.y1);
    return {p.at.column + std::min(ax, bx), p.at.row + std::min(ay, by), p.at.column + std::max(ax, bx),
            p.at.row + std::max(ay, by)};
}

const Placement* PadLayout::placement(std::string_view designator) const {
    for (const auto& p : placements)
        if (p.designator == designator) return &p;
    return nullptr;
}

}  // namespace elkit
