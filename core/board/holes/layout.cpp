#include "board/holes/layout.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <utility>

#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

template <class Do>
void each_hole(HoleLayout& l, Do change) {
    for (auto& p : l.placements) change(p.at);
    for (auto& p : l.pins) change(p.hole);
    for (auto& b : l.bridges) change(b.a), change(b.b);
    for (auto& w : l.wires) change(w.a), change(w.b);
    for (auto& h : l.cuts) change(h);
}

}  // namespace

const Placement* HoleLayout::placement(std::string_view designator) const {
    for (const auto& p : placements)
        if (p.designator == designator) return &p;
    return nullptr;
}

std::size_t HoleLayout::count(Wire::Kind kind) const {
    return static_cast<std::size_t>(
        std::count_if(wires.begin(), wires.end(), [&](const Wire& w) { return w.kind == kind; }));
}

std::size_t wires_to_spare(const HoleLayout& l) {
    return l.board.kind == Substrate::Kind::pads ? l.wires.size() : l.count(Wire::Kind::jumper);
}

double wire_length(const Wire& w) {
    const double ends = w.kind == Wire::Kind::plugged ? 12 : w.kind == Wire::Kind::jumper ? 8 : 5;
    const double way = hole_pitch * std::hypot(w.a.column - w.b.column, w.a.row - w.b.row);
    return 5 * std::ceil((way + ends) / 5);
}

std::vector<char> covered_holes(const HoleLayout& l, const HoleParts& parts) {
    constexpr double clear = 0.25;  // holes that a body may reach towards a wire
    std::vector<char> covered(static_cast<std::size_t>(l.columns()) * static_cast<std::size_t>(l.rows()));
    const auto cover = [&](int column, int row) {
        covered[static_cast<std::size_t>(row * l.columns() + column)] = 1;
    };
    for (int row = 0; row < l.rows(); ++row)
        for (int column = 0; column < l.columns(); ++column)
            if (l.wishes.keeps_free({column, row}) || !l.board.has({column, row})) cover(column, row);
    for (const PinHole& pin : l.pins)
        if (l.board.on_grid(pin.hole)) cover(pin.hole.column, pin.hole.row);
    for (const HolePart& part : parts.all) {
        const Placement* at = l.placement(part.part->designator);
        if (!at) continue;
        const Box b = placed_body(part.shapes[static_cast<std::size_t>(at->shape)], *at);
        for (int row = std::max(0, static_cast<int>(std::floor(b.y0)));
             row < std::min<double>(l.rows(), b.y1 + clear); ++row)
            for (int column = std::max(0, static_cast<int>(std::floor(b.x0)));
                 column < std::min<double>(l.columns(), b.x1 + clear); ++column)
                if (column > b.x0 - clear && row > b.y0 - clear) cover(column, row);
    }
    return covered;
}

bool is_passed(const HoleLayout& l, const HolePull& pull) {
    const auto nets = hole_nets(l);
    const Hole at = pull.hole;
    const auto over = [&](Hole a, Hole b) {  // all are straight, but for jumpers
        return at.column >= std::min(a.column, b.column) && at.column <= std::max(a.column, b.column) &&
               at.row >= std::min(a.row, b.row) && at.row <= std::max(a.row, b.row) && nets.at(a) == pull.net;
    };
    return std::any_of(l.bridges.begin(), l.bridges.end(), [&](const Bridge& b) { return over(b.a, b.b); }) ||
           std::any_of(l.wires.begin(), l.wires.end(),
                       [&](const Wire& w) { return w.kind == Wire::Kind::link && over(w.a, w.b); });
}

HoleLayout moved(HoleLayout l, int columns, int rows, Substrate board) {
    each_hole(l, [&](Hole& h) { h = {h.column + columns, h.row + rows}; });
    l.wishes.move(columns, rows);
    l.origin = {l.origin.column + columns, l.origin.row + rows};
    l.board = std::move(board);
    return l;
}

