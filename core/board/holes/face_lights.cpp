#include "board/holes/face_lights.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <optional>
#include <utility>

#include "board/holes/shape.hpp"

namespace elkit {
namespace {

struct Light {
    HolePart* part;
    double x, y;  // of its middle on the face, in holes
};

std::vector<Light> lights_of_face(HoleParts& parts, const BoardChoices& choices) {
    std::vector<Light> lights;
    for (const PartSpot& spot : choices.spots)
        for (HolePart& p : parts.all)
            if (spot.of_face && p.part->designator == spot.part && p.place == PartPlace::board && !p.put)
                lights.push_back({&p, spot.x / hole_pitch, spot.y / hole_pitch});
    return lights;
}

/// From its first leg to the middle of its body, turned so.
std::pair<double, double> middle(const HolePart& part, int turn) {
    const Box b = placed_body(part.shapes.front(), Pose{{0, 0}, turn});
    return {(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2};
}

/// Of ways to lay the face over the lines of holes, the one where no light stands further beside its line
/// than it must: `wanted` are where their first legs would be.
struct HoleLine {
    double shift = 0, furthest = std::numeric_limits<double>::infinity();  // holes
};
HoleLine line_at(double shift, const std::vector<double>& wanted) {
    double furthest = 0;
    for (const double at : wanted)
        furthest = std::max(furthest, std::abs(at + shift - std::round(at + shift)));
    return {shift, furthest};
}
HoleLine best_line(const std::vector<double>& wanted) {
    constexpr int steps = 20;  // of a hole
    HoleLine best;
    for (int step = 0; step < steps; ++step)
        if (const HoleLine line = line_at(static_cast<double>(step) / steps, wanted);
            line.furthest < best.furthest - 1e-9)
            best = line;
    return best;
}

struct Laid {
    int turn = 0;
    HoleLine across, down;
    double worst() const { return std::hypot(across.furthest, down.furthest); }
};

/// Where an outline drawn with the face lies on its board, in holes from where it was drawn.
std::optional<std::pair<double, double>> board_under_face(const BoardChoices& choices) {
    if (!keeps_its_size(choices, choices.method)) return {};
    const auto shape = BoardShape::chosen(choices);
    if (!shape || !shape.value().drawn()) return {};
    const auto [x, y] = shape.value().drawing_to_board();
    return std::pair{x / hole_pitch - 0.5, y / hole_pitch - 0.5};
}

}  // namespace

void put_face_lights(HoleParts& parts, const BoardChoices& choices) {
    const auto lights = lights_of_face(parts, choices);
    if (lights.empty()) return;
    const bool others = std::any_of(parts.all.begin(), parts.all.end(), [](const auto& p) { return p.put; });
    const auto drawn = board_under_face(choices);
    Laid best;
    const bool across_strips = choices.method == "strip";  // else both legs of one would be on one strip
    for (const int turn : across_strips ? std::vector{1} : std::vector{0, 1}) {
        std::vector<double> columns, rows;
        for (const Light& l : lights) {
            const auto [x, y] = middle(*l.part, turn);
            columns.push_back(l.x - x), rows.push_back(l.y - y);
        }
        const Laid laid = drawn ? Laid{turn, line_at(drawn->first, columns), line_at(drawn->second, rows)}
                                : Laid{turn, best_line(columns), best_line(rows)};
        if (laid.worst() < best.worst() - 1e-9) best = laid;
    }
    const auto hole = [](double wanted, double shift) {
        return static_cast<int>(std::lround(wanted + shift));
    };
    for (const Light& l : lights) {
        const auto [x, y] = middle(*l.part, best.turn);
        const Hole at{hole(l.x - x, best.across.shift), hole(l.y - y, best.down.shift)};
        l.part->put = Placement{l.part->part->designator, at, best.turn};
        l.part->stays = !others;
        const double beside = hole_pitch * std::hypot(at.column + x - l.x - best.across.shift,
                                                      at.row + y - l.y - best.down.shift);
        if (parts.face.furthest.empty() || beside > parts.face.beside + 1e-6)
            parts.face = {l.part->part->designator, beside};
    }
}

}  // namespace elkit
