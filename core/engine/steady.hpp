#pragma once
#include <string>
#include <vector>

#include "engine/cycle_mark.hpp"
#include "engine/transient.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// The state that a circuit keeps: at rest, or repeating.
struct Steady {
    bool repeats = false;
    double period = 0;    ///< s
    Recording cycle;      ///< one cycle; one moment if it rests
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
/// 1965), so that a large capacitor does not cost minutes of simulated time. Errors as simulate(); design
/// error if it neither rests nor repeats within a thousand seconds of circuit time. `near`: the steady state
/// of the same circuit under other conditions or tolerances, to start from.
Result<Steady> steady_state(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                            const std::vector<std::string>& probes, const Accuracy& accuracy = {},
                            const Corner& corner = {}, const Steady* near = nullptr);

}  // namespace elkit
