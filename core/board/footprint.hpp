#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "circuit/part.hpp"
#include "circuit/part_kind.hpp"
#include "drawing/drawing.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A place where a part is soldered, in mm from its first pad.
struct Pad {
    std::string pin;  ///< of the part; in the catalogue its number in the kind's order; empty: leads nowhere
    double x = 0, y = 0;
    double width = 0, height = 0;  ///< mm of a land on the surface; 0: a leg goes through a hole
};

/// The room that a part takes, lying with its first pad at (0, 0), seen from above. From
/// data/catalogue/footprints.json.
struct Footprint {
    std::string id, name;
    std::vector<Pad> pads;
    Box body{};                        ///< mm
    double height = 0;                 ///< mm above the board
    double drill = 0.8;                ///< mm: the hole that its legs go through
    std::string picture;               ///< how its body is drawn
    bool edge = false;                 ///< belongs at the edge: leads, switches, plugs
    double power = 0;                  ///< W that resistors of this size usually carry; 0: as the part says
    std::string opens;                 ///< its side that must look off the board: "left", "down", …
    bool socket = false;               ///< what is soldered is a socket
    double row = 0;                    ///< mm; above 0: one pad for each pin in use, in a row this far apart
    bool surface = false;              ///< soldered on lands of the component side, through no hole
    std::vector<std::size_t> usual{};  ///< pins of the kind, by number, at its pads where no legs are chosen;
                                       ///< empty: in the kind's order
    std::vector<std::string> kinds{};  ///< that it suits, where the user added it; those of the catalogue
                                       ///< are named by the kinds
    bool own = false;                  ///< added by the user
};

/// All footprints: those of the catalogue, then the user's own.
std::vector<const Footprint*> footprints();
const Footprint* find_footprint(std::string_view id);  ///< nullptr if unknown
/// Reads a table of footprints; file error naming the entry, what is missing, twice or impossible.
Result<std::vector<Footprint>> read_footprints(std::string_view json);
/// Takes up a user's own, whose ids must be free; to be called before any part is placed.
void add_own_footprints(std::vector<Footprint> own);

/// Those that a part of this kind can have, each once: the kind's, then the user's own.
std::vector<const Footprint*> footprint_choices(const PartKind& kind);

/// The order of legs that a part of this kind has in this footprint where none is chosen: "c b e".
std::string usual_legs(const PartKind& kind, const Footprint& shape);
/// The first through holes that suits this part: for what has no lands on its component side.
const Footprint* wired_footprint(const Part& part);

/// The footprint of this part, with the names of its own pins: the first of its kind's that suits its values.
/// A part without any gets a pad for each of its pins, to be joined by wires.
Footprint footprint(const Part& part);

/// Likewise with the pads of a given one. `legs`: pins in the order of its pads, where they differ from the
/// kind's; empty: the kind's. Pads that no pin of the part is at lead nowhere.
Footprint footprint(const Part& part, const Footprint& shape, const std::vector<std::string>& legs = {});

}  // namespace elkit
