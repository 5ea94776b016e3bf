#pragma once
#include <string>
#include <vector>

#include "engine/cycle_mark.hpp"
#include "engine/transient.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// The state that a circuit keeps: at rest, or repeating.
struct Steady {
    bool moves = false;    ///< it does not rest
    bool repeats = false;  ///< it moves, and cycle after cycle the same
    double period = 0;     ///< s; where it moves without repeating the time over which it was averaged
    Recording cycle;       ///< one cycle, or that time; one moment if it rests
    double uncertainty =
        0;  ///< of the mean current, where it does not repeat: one standard error, as a fraction
    std::string section;  ///< what marks a cycle's start: "U1 switches", "net OUT rising"
    int cycles_run = 0;   ///< cycles that were simulated to get there
    double closure = 0;   ///< largest difference between start and end of the cycle, of its unknown's swing
    double charge = 0;    ///< C out of the first source in a cycle
    double mean_current = 0;      ///< A out of the first source on average
    Section mark;                 ///< where a cycle begins, and
    std::vector<double> charges;  ///< all charges there: where to look for a similar circuit's cycle

    Figure period_figure() const;
    Figure current_figure() const;  ///< mean current from the source
};

/// Finds what the circuit does in the long run. The period is found by itself; cycles are repeated from one
/// exact crossing to the next, and the drift of slow charges is extrapolated away (Anderson, J. ACM 12,
/// 1965), so that a large capacitor does not cost minutes of simulated time. What moves without repeating,
/// such as two clocks that have nothing to do with each other, is averaged over a time of many cycles. Errors
/// as simulate(); design error if it neither rests nor moves again and again within some weeks of circuit
/// time. `near`: the steady state of the same circuit under other conditions or tolerances, to start from.
Result<Steady> steady_state(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                            const std::vector<std::string>& probes, const Accuracy& accuracy = {},
                            const Corner& corner = {}, const Steady* near = nullptr);

}  // namespace elkit
