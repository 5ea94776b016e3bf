// Holes, and parts turned and moved over them.
#include "board/holes/parts.hpp"

#include <fmt/format.h>

#include <cmath>
#include <set>

namespace elkit {

GridFootprint on_grid(const Footprint& f) {
    GridFootprint g;
    const auto hole = [](double mm) { return static_cast<int>(std::lround(mm / hole_pitch)); };
    for (const Pad& pad : f.pads) g.pins.emplace_back(pad.pin, Hole{hole(pad.x), hole(pad.y)});
    g.body = {f.body.x0 / hole_pitch, f.body.y0 / hole_pitch, f.body.x1 / hole_pitch, f.body.y1 / hole_pitch};
    g.height = f.height, g.edge = f.edge, g.picture = f.picture;
    return g;
}

std::vector<std::string> HoleParts::on_wires() const {
    std::vector<std::string> names;
    for (const HolePart& p : all)
        if (p.place != PartPlace::board) names.push_back(p.part->designator);
    return names;
}

Result<HoleParts> hole_parts(const Circuit& circuit, const BoardChoices& choices) {
    auto parts = mounted(circuit, choices);
    if (!parts) return parts.error();
    HoleParts out{&circuit, {}};
    for (Mounted& m : parts.value()) {
        if (m.footprint.surface)
            return Error{Fault::design, "/board/parts",
                         fmt::format("{} is soldered on the surface, on lands that this board has not",
                                     m.part->designator),
                         "an ordered board of two layers, or a footprint with legs"};
        GridFootprint shape = on_grid(m.footprint);
        std::set<Hole> holes;
        for (const auto& [pin, hole] : shape.pins)
            if (!holes.insert(hole).second)
                return Error{Fault::design, "/board/parts",
                             fmt::format("two legs of {} come into one hole with {}", m.part->designator,
                                         m.footprint.name),
                             "a footprint on a grid of 2.54 mm"};
        out.all.push_back({m.part, m.place, std::move(m.footprint), {std::move(shape)}});
    }
    return out;
}

Hole placed_hole(Hole offset, const Placement& placement) {
    Hole o = offset;
    for (int k = 0; k < (placement.turn & 3); ++k) o = {-o.row, o.column};
    return {placement.at.column + o.column, placement.at.row + o.row};
}

std::vector<PinHole> placed_pins(const HolePart& p, const Placement& placement) {
    std::vector<PinHole> out;
    for (const auto& [pin, offset] : p.shapes[static_cast<std::size_t>(placement.shape)].pins)
        out.push_back({p.part->designator, pin, pin.empty() ? std::string() : p.part->net(pin),
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

}  // namespace elkit
