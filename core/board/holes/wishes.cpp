#include "board/holes/wishes.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace elkit {
namespace {

/// mm from the edge in hole units.
double in_holes(double mm) { return mm / hole_pitch - 0.5; }

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
    for (const KeepOut& k : choices.keep_out)
        wishes.free.push_back(
            {in_holes(k.x), in_holes(k.y), in_holes(k.x + k.width), in_holes(k.y + k.height)});
    const auto nets = circuit.nets();
    for (std::size_t k = 0; k < choices.pulls.size(); ++k) {
        const TrackPull& p = choices.pulls[k];
        if (std::find(nets.begin(), nets.end(), p.net) == nets.end())
            return Error{Fault::design, fmt::format("/board/pulls/{}/net", k),
                         "there is no net \"" + p.net + "\"", "a net of the circuit"};
        wishes.pulls.push_back(
            {p.net,
             {static_cast<int>(std::lround(in_holes(p.x))), static_cast<int>(std::lround(in_holes(p.y)))}});
    }
    return wishes;
}

}  // namespace elkit
