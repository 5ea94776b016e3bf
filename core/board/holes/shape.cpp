#include "board/holes/shape.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

#include "board/board.hpp"
#include "outline/shapes.hpp"

namespace elkit {
namespace {

constexpr int most_holes = 200;      // along a side, as may be chosen
constexpr double hole_to_rim = 1.2;  // mm from the middle of a hole: as much as along a line of holes

Outline moved(Outline outline, double dx, double dy) {
    for (auto& [x, y] : outline) x += dx, y += dy;
    return outline;
}

double place_of(int hole) { return (hole + 0.5) * hole_pitch; }

/// Holes of each row that lie beyond the outline, as few boxes.
std::vector<Box> beyond(const Outline& outline, const Substrate& s) {
    std::vector<Box> all;
    for (int row = 0; row < s.rows; ++row)
        for (int column = 0, from = -1; column <= s.columns; ++column) {
            const double x = place_of(column), y = place_of(row);
            const bool off =
                column < s.columns && (!is_inside(outline, x, y) || to_rim(outline, x, y) < hole_to_rim);
            if (off && from < 0) from = column;
            if (off || from < 0) continue;
            const Box run{from - 0.5, row - 0.5, column - 0.5, row + 0.5};
            const auto above = std::find_if(all.begin(), all.end(), [&](const Box& b) {
                return b.x0 == run.x0 && b.x1 == run.x1 && b.y1 == run.y0;
            });
            if (above != all.end())
                above->y1 = run.y1;
            else
                all.push_back(run);
            from = -1;
        }
    return all;
}

/// Copper ends at the outline, and where a hole for a screw is as wide as the strip.
void part_groups(Substrate& s) {
    constexpr double half_strip = 1;  // mm
    const auto is_left = [&](Hole h) {
        return is_inside(s.outline, place_of(h.column), place_of(h.row)) &&
               std::none_of(s.screws.begin(), s.screws.end(), [&](const Substrate::Screw& screw) {
                   return screw.hole == h && screw.diameter / 2 >= half_strip;
               });
    };
    const auto is_sawn_between = [&](Hole a, Hole b) {  // a slot may be narrower than from hole to hole
        const double y = place_of(a.row);
        for (std::size_t k = 0; k < s.outline.size(); ++k) {
            const auto [x0, y0] = s.outline[k];
            const auto [x1, y1] = s.outline[(k + 1) % s.outline.size()];
            if ((y0 > y) == (y1 > y)) continue;
            const double x = x0 + (y - y0) / (y1 - y0) * (x1 - x0);
            if (x > place_of(a.column) && x < place_of(b.column)) return true;
        }
        return false;
    };
    std::vector<std::vector<Hole>> parted;
    for (const auto& group : s.groups) {
        bool goes_on = false;
        for (const Hole h : group) {
            const bool left = is_left(h);
            if (left && (!goes_on || is_sawn_between(parted.back().back(), h))) parted.emplace_back();
            if (left) parted.back().push_back(h);
            goes_on = left;
        }
    }
    s.groups = std::move(parted);
}

/// The box of what was put already, and how far its corners are from its middle, in holes.
struct Put {
    Box box{1e9, 1e9, -1e9, -1e9};
    double reach = 0;
};
Put what_was_put(const HoleParts& parts) {
    Put put;
    Box& all = put.box;
    const auto each = [&](auto take) {
        for (const HolePart& p : parts.all)
            if (p.put) take(room_taken(p, *p.put));
    };
    each([&](const Box& b) {
        all = {std::min(all.x0, b.x0), std::min(all.y0, b.y0), std::max(all.x1, b.x1),
               std::max(all.y1, b.y1)};
    });
    const double x = (all.x0 + all.x1) / 2, y = (all.y0 + all.y1) / 2;
    each([&](const Box& b) {
        put.reach =
            std::max(put.reach, std::hypot(std::max(b.x1 - x, x - b.x0), std::max(b.y1 - y, y - b.y0)));
    });
    return put;
}

HoleParts moved(HoleParts parts, int columns, int rows) {
    for (HolePart& p : parts.all)
        if (p.put) p.put->at = {p.put->at.column + columns, p.put->at.row + rows};
    parts.wishes.move(columns, rows);
    parts.shift = {parts.shift.column + columns, parts.shift.row + rows};
    return parts;
}

int holes_along(double mm) { return static_cast<int>(std::ceil(mm / hole_pitch - 1e-9)); }

}  // namespace

Result<BoardShape> BoardShape::chosen(const BoardChoices& choices) {
    BoardShape shape;
    shape.screw_ = choices.corner_holes;
    if (choices.shape == "rounded" || choices.shape == "round" || choices.shape == "outline")
        shape.kind_ = choices.shape;
    if (!shape.drawn()) return shape;
    auto outline = read_outline(choices.outline);
    if (!outline) return outline.error();
    if (outline.value().size() < 3)
        return Error{Fault::design, "/board/outline", "no outline is drawn, neither here nor for the face",
                     "a face with a drawn outline, or SVG path data in mm, as M0 0 L40 0 L20 30 Z"};
    shape.drawn_ = std::move(outline).value();
    const Hole sides = shape.rectangle_for(0, 0);
    if (std::max(sides.column, sides.row) > most_holes)
        return Error{Fault::design, "/board/outline",
                     fmt::format("the outline takes {} × {} holes", sides.column, sides.row),
                     fmt::format("at most {} either way", most_holes)};
    return shape;
}

Hole BoardShape::rectangle_for(int columns, int rows) const {
    if (drawn()) {
        const OutlineBox box = box_around(drawn_);
        return {holes_along(box.x1 - box.x0), holes_along(box.y1 - box.y0)};
    }
    const int under_head = screw_ > 0 ? static_cast<int>(std::ceil(2 * screw_ / hole_pitch)) : 0;
    const int holes = columns * rows + 4 * under_head * under_head;
    if (round()) {
        const int across = static_cast<int>(std::ceil(std::sqrt(holes * 4 / std::numbers::pi))) + 1;
        return {across, across};
    }
    return {columns, (holes + columns - 1) / columns};
}

std::pair<double, double> BoardShape::drawing_to_board() const {
    const OutlineBox box = box_around(drawn_);
    const Hole sides = rectangle_for(0, 0);
    return {(sides.column * hole_pitch - box.x1 - box.x0) / 2,
            (sides.row * hole_pitch - box.y1 - box.y0) / 2};
}

Outline BoardShape::outline_on(const Substrate& s) const {
    if (kind_ == "rounded") return rounded_shape(s.width(), s.height());
    if (round()) {
        const double across = std::min(s.width(), s.height());
        return moved(round_shape(across), (s.width() - across) / 2, (s.height() - across) / 2);
    }
    if (!drawn()) return rectangle_shape(s.width(), s.height());
    const auto [x, y] = drawing_to_board();
    return moved(drawn_, x, y);
}

/// The hole nearest to a place around which its head is on the board; the nearest if there is none near.
Hole BoardShape::hole_for_screw(const Substrate& s, double x, double y) const {
    const Hole nearest{static_cast<int>(std::lround(x / hole_pitch - 0.5)),
                       static_cast<int>(std::lround(y / hole_pitch - 0.5))};
    Hole best = nearest;
    double least = 1e9;
    for (int dr = -2; dr <= 2; ++dr)
        for (int dc = -2; dc <= 2; ++dc) {
            const Hole h{nearest.column + dc, nearest.row + dr};
            const double far = std::hypot(place_of(h.column) - x, place_of(h.row) - y);
            const bool on = is_inside(s.outline, place_of(h.column), place_of(h.row)) &&
                            to_rim(s.outline, place_of(h.column), place_of(h.row)) >= screw_;
            if (on && far < least) least = far, best = h;
        }
    return best;
}

Substrate BoardShape::cut_from(Substrate s) const {
    if (plain()) return s;
    s.outline = outline_on(s);
    s.off = beyond(s.outline, s);
    s.shape = round() ? "round" : drawn() ? "as drawn" : kind_ == "rounded" ? "rounded corners" : "";
    if (!s.shape.empty()) s.size += ", " + s.shape;
    std::vector<Hole> places;
    if (screw_ <= 0) {
        part_groups(s);
        return s;
    }
    for (const auto& [x, y] : corner_places(s.outline, screw_)) places.push_back(hole_for_screw(s, x, y));
    if (!drawn())  // whichever way the board is turned
        for (std::size_t k = 1; k < places.size(); ++k)
            places[k] = {k / 2 == 0 ? places[0].column : s.columns - 1 - places[0].column,
                         k % 2 == 0 ? places[0].row : s.rows - 1 - places[0].row};
    for (const Hole hole : places) {
        s.screws.push_back({hole, screw_});
        s.off.push_back(s.screws.back().head());
    }
    part_groups(s);
    return s;
}

bool keeps_its_size(const BoardChoices& choices, std::string_view method) {
    const BoardMethod* by = find_board_method(method);
    return by && by->shaped && !by->drawn &&
           (choices.corner_holes > 0 || choices.shape == "rounded" || choices.shape == "round" ||
            choices.shape == "outline");
}

namespace {

bool any_by_hand(const BoardChoices& choices) {
    return spots_are_for(choices, choices.method) &&
           std::any_of(choices.spots.begin(), choices.spots.end(),
                       [](const PartSpot& s) { return !s.of_face; });
}

/// Rectangles to try, the smallest first.
std::vector<Hole> rectangles(const HoleParts& parts, const BoardChoices& choices, const BoardShape& shape,
                             const BoardFamily& family, const Put& put) {
    const auto columns = static_cast<int>(choices.columns), rows = static_cast<int>(choices.rows);
    if (shape.drawn()) return {shape.rectangle_for(0, 0)};
    if (shape.round() && columns + rows > 0) return {{std::max(columns, rows), std::max(columns, rows)}};
    if (columns > 0 && rows > 0) return {{columns, rows}};
    std::vector<Hole> all;
    for (const BoardTry& t : board_tries(parts, choices, family)) {
        Hole size = shape.rectangle_for(t.board.columns, t.board.rows);
        if (put.reach > 0) {  // with a hole beside it all around
            const bool round = shape.round();
            size.column =
                std::max(size.column,
                         static_cast<int>(std::ceil(round ? 2 * put.reach : put.box.x1 - put.box.x0)) + 2);
            size.row = round ? size.column
                             : std::max(size.row, static_cast<int>(std::ceil(put.box.y1 - put.box.y0)) + 2);
        }
        if (columns > 0) size.column = columns;
        if (rows > 0) size.row = rows;
        all.push_back(size);
    }
    const auto area = [](Hole h) { return h.column * h.row; };
    std::sort(all.begin(), all.end(),
              [&](Hole a, Hole b) { return std::pair(area(a), a) < std::pair(area(b), b); });
    constexpr double step = 1.08;  // of area: closer ones tell nothing new
    std::vector<Hole> some;
    for (const Hole size : all)
        if (some.empty() || area(size) > step * area(some.back())) some.push_back(size);
    constexpr int larger = 4, by = 3;  // holes: screws may want room beside what has its place
    for (int k = 0; k < larger; ++k)
        some.push_back(
            {columns > 0 ? columns : some.back().column + by, rows > 0 ? rows : some.back().row + by});
    return some;
}

}  // namespace

Result<HoleLayout> on_shaped_board(const HoleParts& parts, const BoardChoices& choices,
                                   const BoardShape& shape, const BoardFamily& family,
                                   const LayOutOn& lay_out, const Progress& progress) {
    constexpr int enough = 3;  // boards
    // what was put by hand on a board of this size stays; all else that has its place comes into the middle
    const bool of_this_size = (choices.columns > 0 || choices.rows > 0) && any_by_hand(choices);
    const Put put = of_this_size || shape.drawn() ? Put{} : what_was_put(parts);
    const std::vector<Hole> sizes = rectangles(parts, choices, shape, family, put);
    std::optional<HoleLayout> best;
    std::optional<Error> error;
    int found = 0;
    for (std::size_t k = 0; k < sizes.size() && found < enough; ++k) {
        const Hole size = sizes[k];
        const auto middle = [](int holes, double from, double to) {
            return static_cast<int>(std::lround((holes - 1) / 2.0 - (from + to) / 2));
        };
        const HoleParts there = put.reach > 0 ? moved(parts, middle(size.column, put.box.x0, put.box.x1),
                                                      middle(size.row, put.box.y0, put.box.y1))
                                              : parts;
        BoardChoices sides = choices;
        sides.columns = size.column, sides.rows = size.row;
        const Progress told = [&](std::string_view what, double done) {
            return !progress ||
                   progress(what, (static_cast<double>(k) + done) / static_cast<double>(sizes.size()));
        };
        auto laid = lay_out(
            there, sides, [&](int columns, int rows) { return shape.cut_from(family.board(columns, rows)); },
            told);
        if (!laid) {
            error = laid.error();
            if (error->fault == Fault::usage) break;  // stopped
            continue;
        }
        ++found;
        if (!best || wires_to_spare(laid.value()) < wires_to_spare(*best)) best = std::move(laid).value();
        if (wires_to_spare(*best) == 0) break;
    }
    if (best) return std::move(*best);
    return *error;
}

Result<HoleLayout> on_chosen_board(const HoleParts& parts, const BoardChoices& choices,
                                   const BoardFamily& family, const LayOutOn& lay_out,
                                   const Progress& progress) {
    const auto shape = BoardShape::chosen(choices);
    if (!shape) return shape.error();
    if (shape.value().plain()) return lay_out(parts, choices, family.board, progress);
    return on_shaped_board(parts, choices, shape.value(), family, lay_out, progress);
}

}  // namespace elkit
