#pragma once
#include <utility>
#include <vector>

#include "engine/cycle_mark.hpp"
#include "engine/system.hpp"

namespace elkit {

/// What nets and latches did while the circuit ran for a while.
struct Window {
    Window() = default;
    explicit Window(const System& system) : unknowns(system.voltages()), volts(unknowns.size()) {}
    /// Another moment.
    void note(double now, const std::vector<double>& x) {
        time.push_back(now);
        for (std::size_t n = 0; n < unknowns.size(); ++n)
            volts[n].push_back(x[static_cast<std::size_t>(unknowns[n])]);
    }
    std::vector<double> time;
    std::vector<int> unknowns;               ///< the voltages that were followed,
    std::vector<std::vector<double>> volts;  ///< and their courses
    std::vector<std::pair<double, int>> events;
};

/// Finds what marks a cycle: a monitor that fired five times, or else the net with the widest regular swing.
/// False if nothing repeats in the window.
bool find_section(const Window& window, const System& system, Section& section);

/// Largest drift of a cycle against the largest charge that each unknown's row has carried; `scale` remembers
/// those.
double closure(const std::vector<double>& before, const std::vector<double>& after,
               std::vector<double>& scale);

}  // namespace elkit
