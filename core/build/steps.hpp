#pragma once
#include <optional>
#include <string>
#include <vector>

#include "board/pad_board.hpp"
#include "design/design.hpp"
#include "quantity/figure.hpp"

namespace elkit {

enum class Phase { prepare, solder, wire, unpowered, powered, close };
std::string phase_name(Phase phase);

enum class CheckKind { beep, silent, ohms, volts, amps };

/// What a meter should show at a step.
struct Check {
    CheckKind kind = CheckKind::beep;
    std::string red, black;          ///< where the probes go
    std::optional<Figure> expected;  ///< value with its band; none for beep and silent
};

struct BuildStep {
    std::string id;  ///< stable for the same part or net, e.g. "solder.R1"; records refer to it
    Phase phase = Phase::prepare;
    std::string title, text;
    std::string polarity;  ///< how to turn the part; empty if it does not matter
    std::string caution;   ///< what can hurt here; empty if nothing
    std::optional<Check> check;
    std::string ref;  ///< "part:R1" for the board picture
};

enum class Reading { none, within, outside };
/// Whether the measured value of a step lies in its band; beep and silent take 1 (beeped) or 0 (silent).
Reading judge(const BuildStep& step, const StepRecord* record);

/// The steps to build one kit on this layout, low parts first, checks before power, then with power, closing
/// last. Expected readings come from the engine over LED bins, resistor tolerance and cells from 85 % to
/// fresh, at 21 °C. Errors are those of the engine.
Result<std::vector<BuildStep>> build_steps(const Design& design, const PadLayout& layout);

}  // namespace elkit
