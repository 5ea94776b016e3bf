#pragma once
#include <string>
#include <vector>

#include "board/board.hpp"
#include "build/steps.hpp"

namespace elkit {

/// A trial on a breadboard: plugged together, measured, understood, taken down.
struct Trial {
    Board board;
    std::vector<BuildStep> steps;      ///< their phases named by trial_phase_name()
    std::vector<std::string> differs;  ///< from the board to come, each with its numbers
};
std::string trial_phase_name(Phase phase);

/// The trial of one gadget. Expected readings as of StepsQuery; each check says what its reading tells.
/// Errors are those of board and engine.
struct TrialQuery {
    Keyed<Circuit> circuit;
    BoardChoices board;
    std::vector<Situation> situations = {};  ///< none: those that the circuit suggests
    using Value = Trial;
    static constexpr std::string_view name = "trial";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
