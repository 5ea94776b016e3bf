#pragma once
#include <optional>

#include "engine/cycle_mark.hpp"
#include "engine/probe.hpp"
#include "engine/steady.hpp"
#include "engine/stepper.hpp"

/// How steady_state() finds what goes on and on.
namespace elkit {

struct Search {
    const Circuit& circuit;
    System& system;
    Recorder& recorder;
    Stepper& stepper;
    Section section;
    bool may_repeat = true;   ///< false: at random, on purpose
    bool clock_lost = false;  ///< a clock was followed, and stopped before its cycle was over
    /// s in which something that is slower shows all that it does; 0: nothing takes longer than the cycle
    double round = 0;
    double share = 1;  ///< of the round of a clock that is looked at, as much as a steady state is worth
    int awaited = -1;  ///< a monitor that something is on its way to, slowly, while the mark's cycles go on
};

/// Runs on until something repeats, which sets the section, or rests, which is then the answer. Errors as
/// steady_state().
Result<std::optional<Steady>> look_for_a_cycle(Search& search);

/// Of the latches that switch, one that does so less often than the mark: the cycle of a clock that gates
/// another, which becomes the mark. False if there is none.
Result<bool> slower_mark(Search& search);

}  // namespace elkit
