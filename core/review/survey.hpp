#pragma once
#include <map>
#include <optional>
#include <vector>

#include "batch/parts_list.hpp"
#include "board/pad_board.hpp"
#include "build/steps.hpp"
#include "design/design.hpp"
#include "drawing/stave.hpp"
#include "engine/long_run.hpp"
#include "engine/operating_point.hpp"
#include "light/light.hpp"
#include "power/discharge.hpp"
#include "power/supplies.hpp"
#include "quantity/progress.hpp"

namespace elkit {

/// What follows a slider at once: the circuit and the light under the present conditions.
struct LiveSurvey {
    std::optional<Error> error;  ///< why there is nothing to show
    OperatingPoint op;
    LightResult light;
    Drawing stave;
    bool moves = false;                  ///< it never rests: `op` is one state that it passes through
    std::map<std::string, double> glow;  ///< LED → perceived brightness against its target, 0…1
};

/// What takes longer and depends on the design and the temperature only.
struct DeepSurvey {
    bool complete = false;  ///< false if it was stopped before its end
    std::optional<Error> error;
    std::optional<Steady> steady;  ///< of a circuit that could move by itself, as the conditions are
    std::optional<LongRun> fresh_run, flat_run;  ///< everything on: from fresh cells, and at the end of them
    std::vector<OperatingPoint> states;  ///< of rest, if a latch could have more than one; power-up's first
    std::optional<PowerResult> power;
    std::vector<SupplyRow> supplies, supplies_same;  ///< resistor re-chosen; same resistor
    std::optional<PadLayout> layout;
    std::optional<Error> layout_error;
    std::vector<std::string> layout_differences;  ///< empty: the board equals the circuit
    std::vector<BuildStep> steps;
    PartsList parts;

    /// The circuit does not rest: averages say more about it than any one state.
    bool moves() const { return fresh_run && fresh_run->moves(); }
};

/// The stave's layout from the fresh circuit with its switches as drawn; a plain order if it cannot be
/// solved. `before` as in lay_out_stave().
StaveLayout stave_layout(const Circuit& circuit, const StaveLayout* before = nullptr);

/// Perceived brightness 0…1 of each LED at these readings, against the design's target current.
std::map<std::string, double> glow_of(const Design& design, const OperatingPoint& op);

LiveSurvey live_survey(const Design& design, const Conditions& conditions, const StaveLayout& layout,
                       const std::vector<double>& owned, const StaveView& view = {});

/// When `progress` says stop, the rest is left out and `complete` stays false.
DeepSurvey deep_survey(const Design& design, const Conditions& conditions,
                       const std::vector<DrawerItem>& drawer, const Progress& progress = {});

}  // namespace elkit