void crop(HoleLayout& l, const HoleParts& parts, bool columns, bool rows,
          const std::function<Substrate(int columns, int rows)>& board) {
    if (!columns && !rows) return;
    Box used{1e9, 1e9, -1e9, -1e9};
    const auto include = [&](double x0, double y0, double x1, double y1) {
        used = {std::min(used.x0, x0), std::min(used.y0, y0), std::max(used.x1, x1), std::max(used.y1, y1)};
    };
    for (const HolePart& part : parts.all) {
        const Placement* placement = l.placement(part.part->designator);
        if (!placement) continue;
        const GridFootprint& shape = part.shapes[static_cast<std::size_t>(placement->shape)];
        const Box b = placed_body(shape, *placement);
        // the body may stand over the rim by its own overhang, not further
        const double over = shape.edge ? 0.9 : 0.2;
        include(b.x0 + over, b.y0 + over, b.x1 - over, b.y1 - over);
    }
    each_hole(l, [&](Hole& h) { include(h.column, h.row, h.column, h.row); });
    constexpr double rim = 0.5;  // holes, that a board reaches beyond its last line of them
    for (const Box& b : l.wishes.free) include(b.x0 + rim, b.y0 + rim, b.x1 - rim, b.y1 - rim);
    const int dx = columns ? std::max(0, static_cast<int>(std::floor(used.x0 + 0.5))) : 0,
              dy = rows ? std::max(0, static_cast<int>(std::floor(used.y0 + 0.5))) : 0;
    const int wide = columns ? std::min(l.columns(), static_cast<int>(std::ceil(used.x1 - 0.5)) + 1) - dx
                             : l.columns(),
              high =
                  rows ? std::min(l.rows(), static_cast<int>(std::ceil(used.y1 - 0.5)) + 1) - dy : l.rows();
    l = moved(std::move(l), -dx, -dy, board(wide, high));
}

void turn_to_read(HoleLayout& l, const Circuit& circuit) {
    const bool lights = std::any_of(circuit.parts.begin(), circuit.parts.end(),
                                    [](const Part& p) { return is(p, Role::diode_light); });
    double along = 0, count = 0, columns = 0, order = 0;
    for (std::size_t k = 0; k < circuit.parts.size(); ++k) {
        const Placement* placement = l.placement(circuit.parts[k].designator);
        if (!placement || (lights && !is(circuit.parts[k], Role::diode_light))) continue;
        const double column = placement->at.column + 0.01 * placement->at.row, place = static_cast<double>(k);
        along += column * place, columns += column, order += place, ++count;
    }
    if (along * count >= columns * order) return;
    each_hole(l, [&](Hole& h) { h = {l.columns() - 1 - h.column, l.rows() - 1 - h.row}; });
    for (auto& p : l.placements) p.turn = (p.turn + 2) & 3;
}

namespace {

void bend_legs(BoardPart& part, const GridFootprint& shape) {
    part.span = hole_pitch * span_of(shape);
    part.footprint.pads.back().x = part.span;
    part.footprint.body.x0 = hole_pitch * shape.body.x0, part.footprint.body.x1 = hole_pitch * shape.body.x1;
}

}  // namespace

Board board_of(const HoleLayout& l, const HoleParts& parts) {
    Board b;
    b.width = l.board.width(), b.height = l.board.height();
    b.size = l.board.shape.empty() ? l.board.size : fmt::format("{} × {} holes", l.columns(), l.rows());
    b.origin_x = hole_pitch * l.origin.column, b.origin_y = hole_pitch * l.origin.row;
    for (const PinHole& pin : l.pins)
        b.pins.push_back({pin.designator, pin.pin, pin.net, l.board.name(pin.hole)});
    const auto middle = [](int hole) { return (hole + 0.5) * hole_pitch; };
    for (const HolePart& p : parts.all) {
        b.parts.push_back({p.part->designator, p.place, p.footprint, 0, 0, 0});
        const Placement* at = l.placement(p.part->designator);
        if (!at) continue;
        BoardPart& part = b.parts.back();
        part.x = middle(at->at.column), part.y = middle(at->at.row), part.turn = 90 * at->turn;
        if (p.shapes.size() < 2) continue;
        for (const GridFootprint& shape : p.shapes) part.spans.push_back(hole_pitch * span_of(shape));
        if (at->shape > 0) bend_legs(part, p.shapes[static_cast<std::size_t>(at->shape)]);
    }
    b.groups = extract_groups(l);
    b.differences = layout_differences(l, *parts.circuit);
    const auto nets = hole_nets(l);
    std::map<std::pair<std::string, std::string>, std::vector<std::string>> gaps;
    for (const Bridge& gap : isolation_gaps(l))
        gaps[std::minmax(nets.at(gap.a), nets.at(gap.b))].push_back(l.board.name(gap.a) + "|" +
                                                                    l.board.name(gap.b));
    for (const Wire& w : l.wires)
        b.wires.push_back({w.kind == Wire::Kind::link     ? "link"
                           : w.kind == Wire::Kind::jumper ? "jumper"
                                                          : "wire",
                           l.board.name(w.a), l.board.name(w.b), nets.at(w.a), w.colour, wire_length(w)});
    for (auto& [pair, places] : gaps) b.neighbours.push_back({pair.first, pair.second, std::move(places)});
    return b;
}

void add_sides(Board& b, const HoleLayout& l, const HoleParts& parts) {
    for (Drawing side : {draw_component_side(l, parts), draw_solder_side(l, parts)}) {
        std::string title = side.title;
        b.sides.push_back({std::move(title), std::move(side)});
    }
}

}  // namespace elkit
