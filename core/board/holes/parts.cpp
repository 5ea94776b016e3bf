// Holes, and parts turned and moved over them.
#include "board/holes/parts.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "board/board.hpp"
#include "board/holes/face_lights.hpp"
#include "board/holes/shape.hpp"

namespace elkit {

GridFootprint on_grid(const Footprint& f) {
    GridFootprint g;
    const auto hole = [](double mm) { return static_cast<int>(std::lround(mm / hole_pitch)); };
    for (const Pad& pad : f.pads) g.pins.emplace_back(pad.pin, Hole{hole(pad.x), hole(pad.y)});
    g.body = {f.body.x0 / hole_pitch, f.body.y0 / hole_pitch, f.body.x1 / hole_pitch, f.body.y1 / hole_pitch};
    g.height = f.height, g.edge = f.edge, g.picture = f.picture;
    return g;
}

int span_of(const GridFootprint& shape) {
    return shape.pins.size() == 2 && shape.pins[1].second.row == 0 ? shape.pins[1].second.column : 0;
}

GridFootprint bent(const GridFootprint& shape, int span, bool grows) {
    GridFootprint other = shape;
    const int longer = span - span_of(shape);
    other.pins[1].second.column = span;
    const double shift = longer / 2.0;
    other.body.x0 += grows ? 0 : shift, other.body.x1 += grows ? longer : shift;
    return other;
}

bool HoleParts::all_put() const {
    return !all.empty() && std::all_of(all.begin(), all.end(), [](const HolePart& p) {
        return p.put || p.shapes.front().pins.empty();
    });
}

bool HoleParts::any_fixed() const {
    return !wishes.none() || std::any_of(all.begin(), all.end(), [](const HolePart& p) { return p.stays; });
}

std::vector<std::string> HoleParts::on_wires() const {
    std::vector<std::string> names;
    for (const HolePart& p : all)
        if (p.place != PartPlace::board) names.push_back(p.part->designator);
    return names;
}

namespace {

/// What lies flat between its legs may have them further apart, and a disc's spread; holes more than its own.
constexpr Bends further_apart[]{{"axial", 0, 3}, {"disc", 0, 1}};

void bend_legs(HolePart& part) {
    const GridFootprint straight = part.shapes.front();  // the list of shapes grows below
    const int own = span_of(straight);
    if (own <= 0 || part.place != PartPlace::board) return;
    for (const Bends& bends : further_apart)
        if (straight.picture == bends.picture)
            for (int more = 1; more <= bends.most; ++more)
                part.shapes.push_back(bent(straight, own + more, straight.picture == "axial"));
}

/// To the nearest hole, by quarter turns.
std::optional<Error> put(HoleParts& parts, const PartSpot& spot, std::size_t index) {
    const auto at = std::find_if(parts.all.begin(), parts.all.end(),
                                 [&](const HolePart& p) { return p.part->designator == spot.part; });
    if (at == parts.all.end())
        return Error{Fault::design, fmt::format("/board/spots/{}/part", index),
                     "there is no part \"" + spot.part + "\"", "a part of the circuit"};
    const auto hole = [](double mm) { return static_cast<int>(std::lround(mm / hole_pitch - 0.5)); };
    at->put =
        Placement{spot.part, {hole(spot.x), hole(spot.y)}, static_cast<int>(std::lround(spot.turn / 90)) & 3};
    const auto span = static_cast<int>(std::lround(spot.span / hole_pitch));
    for (std::size_t k = 0; k < at->shapes.size(); ++k)
        if (span_of(at->shapes[k]) == span) at->put->shape = static_cast<int>(k);
    at->stays = spot.locked;
    return {};
}

/// All that was put or wished lies together from the corner on, as far as sides are not chosen.
void from_the_corner(HoleParts& parts, const BoardChoices& choices) {
    int column = 1 << 20, row = 1 << 20;
    for (const Box& b : parts.wishes.free)
        column = std::min(column, static_cast<int>(std::ceil(b.x0))),
        row = std::min(row, static_cast<int>(std::ceil(b.y0)));
    for (const HolePart& p : parts.all)
        if (p.put) {
            const Box b = room_taken(p, *p.put);
            column = std::min(column, static_cast<int>(std::floor(b.x0))),
            row = std::min(row, static_cast<int>(std::floor(b.y0)));
        }
    const int room = parts.all_put() ? room_to_move : 0;
    if (choices.columns <= 0 && (room > 0 || column < 0)) parts.shift.column = room - column;
    if (choices.rows <= 0 && (room > 0 || row < 0)) parts.shift.row = room - row;
    for (HolePart& p : parts.all)
        if (p.put) p.put->at = {p.put->at.column + parts.shift.column, p.put->at.row + parts.shift.row};
    parts.wishes.move(parts.shift.column, parts.shift.row);
}

}  // namespace

Result<HoleParts> hole_parts(const Circuit& circuit, const BoardChoices& choices) {
    auto parts = mounted(circuit, choices);
    if (!parts) return parts.error();
    HoleParts out{&circuit, {}, {}, {}, {}};
    auto wishes = hole_wishes(circuit, choices);
    if (!wishes) return wishes.error();
    out.wishes = std::move(wishes).value();
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
        bend_legs(out.all.back());
    }
    if (spots_are_for(choices, choices.method))
        for (std::size_t k = 0; k < choices.spots.size(); ++k)
            if (!choices.spots[k].of_face)
                if (auto error = put(out, choices.spots[k], k)) return *error;
    put_face_lights(out, choices);
    const bool is_drawn = choices.shape == "outline" && keeps_its_size(choices, choices.method);
    if (!is_drawn) from_the_corner(out, choices);
    return out;
}

Hole placed_hole(Hole offset, const Pose& placement) {
    Hole o = offset;
    for (int k = 0; k < (placement.turn & 3); ++k) o = {-o.row, o.column};
    return {placement.at.column + o.column, placement.at.row + o.row};
}

std::vector<PinHole> placed_pins(const HolePart& p, const Placement& placement) {
    std::vector<PinHole> out;
    for (const auto& [pin, offset] : p.shapes[static_cast<std::size_t>(placement.shape)].pins)
        out.push_back({p.part->designator, pin, pin.empty() ? std::string() : p.part->net(pin),
                       placed_hole(offset, placement.pose())});
    return out;
}

Box placed_body(const GridFootprint& f, const Pose& p) {
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

Box room_taken(const HolePart& part, const Placement& placement) {
    Box room = placed_body(part.shapes[static_cast<std::size_t>(placement.shape)], placement);
    for (const PinHole& pin : placed_pins(part, placement)) {
        const double x = pin.hole.column, y = pin.hole.row;
        room = {std::min(room.x0, x), std::min(room.y0, y), std::max(room.x1, x), std::max(room.y1, y)};
    }
    return room;
}

}  // namespace elkit
