#include <algorithm>
#include <cmath>

#include "board/pad_board.hpp"
#include "catalogue/catalogue.hpp"

namespace elkit {

std::string hole_name(Hole hole) {
    std::string letters;
    for (int c = hole.column; c >= 0; c = c / 26 - 1)
        letters.insert(letters.begin(), static_cast<char>('A' + c % 26));
    return letters + std::to_string(hole.row + 1);
}

Footprint footprint(const Part& part) {
    if (part.kind == "led") {
        const LedType* type = built_in_catalogue().led(part.text("type"));
        const double radius =
            (type ? type->diameter : 5) / 2 + 0.4;  // the rim of the lens is wider than its size
        const double r = radius / pad_pitch;
        return {{{"a", {0, 0}}, {"k", {1, 0}}}, {0.5 - r, -r, 0.5 + r, r}, 8.6, false};
    }
    if (part.kind == "switch")
        return {{{"a", {0, 0}}, {"b", {1, 0}}, {"", {2, 0}}}, {-0.9, -0.9, 2.9, 0.9}, 7, true};
    if (part.kind == "battery" || part.kind == "supply")
        return {{{"+", {0, 0}}, {"-", {2, 0}}}, {-0.5, -0.5, 2.5, 0.5}, 4, true};
    const int span =
        part.kind == "resistor" && part.number("rating") > 0.3 ? 5 : (part.kind == "resistor" ? 4 : 3);
    const std::string second = part.kind == "resistor" ? "b" : "k";
    return {{{part.kind == "resistor" ? "a" : "a", {0, 0}}, {second, {span, 0}}},
            {-0.4, -0.48, span + 0.4, 0.48},
            part.number("rating") > 0.3 ? 4.0 : 2.5,
            false};
}

namespace {
Hole turned(Hole h, int turn) {
    switch (turn & 3) {
        case 1:
            return {-h.row, h.column};
        case 2:
            return {-h.column, -h.row};
        case 3:
            return {h.row, -h.column};
        default:
            return h;
    }
}
}  // namespace

Hole placed_hole(Hole offset, const Placement& placement) {
    const Hole o = turned(offset, placement.turn);
    return {placement.at.column + o.column, placement.at.row + o.row};
}

std::vector<PinHole> placed_pins(const Part& part, const Placement& placement) {
    std::vector<PinHole> out;
    for (const auto& [pin, offset] : footprint(part).pins) {
        out.push_back({part.designator, pin, pin.empty() ? std::string() : part.net(pin),
                       placed_hole(offset, placement)});
    }
    return out;
}

Box placed_body(const Footprint& f, const Placement& p) {
    const auto turn = [&](double x, double y) -> std::pair<double, double> {
        switch (p.turn & 3) {
            case 1:
                return {-y, x};
            case 2:
                return {-x, -y};
            case 3:
                return {y, -x};
            default:
                return {x, y};
        }
    };
    const auto [ax, ay] = turn(f.body.x0, f.body.y0);
    const auto [bx, by] = turn(f.body.x1, f.body.y1);
    return {p.at.column + std::min(ax, bx), p.at.row + std::min(ay, by), p.at.column + std::max(ax, bx),
            p.at.row + std::max(ay, by)};
}

namespace {
Figure side(const char* id, const char* label, int holes) {
    const double mm = holes * pad_pitch;
    return {id,
            label,
            mm / 1000,
            Unit::metre,
            {},
            {},
            {"holes × 2.54 mm",
             "  = " + std::to_string(holes) + " × 2.54 mm = " + format_quantity(mm / 1000, Unit::metre)}};
}
}  // namespace

Figure PadLayout::width_figure() const { return side("board.width", "board width", columns); }
Figure PadLayout::height_figure() const { return side("board.height", "board height", rows); }

const Placement* PadLayout::placement(std::string_view designator) const {
    for (const auto& p : placements)
        if (p.designator == designator) return &p;
    return nullptr;
}

}  // namespace elkit
