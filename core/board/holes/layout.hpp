#pragma once
#include <functional>
#include <map>
#include <string>
#include <string_view>
#include <vector>

#include "board/board.hpp"
#include "board/holes/parts.hpp"
#include "board/holes/substrate.hpp"
#include "circuit/part.hpp"
#include "drawing/drawing.hpp"

namespace elkit {

/// A solder joint between two pads side by side.
struct Bridge {
    Hole a, b;
    bool operator==(const Bridge&) const = default;
};

/// A wire from hole to hole.
struct Wire {
    enum class Kind {
        jumper,  ///< insulated, on the solder side, joint to joint
        link,    ///< bare and straight, on the component side, in holes of its own
        plugged  ///< insulated, into sockets
    };
    Hole a, b;
    Kind kind = Kind::jumper;
    std::string net{}, colour{};  ///< of plugged ones; the colour by name
    bool operator==(const Wire&) const = default;
};

/// A finished layout on a board of holes. Derived from the design; the same design gives the same layout.
struct HoleLayout {
    Substrate board;
    std::vector<Placement> placements;
    std::vector<PinHole> pins;  ///< also of parts that only their wires are on the board of
    std::vector<Bridge> bridges;
    std::vector<Wire> wires;
    std::vector<Hole> cuts;  ///< holes where the strip is cut
    HoleWishes wishes{};
    Hole origin{};  ///< where places of the design begin

    int columns() const { return board.columns; }
    int rows() const { return board.rows; }
    const Placement* placement(std::string_view designator) const;  ///< nullptr: it is not on the board
    std::size_t count(Wire::Kind kind) const;
};

/// Wires that another layout might do without: on strips links are usual.
std::size_t wires_to_spare(const HoleLayout& layout);

/// mm to cut: the way, and what goes into holes or sockets at both ends, in whole steps of 5 mm.
double wire_length(const Wire& wire);

/// Which pins it really connects: groups of "R1.a" found by following what is joined from the start between
/// cuts, bridges and wires; no net names used.
std::vector<std::vector<std::string>> extract_groups(const HoleLayout& layout);

/// Compares extract_groups() with the circuit. Empty if they are the same; otherwise a sentence for each
/// difference.
std::vector<std::string> layout_differences(const HoleLayout& layout, const Circuit& circuit);

/// Soldered holes side by side that belong to different nets: here solder must not flow.
std::vector<Bridge> isolation_gaps(const HoleLayout& layout);

/// The net of every hole that carries a lead, solder or copper that a lead is at, found as by
/// extract_groups().
std::map<Hole, std::string> hole_nets(const HoleLayout& layout);

/// By hole, row by row: 1 where no bare wire lies on the component side, under a body, at a leg, or where the
/// board stays free.
std::vector<char> covered_holes(const HoleLayout& layout, const HoleParts& parts);

/// True if a joint or wire of its net goes over the hole that a pull is at.
bool is_passed(const HoleLayout& layout, const HolePull& pull);

/// Moves everything by whole holes onto another board.
HoleLayout moved(HoleLayout layout, int columns, int rows, Substrate board);

/// Breaks off the rows and columns that nothing uses. `board` makes the smaller one.
void crop(HoleLayout& layout, const HoleParts& parts, bool columns, bool rows,
          const std::function<Substrate(int columns, int rows)>& board);

/// Turns it upside down if its lights, or else its parts, then count up as one reads.
void turn_to_read(HoleLayout& layout, const Circuit& circuit);

/// Picture in mm. Refs: part:D, hole:C4, bridge, wire, cut. The solder side is mirrored left to right.
Drawing draw_component_side(const HoleLayout& layout, const HoleParts& parts);
Drawing draw_solder_side(const HoleLayout& layout, const HoleParts& parts);

/// What any board of holes has: size, pins, what its parts are mounted by, groups, differences, neighbours.
Board board_of(const HoleLayout& layout, const HoleParts& parts);
/// Its pictures from both sides.
void add_sides(Board& board, const HoleLayout& layout, const HoleParts& parts);

}  // namespace elkit
