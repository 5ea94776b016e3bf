#pragma once
#include <map>
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "drawing/drawing.hpp"
#include "engine/conditions.hpp"
#include "engine/operating_point.hpp"

namespace elkit {

/// Where everything stands on the stave; depends on the circuit only, so that a slider moves nothing.
struct StaveLayout {
    std::vector<std::string> rows;                  ///< nets from high to low
    std::vector<std::vector<std::string>> columns;  ///< designators stacked in one column, top to bottom
    int row(std::string_view net) const;            ///< −1 if unknown
    int column(std::string_view designator) const;  ///< −1 if unknown
};

/// Orders nets by their voltage in `reference` and parts in columns so that the horizontal lines are short;
/// parts in a row from high to low share one column. Starts from the circuit's own order, or from the layout
/// that the circuit had `before` an edit: then a column moves only where that saves much line.
StaveLayout lay_out_stave(const Circuit& circuit, const OperatingPoint& reference,
                          const StaveLayout* before = nullptr);

struct StaveView {
    bool true_height = false;            ///< lines at heights proportional to their voltage
    std::string lit_net, lit_part;       ///< a net and what hangs on it, a part: to emphasise
    std::map<std::string, double> glow;  ///< LED → perceived brightness 0…1
    std::string red_probe, black_probe;  ///< nets on which a meter's probes stand
};

/// The net whose line is nearest to height y of a stave, within half the distance of two lines; empty if
/// none.
std::string net_near(const Drawing& stave, double y);

/// The stave: nets as horizontal lines with name and voltage, parts hanging between them with value and
/// current. Refs: net:NAME, part:D, value:D (the editable text), pin:D.pin.
Drawing draw_stave(const Circuit& circuit, const StaveLayout& layout, const OperatingPoint& op,
                   const Conditions& conditions, const StaveView& view = {});

}  // namespace elkit
