#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "quantity/result.hpp"

namespace elkit {

/// A tool of the mill.
struct MillTool {
    std::string id, name, kind;   ///< kind: "engraver", "mill", "drill"
    double tip = 0;               ///< mm across; of an engraver its flat end
    double angle = 0;             ///< degrees between the sides of an engraver
    double depth = 0;             ///< mm, of one pass
    double runout = 0;            ///< mm that it cuts wider than it is
    double feed = 0, plunge = 0;  ///< mm/min
    double speed = 0;             ///< 1/min
    /// mm that it clears at its depth: tip + 2 · depth · tan(angle / 2) + runout.
    double width() const;
};

/// What a board is made of.
struct BoardMaterialKind {
    std::string id, name;
    double thickness = 0;  ///< mm
    double copper = 0;     ///< µm
};

/// A way to make boards of copper: what it can do, what with, and what it takes. Lengths in mm.
struct Making {
    std::string id, name, about, process;   ///< process: "milled", "ordered"
    int layers = 1, most_layers = 1;        ///< of copper: as usual, and at most
    double track = 0, track_least = 0;      ///< as wide as usual, and at least
    double gap = 0;                         ///< between copper of different nets
    double ring = 0, land_ring = 0;         ///< copper around a hole: at least, and as usual
    double hole_least = 0, hole_gap = 0;    ///< diameter; from hole to hole
    double hole_edge = 0, copper_edge = 0;  ///< to the edge of the board
    std::vector<double> holes;              ///< diameters that there are; empty: any
    bool plated = false, links = false, legend = false, mask = false;
    std::string via;  ///< how layers are joined: "plated", "wire" soldered on both sides, "none"
    std::string material, isolate, clear, cut, drill;  ///< ids; tools only where it is milled
    int passes = 1;                                    ///< around everything, side by side
    double overlap = 0;                                ///< of passes, as a part of the width
    double setup_minutes = 0, board_minutes = 0, setup_cost = 0, area_cost = 0;  ///< cost: currency, per cm²
    double days = 0;                                                             ///< until it is in hand
    bool own = false;

    bool milled() const { return process == "milled"; }
    double hole(
        double least) const;  ///< the smallest that there is and that passes this; the largest if none
};

/// Everything that boards of copper are made by.
struct MakingTable {
    std::vector<MillTool> tools;
    std::vector<BoardMaterialKind> materials;
    std::vector<Making> methods;

    const MillTool* tool(std::string_view id) const;  ///< nullptr if unknown
    const BoardMaterialKind* material(std::string_view id) const;
    const Making* method(std::string_view id) const;
};
/// That of data/catalogue/making.json, with the user's own.
const MakingTable& makings();
/// Reads such a table, whose entries may refer to those known already. File error naming list, entry and what
/// is missing, twice, unknown or impossible.
Result<MakingTable> read_makings(std::string_view json, const MakingTable& known = {});
/// Takes up a user's own; one of a known id replaces it. To be called before any board is made.
void add_own_makings(MakingTable own);

}  // namespace elkit
