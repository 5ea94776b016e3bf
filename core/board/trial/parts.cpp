// How far legs are bent for the sockets of a breadboard.
#include <cmath>

#include "board/trial/trial_board.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

struct Bend {
    const char* picture;
    int least, most;  // holes from leg to leg
};
/// What a hand bends without strain on the body.
constexpr Bend bends[]{{"axial", 3, 7}, {"dome", 1, 3},     {"disc", 1, 4},
                       {"can", 1, 3},   {"standing", 1, 4}, {"can-lying", 1, 3}};

/// The same part with its legs another span apart; its body stays in the middle.
GridFootprint bent(const GridFootprint& shape, int span) {
    GridFootprint other = shape;
    const double shift = (span - shape.pins[1].second.column) / 2.0;
    other.pins[1].second.column = span;
    other.body.x0 += shift, other.body.x1 += shift;
    return other;
}

}  // namespace

Result<HoleParts> trial_parts(const Circuit& circuit, const BoardChoices& choices) {
    auto parts = hole_parts(circuit, wired_choices(circuit, choices));
    if (!parts) return parts;
    for (HolePart& p : parts.value().all) {
        GridFootprint& shape = p.shapes.front();
        p.put.reset(), p.stays = false;  // those were holes of the board to come
        shape.edge = false;
        // cells and what else hangs on leads stay beside it, whatever holds them later: cells come last
        if (is(*p.part, Role::on_leads) && p.place == PartPlace::board) p.place = PartPlace::leads;
        if (p.place != PartPlace::board) {
            shape.pins.clear();  // its wires are plugged where the net is
            continue;
        }
        if (shape.picture == "axial") {  // its body is not as long as its legs
            const double middle = (shape.body.x0 + shape.body.x1) / 2, half = 1.3;
            shape.body.x0 = middle - half, shape.body.x1 = middle + half;
        }
        if (shape.pins.size() != 2 || shape.pins[1].second.row != 0) continue;
        const GridFootprint straight = shape;  // the list of shapes grows below
        const int own = straight.pins[1].second.column;
        for (const Bend& bend : bends) {
            if (straight.picture != bend.picture) continue;
            for (int span = bend.least; span <= std::max(own, bend.most); ++span)
                if (span != own) p.shapes.push_back(bent(straight, span));
        }
    }
    return parts;
}

}  // namespace elkit
