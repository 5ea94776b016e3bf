// How far legs are bent for the sockets of a breadboard.
#include <cmath>

#include "board/trial/trial_board.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

/// What a hand bends without strain on the body.
constexpr Bends bends_of_hand[]{{"axial", 3, 7}, {"dome", 1, 3},     {"disc", 1, 4},
                                {"can", 1, 3},   {"standing", 1, 4}, {"can-lying", 1, 3}};

}  // namespace

Result<HoleParts> trial_parts(const Circuit& circuit, const BoardChoices& choices) {
    auto parts = hole_parts(circuit, wired_choices(circuit, choices));
    if (!parts) return parts;
    parts.value().wishes = {}, parts.value().face = {};  // of the board to come, as where parts were put
    for (HolePart& p : parts.value().all) {
        p.shapes.resize(1), p.put.reset(), p.stays = false;
        GridFootprint& shape = p.shapes.front();
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
        const GridFootprint straight = shape;  // the list of shapes grows below
        const int own = span_of(straight);
        if (own == 0) continue;
        for (const Bends& bends : bends_of_hand) {
            if (straight.picture != bends.picture) continue;
            for (int span = bends.least; span <= std::max(own, bends.most); ++span)
                if (span != own) p.shapes.push_back(bent(straight, span, false));
        }
    }
    return parts;
}

}  // namespace elkit
