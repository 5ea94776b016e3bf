#pragma once
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "drawing/drawing.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A place where a part is soldered, in mm from its first pad.
struct Pad {
    std::string pin;  ///< of the part; empty for a leg that leads nowhere
    double x = 0, y = 0;
};

/// The room that a part takes, lying with its first pad at (0, 0), seen from above. From
/// data/catalogue/footprints.json.
struct Footprint {
    std::string id, name;
    std::vector<Pad> pads;
    Box body{};           ///< mm
    double height = 0;    ///< mm above the board
    std::string picture;  ///< how its body is drawn
    bool edge = false;    ///< belongs at the edge: leads, switches, plugs
    double row = 0;       ///< mm; above 0: one pad for each pin in use, in a row this far apart
};

/// All footprints of the catalogue.
const std::vector<Footprint>& footprints();
const Footprint* find_footprint(std::string_view id);  ///< nullptr if unknown
/// Reads a table of footprints; file error with what is missing.
Result<std::vector<Footprint>> read_footprints(std::string_view json);

/// The footprint of this part, with the names of its own pins: the first of its kind's that suits its values.
/// A part without any gets a pad for each of its pins, to be joined by wires.
Footprint footprint(const Part& part);

}  // namespace elkit
