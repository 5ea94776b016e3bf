#include "board/holes/wishes.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>

namespace elkit {
namespace {

/// mm from the edge in hole units.
double in_holes(double mm) {
    constexpr double furthest = 1e6;  // mm: what lies beyond is on no board
    return std::clamp(mm, -furthest, furthest) / hole_pitch - 0.5;
}

/// Where sides are not chosen the board reaches as far as what is wished of it: no further than boards are
/// sold.
std::optional<Error> beyond_boards(const BoardChoices& choices, double x, double y,
                                   const std::string& place) {
    constexpr double longest = 160;  // mm
    const bool beyond = (choices.columns <= 0 && x > longest) || (choices.rows <= 0 && y > longest);
    if (!beyond) return {};
    return Error{Fault::design, place,
                 fmt::format("{:.0f} × {:.0f} mm from the corner is beyond any board that is sold", x, y),
                 fmt::format("within {:.0f} mm, or a board of chosen sides", longest)};
}

}  // namespace

bool HoleWishes::keeps_free(Hole h) const {
    return std::any_of(free.begin(), free.end(), [&](const Box& b) { return b.contains(h.column, h.row); });
}

void HoleWishes::move(int columns, int rows) {
    for (Box& b : free) b = {b.x0 + columns, b.y0 + rows, b.x1 + columns, b.y1 + rows};
    for (HolePull& p : pulls) p.hole = {p.hole.column + columns, p.hole.row + rows};
}

Hole HoleWishes::extent() const {
    Hole last{};
    const auto include = [&](double column, double row) {
        last = {std::max(last.column, static_cast<int>(std::floor(column)) + 1),
                std::max(last.row, static_cast<int>(std::floor(row)) + 1)};
    };
    for (const Box& b : free) include(b.x1, b.y1);
    for (const HolePull& p : pulls) include(p.hole.column, p.hole.row);
    return last;
}

Result<HoleWishes> hole_wishes(const Circuit& circuit, const BoardChoices& choices) {
    HoleWishes wishes;
    for (std::size_t k = 0; k < choices.keep_out.size(); ++k) {
        const KeepOut& area = choices.keep_out[k];
        const double right = area.x + area.width, below = area.y + area.height;
        if (auto error = beyond_boards(choices, right, below, fmt::format("/board/keep_out/{}", k)))
            return *error;
        wishes.free.push_back({in_holes(area.x), in_holes(area.y), in_holes(right), in_holes(below)});
    }
    const auto nets = circuit.nets();
    for (std::size_t k = 0; k < choices.pulls.size(); ++k) {
        const TrackPull& p = choices.pulls[k];
        if (std::find(nets.begin(), nets.end(), p.net) == nets.end())
            return Error{Fault::design, fmt::format("/board/pulls/{}/net", k),
                         "there is no net \"" + p.net + "\"", "a net of the circuit"};
        if (auto error = beyond_boards(choices, p.x, p.y, fmt::format("/board/pulls/{}", k))) return *error;
        wishes.pulls.push_back(
            {p.net,
             {static_cast<int>(std::lround(in_holes(p.x))), static_cast<int>(std::lround(in_holes(p.y)))}});
    }
    return wishes;
}

}  // namespace elkit
