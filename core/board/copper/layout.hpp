#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "board/board.hpp"
#include "board/copper/geometry.hpp"
#include "board/copper/making.hpp"
#include "board/mount.hpp"
#include "design/design.hpp"
#include "quantity/progress.hpp"

namespace elkit {

/// Copper layers: 0 is the solder side, 1 the component side.
inline constexpr int solder_side = 0, component_side = 1;

/// A part as it lies on a board of copper.
struct CopperPart {
    const Part* part;
    PartPlace place;
    Footprint footprint;
    Point at;         ///< of its first pad
    double turn = 0;  ///< degrees clockwise, seen from the component side
    bool locked = false;

    Point pad(const Pad& p) const;  ///< where this pad of its footprint is
    Ring body() const;              ///< four corners
    Box bounds() const;             ///< of its body
};

/// Copper around a hole that a leg goes through, without plating only on the solder side; or a land on the
/// surface of the component side.
struct CopperPad {
    std::string designator, pin, net;  ///< pin and net empty: a leg that leads nowhere
    Point at;
    double hole = 0, land = 0;               ///< diameters; of what is not round, its longer side
    bool square = false;                     ///< the first of a part that must not be turned round
    double width = 0, height = 0, turn = 0;  ///< of a land on the surface, which has no hole [mm, degrees]

    bool surface() const { return width > 0; }
    bool on(int layer, bool plated) const;  ///< has copper there
    Ring corners(double more = 0) const;    ///< of a land that is not round, so much larger on all sides
    Region copper(double more = 0) const;   ///< its land, so much larger
    double from(Point a, Point b) const;    ///< mm from its land to this line; 0 where they touch
};

struct Track {
    std::string net;
    Point a, b;
    double width = 0;
    int layer = solder_side;
};

/// Joins both layers.
struct Via {
    std::string net;
    Point at;
    double hole = 0, land = 0;
};

/// A bare wire on the component side, its ends soldered on the solder side.
struct WireLink {
    std::string net;
    Point a, b;
    double hole = 0, land = 0;
};

/// Copper that fills what is free.
struct CopperArea {
    std::string net;
    int layer = solder_side;
    Region copper;
};

/// Copper that widens a track towards a land.
struct Teardrop {
    std::string net;
    int layer = solder_side;
    Ring ring;
};

/// Two pads of a net that found no way to each other.
struct Unjoined {
    std::string net;
    Point a, b;
};

struct PlainHole {
    Point at;
    double diameter = 0;
};

/// A finished board of copper. The same design gives the same layout.
struct CopperLayout {
    Making making;
    int layers = 1;
    Ring outline;
    std::vector<CopperPart> parts;  ///< of the circuit, in its order; all are placed
    std::vector<CopperPad> pads;
    std::vector<Track> tracks;
    std::vector<Via> vias;
    std::vector<WireLink> links;
    std::vector<CopperArea> areas;
    std::vector<Teardrop> teardrops;
    std::vector<PlainHole> holes;       ///< for screws
    std::vector<BoardText> texts;       ///< all with a place
    std::vector<std::string> unplaced;  ///< words that found none
    std::vector<KeepOut> keep_out;      ///< free of parts and tracks
    std::vector<TrackPull> pulls;       ///< places that tracks were pulled to
    std::vector<TrackWay> ways;         ///< of the tracks, as they were found
    std::vector<std::string> open;      ///< nets that found no way, in words
    std::vector<Unjoined> unjoined;     ///< of these

    double width() const;         ///< mm
    double height() const;        ///< mm
    double track_length() const;  ///< mm in all
};

inline constexpr double pull_reach = 3.2;  ///< mm from where a track was pulled to, if there is no room
/// True if a track of its net comes by where it was pulled to; else there was no room.
bool is_passed(const CopperLayout& layout, const TrackPull& pull);

/// A piece of copper that belongs to one net, in one piece: a pad's land, a track, a via's land, a teardrop,
/// an area.
struct CopperShape {
    std::string net, what;  ///< "R1 a", "track", "via", "link", "area"
    Point a, b;             ///< its ends; the same for what is round
    double width = 0;       ///< 0: only as a region
    Region region;
};
/// What lies on this layer.
std::vector<CopperShape> copper_on(const CopperLayout& layout, int layer);
/// The board itself, seen from the component side.
Region board_region(const CopperLayout& layout);
/// Every hole: legs, vias, links and screws, with whether it is plated.
struct DrilledHole {
    Point at;
    double diameter = 0;
    bool plated = false;
};
std::vector<DrilledHole> drilled_holes(const CopperLayout& layout);

/// Which pins the copper joins, "R1.a": from the polygons of both layers, holes and links, by no net names.
/// With `left`, from that copper instead of the layout's.
std::vector<std::vector<std::string>> copper_groups(const CopperLayout& layout);
std::vector<std::vector<std::string>> copper_groups(const CopperLayout& layout,
                                                    const std::vector<Region>& left);
/// Differences from the circuit with their places, a sentence each; empty if there are none.
std::vector<std::string> copper_differences(const CopperLayout& layout, const Circuit& circuit,
                                            const std::vector<std::vector<std::string>>& groups);

/// What breaks a rule of the method, with numbers and place.
struct RuleFault {
    std::string rule, text;  ///< "gap", …
    Point at;
};
std::vector<RuleFault> rule_faults(const CopperLayout& layout);

/// Places and joins all parts by this method. Errors: as of mounted(), connectivity errors, a spot or area
/// that names nothing, an outline that cannot be read or in which the parts find no place; stopped by
/// `progress`. Nets that found no way are no error: they stand in `open`.
Result<CopperLayout> lay_out_copper(const Circuit& circuit, const BoardChoices& choices, const Making& making,
                                    const Progress& progress = {});

/// The same at a glance, for who moves a part and waits: all parts as they were put by hand, the ways that
/// were there and those that are found at once; nets of which some is left over stand in `open` by their
/// names. Design error where some part was not put; else as above.
Result<CopperLayout> glance_copper(const Circuit& circuit, const BoardChoices& choices, const Making& making);

/// Both sides, the solder side as it lies when turned over. Refs: part:D, net:N, link, hole.
std::vector<BoardSide> copper_sides(const CopperLayout& layout);

/// "C4": the square of 2.54 mm that a place lies in, as holes of other boards are named.
std::string square_name(Point at);

}  // namespace elkit
