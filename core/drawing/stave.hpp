#pragma once
#include <map>
#include <set>
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "drawing/drawing.hpp"
#include "engine/conditions.hpp"
#include "engine/operating_point.hpp"

namespace elkit {

/// Parts that hang one below the other. Where one ends and the next begins is a joint: a net that nothing
/// else touches and that therefore needs no line.
struct StaveColumn {
    std::vector<std::string> parts;  ///< designators, top to bottom
    /// More columns like this one but for their designators, each top to bottom: drawn as one until unfolded.
    std::vector<std::vector<std::string>> alike;
    struct Hung {
        std::string pin;
        std::vector<std::string> parts;  ///< from the body outwards
    };
    std::vector<Hung> hung;  ///< of a chip or module: what hangs on one of its legs and on nothing else
    bool operator==(const StaveColumn&) const = default;
};
inline bool operator==(const StaveColumn::Hung& a, const StaveColumn::Hung& b) {
    return a.pin == b.pin && a.parts == b.parts;
}

/// Where everything stands on the stave; depends on the circuit only, so that a slider moves nothing.
struct StaveLayout {
    std::vector<std::string> rows;  ///< nets that are lines, from high to low
    /// For each of them the height at which it is drawn, 0 on top: in a circuit of many nets, short lines in
    /// different places share one.
    std::vector<int> tracks;
    std::vector<StaveColumn> columns;
    int row(std::string_view net) const;            ///< −1 if it is a joint or unknown
    int column(std::string_view designator) const;  ///< −1 if unknown
    /// The first part of the column that shows this one while its group is folded; empty if it is not in a
    /// group.
    std::string group_of(std::string_view designator) const;
    /// All parts that stand where `designator` does in the columns of its group, itself first; itself alone
    /// if it is in none.
    std::vector<std::string> like(std::string_view designator) const;
};

/// Orders nets by their voltage in `reference` and parts in columns so that the horizontal lines are short;
/// parts in a row from high to low share one column, and three columns or more that are alike become one.
/// Starts from the circuit's own order, or from the layout that the circuit had `before` an edit: then a
/// column moves only where that saves much line.
StaveLayout lay_out_stave(const Circuit& circuit, const OperatingPoint& reference,
                          const StaveLayout* before = nullptr);

struct StaveView {
    bool true_height = false;            ///< lines at heights proportional to their voltage
    std::string lit_net, lit_part;       ///< a net and what hangs on it, a part: to emphasise
    std::map<std::string, double> glow;  ///< LED → perceived brightness 0…1
    std::string red_probe, black_probe;  ///< nets on which a meter's probes stand
    std::set<std::string> unfolded;      ///< groups of alike columns shown in full, by their first part
    /// The room to fill, in units; zero: as much as it needs. Symbols and the space between lines follow the
    /// room, words keep their size, so that one unit of 1/96 inch can always be read.
    double room_width = 0, room_height = 0;
    double zoom = 1;  ///< larger than the room, 1 … 6
};

/// The net whose joint is at (x, y) of a stave, or whose line is nearest to y within half the least distance
/// of two lines; empty if none.
std::string net_near(const Drawing& stave, double x, double y);

/// Colour 0xRRGGBB of a net at this share of the highest volts, 0 to 1: blue to amber, dark enough for white
/// words.
unsigned net_colour(double share);

/// The stave: nets as horizontal lines with name and voltage, parts hanging between them with value and
/// current. Refs: net:NAME (a line, its tag, or a joint), part:D, value:D (the editable text), pin:D.pin,
/// fold:D (folds and unfolds the group that begins with D). The tags are sticky.
Drawing draw_stave(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                   const Conditions& conditions, const StaveView& view = {});

}  // namespace elkit
