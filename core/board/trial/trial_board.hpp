#pragma once
#include <string>
#include <vector>

#include "board/board.hpp"
#include "board/holes/layout.hpp"
#include "quantity/progress.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A trial on a solderless breadboard, as a method of making boards; it is none to give away.
BoardMethod trial_method();

/// The parts as they go into sockets: legs bent to several spans, wires of what is beside it plugged in last.
Result<HoleParts> trial_parts(const Circuit& circuit, const BoardChoices& choices);

/// The smallest breadboard that does, or the chosen one: chips across the channel, supplies in the rails, as
/// few wires as it gets. Errors as of best_layout(); an unknown size of breadboard or school of colours.
Result<HoleLayout> lay_out_trial(const HoleParts& parts, const BoardChoices& choices,
                                 const Progress& progress = {});

/// The net of each rail, by group of the board; −1 for what is no rail. The supplies' nets with the most
/// legs.
std::vector<std::string> rail_nets(const Substrate& board, const Circuit& circuit);

/// Plugs in what sits beside the board and joins the groups of each net by wires, in free holes, without
/// colours. What finds none stays open, as layout_differences() then tells.
void join_trial(HoleLayout& layout, const HoleParts& parts);

/// Schools of colours for plug-in wires: by use, red for plus, black for minus and one for each other net; or
/// by length, the digits of IEC 60062 for its holes, as kits of cut wires have it.
struct WireSchool {
    std::string id, name;
};
const std::vector<WireSchool>& wire_schools();
/// Names a colour for each wire by this school.
void colour_wires(HoleLayout& layout, const Circuit& circuit, const std::string& school);
unsigned colour_of_wire(std::string_view name);  ///< 0xrrggbb

Drawing draw_trial(const HoleLayout& layout, const HoleParts& parts);

}  // namespace elkit
