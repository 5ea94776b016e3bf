#pragma once
#include <compare>
#include <map>
#include <optional>
#include <string>
#include <vector>

#include "board/board.hpp"
#include "board/footprint.hpp"
#include "design/design.hpp"
#include "drawing/drawing.hpp"
#include "quantity/figure.hpp"
#include "quantity/progress.hpp"
#include "quantity/result.hpp"

namespace elkit {

inline constexpr double pad_pitch = 2.54;  ///< mm between holes

/// A hole of the board, counted from 0 at the top left of the component side.
struct Hole {
    int column = 0, row = 0;
    auto operator<=>(const Hole&) const = default;
};
/// "C4": column letter, row number, as printed beside the board; "AB12" from the 27th column on.
std::string hole_name(Hole hole);

/// A footprint on the grid of holes: pads at whole holes, body in hole units.
struct GridFootprint {
    std::vector<std::pair<std::string, Hole>> pins;  ///< pin name (empty for a lead without a net) and hole
    Box body{};
    double height = 0;  ///< mm above the board
    bool edge = false;  ///< belongs at the edge: leads, switch
    std::string picture;
};
GridFootprint on_grid(const Footprint& footprint);

struct Placement {
    std::string designator;
    Hole at;       ///< hole of the footprint's first pin
    int turn = 0;  ///< quarter turns clockwise, seen from the component side
    bool operator==(const Placement&) const = default;
};

struct PinHole {
    std::string designator, pin, net;
    Hole hole;
};

/// A solder joint between two pads side by side.
struct Bridge {
    Hole a, b;
    bool operator==(const Bridge&) const = default;
};
/// An insulated wire on the solder side, joint to joint.
struct Jumper {
    Hole a, b;
    bool operator==(const Jumper&) const = default;
};

/// A finished pad-board layout. Derived from the design; the same design gives the same layout.
struct PadLayout {
    int columns = 0, rows = 0;
    std::vector<Placement> placements;
    std::vector<PinHole> pins;
    std::vector<Bridge> bridges;
    std::vector<Jumper> jumpers;

    double width() const { return columns * pad_pitch; }  ///< mm
    double height() const { return rows * pad_pitch; }
    const Placement* placement(std::string_view designator) const;
};

/// Holes of a placed part, and the box its body takes, in hole units.
std::vector<PinHole> placed_pins(const Part& part, const Placement& placement);
Hole placed_hole(Hole offset, const Placement& placement);
Box placed_body(const GridFootprint& footprint, const Placement& placement);

/// The pad board as a method of making boards.
BoardMethod pad_method();

/// Parts that one pad board takes: more would be placed badly, after a long wait.
inline constexpr std::size_t most_on_pads = 300;

/// Places the parts (Placer, fixed seeds), equal strings of lights as equal columns, on boards of several
/// shapes; joins their pads, and varies the board that comes out best. Solder bridges join, and where
/// there is no way through, insulated wire jumpers. Errors: more than most_on_pads parts; connectivity
/// errors; board choices too small for the parts; stopped by `progress`, which is asked before each try.
Result<PadLayout> lay_out_board(const Circuit& circuit, const BoardChoices& choices,
                                const Progress& progress = {});

/// Quick is for the many boards that are only compared.
enum class RouteEffort { quick, thorough };
/// Joins the pads of each net in place: fills `bridges` and `jumpers` of a layout whose parts are placed.
void route_board(PadLayout& layout, RouteEffort effort = RouteEffort::thorough);

/// What the layout really connects: groups of "R1.a" found by following bridges and jumpers, no net names
/// used.
std::vector<std::vector<std::string>> extract_groups(const PadLayout& layout);

/// Compares extract_groups() with the circuit. Empty if they are the same; otherwise a sentence for each
/// difference.
std::vector<std::string> layout_differences(const PadLayout& layout, const Circuit& circuit);

/// Pads that lie side by side and belong to different nets: here solder must not flow.
std::vector<Bridge> isolation_gaps(const PadLayout& layout);

/// The net of every pad that carries a lead or solder, found by following bridges and jumpers from the pins.
std::map<Hole, std::string> pad_nets(const PadLayout& layout);

/// Picture in mm. Refs: part:D, hole:C4, bridge, jumper. The solder side is mirrored left to right.
Drawing draw_component_side(const PadLayout& layout, const Circuit& circuit);
Drawing draw_solder_side(const PadLayout& layout, const Circuit& circuit);

}  // namespace elkit
