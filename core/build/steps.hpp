#pragma once
#include <optional>
#include <string>
#include <vector>

#include "board/board.hpp"
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
    double rank = 0;  ///< within its phase: low parts first, what suffers from heat last
    std::string title, text;
    std::string polarity;  ///< how to turn the part; empty if it does not matter
    Drawing legs;          ///< the part in the hand, each leg with its place; empty if they are alike
    std::string caution;   ///< what can hurt here; empty if nothing
    std::string learnt;    ///< what its reading tells, in a trial
    std::optional<Check> check;
    std::string ref;  ///< "part:R1" for the board picture
};

enum class Reading { none, within, outside };
/// Whether the measured value of a step lies in its band; beep and silent take 1 (beeped) or 0 (silent).
Reading judge(const BuildStep& step, const StepRecord* record);

/// The steps to build one kit on its board: what the board's method, the parts and the checks contribute,
/// ordered by phase and rank. Expected readings come from the engine over LED bins, resistor tolerance and
/// cells from 85 % to fresh, in the situation that the step puts the gadget in: the first, which is lit where
/// any is, and the dark one that takes least. Errors are those of board and engine.
struct StepsQuery {
    Keyed<Circuit> circuit;
    BoardChoices board;
    bool for_children = false;
    std::vector<Situation> situations = {};  ///< none: those that the circuit suggests
    using Value = std::vector<BuildStep>;
    static constexpr std::string_view name = "build steps";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
