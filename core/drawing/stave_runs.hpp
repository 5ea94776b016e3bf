#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "circuit/part.hpp"

namespace elkit {

/// How a part stands on the stave: hanging between two nets, with a third leg at its side, or as a body with
/// a leg for each pin.
enum class Stance { hanging, three_legs, body };
Stance stance_of(const Part& part);

/// The pins by which a part hangs: the upper and the lower one as it is drawn. Not of a body.
std::pair<std::size_t, std::size_t> hanging_pins(const Part& part);

/// Parts in a row, joined by nets that nothing else touches.
struct StaveRun {
    std::vector<const Part*> parts;  ///< in order from `from` to `to`
    std::string from, to;            ///< the nets at its ends
    /// A body's pin that is all that `from` joins besides this run: the run can hang on that leg. Or nullptr.
    const Part* host = nullptr;
    std::string host_pin;
};

/// All hanging parts of the circuit, each in exactly one run, in the circuit's order. No run begins and ends
/// on one net. A source's nets end its run, unless two sources follow each other.
std::vector<StaveRun> runs_of(const Circuit& circuit);

/// The nets inside a run, one fewer than its parts.
std::vector<std::string> joints_of(const StaveRun& run);

/// The net that joins two parts which follow each other in a run.
const std::string& joint_between(const Part& upper, const Part& lower);

}  // namespace elkit
