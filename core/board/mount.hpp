#pragma once
#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "board/footprint.hpp"
#include "circuit/part.hpp"
#include "design/design.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Where a part sits: on the board; beside it, soldered by wires or plugged by wires; in the panel of the
/// gadget, by wires too.
enum class PartPlace { board, leads, plug, panel };
inline constexpr std::array part_places{PartPlace::board, PartPlace::leads, PartPlace::plug,
                                        PartPlace::panel};
std::string_view place_id(PartPlace place);    ///< as in the file: "board", "leads", "plug", "panel"
std::string_view place_name(PartPlace place);  ///< "on the board", "on leads", "on a plug", "in the panel"

/// A part and what of it is on the board.
struct Mounted {
    const Part* part;
    PartPlace place;
    Footprint footprint;
};

/// All parts of a circuit as the choices say, in its order. Design error naming the choice: an unknown part,
/// footprint, place or leg order, a pin without a pad.
Result<std::vector<Mounted>> mounted(const Circuit& circuit, const BoardChoices& choices);

/// The same with a footprint through holes for each part that is soldered on the surface: for boards that
/// have no lands on their component side, to try it or to group it.
BoardChoices wired_choices(const Circuit& circuit, BoardChoices choices);
/// Parts that are soldered on the surface: designators.
std::vector<std::string> surface_parts(const Circuit& circuit, const BoardChoices& choices);

/// True where the order of a part's legs has to be chosen: makers differ, and it has three.
bool legs_to_choose(const PartKind& kind);
/// Every order of its legs, that of this footprint first: "c b e".
std::vector<std::string> leg_orders(const PartKind& kind, const Footprint& shape);
/// True if makers agree about the legs in this footprint.
bool legs_agreed(const Footprint& shape);

/// What is chosen for a part; empty words where nothing is.
PartMount mount_of(const BoardChoices& choices, const std::string& designator);
/// The design with this choice instead of the last. Design error: the part, or as of mounted().
Result<Design> with_mount(Design design, const PartMount& mount);

}  // namespace elkit
