#pragma once
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "board/holes/hole.hpp"
#include "board/holes/wishes.hpp"
#include "board/mount.hpp"
#include "circuit/part.hpp"
#include "drawing/drawing.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A footprint on the grid of holes: pads at whole holes, body in hole units.
struct GridFootprint {
    std::vector<std::pair<std::string, Hole>> pins;  ///< pin name (empty for a lead without a net) and hole
    Box body{};
    double height = 0;  ///< mm above the board
    bool edge = false;  ///< belongs at the edge: leads, switch
    std::string picture;
};
GridFootprint on_grid(const Footprint& footprint);
/// A part of two legs in a row with them bent to so many holes from each other; its body stays in the middle,
/// and is as much longer if it `grows`, as the room of one does that lies between them.
GridFootprint bent(const GridFootprint& shape, int span, bool grows);
/// Holes from the first leg to the second, of a part of two in a row; 0 of any other.
int span_of(const GridFootprint& shape);

/// How something lies on a board of holes.
struct Pose {
    Hole at;        ///< hole of the footprint's first pin
    int turn = 0;   ///< quarter turns clockwise, seen from the component side
    int shape = 0;  ///< which of its shapes
};

struct Placement {
    std::string designator;
    Hole at;        ///< hole of the footprint's first pin
    int turn = 0;   ///< quarter turns clockwise, seen from the component side
    int shape = 0;  ///< which of its shapes
    Pose pose() const { return {at, turn, shape}; }
    bool operator==(const Placement&) const = default;
};

/// A part as it goes into holes.
struct HolePart {
    const Part* part;
    PartPlace place;
    Footprint footprint;
    std::vector<GridFootprint> shapes;  ///< the ways its legs can be bent; the first as its footprint says
    std::optional<Placement> put{};     ///< where it was put by hand
    bool stays = false;                 ///< there, whatever else is laid anew
};

inline constexpr int room_to_move = 6;  ///< holes round parts that were all put by hand

/// How far a hand bends the legs of what looks so, in holes.
struct Bends {
    const char* picture;
    int least, most;
};

/// How well the holes suit lights that stand where the face has them.
struct BesideFace {
    std::string furthest{};  ///< the light that stands furthest beside its place; empty: none is of the face
    double beside = 0;       ///< mm
};

/// All parts of a circuit, in its order. The circuit must outlive it.
struct HoleParts {
    const Circuit* circuit;
    std::vector<HolePart> all;
    HoleWishes wishes{};
    BesideFace face{};
    Hole shift{};  ///< how far all that was put or wished by hand lies from where the design says

    const HolePart& of(const Part& part) const {
        return all[static_cast<std::size_t>(&part - circuit->parts.data())];
    }
    /// True if each was put somewhere by hand; false if there are none.
    bool all_put() const;
    /// True if something has its place, so that the board cannot be turned or made smaller anywhere.
    bool any_fixed() const;
    std::vector<std::string> on_wires() const;  ///< designators of what is not on the board
};
/// Errors: as of mounted(); a footprint whose legs do not reach holes of their own; a spot of no part.
Result<HoleParts> hole_parts(const Circuit& circuit, const BoardChoices& choices);

struct PinHole {
    std::string designator, pin, net;
    Hole hole;
};

/// Holes of a placed part, and the box its body takes, in hole units.
std::vector<PinHole> placed_pins(const HolePart& part, const Placement& placement);
Hole placed_hole(Hole offset, const Pose& pose);
/// The body and the holes of a placed part, in hole units.
Box room_taken(const HolePart& part, const Placement& placement);
Box placed_body(const GridFootprint& footprint, const Pose& pose);
inline Box placed_body(const GridFootprint& footprint, const Placement& placement) {
    return placed_body(footprint, placement.pose());
}

}  // namespace elkit
