#pragma once
#include <utility>
#include <vector>

#include "engine/system.hpp"

namespace elkit {

/// Where a cycle begins.
struct Section {
    int monitor = -1;  ///< a latch's own event, or system.monitors() for a net's crossing
    int unknown = 0;
    double level = 0, period = 0;  ///< V; s, roughly
};

/// What nets and latches did while the circuit ran for a while.
struct Window {
    std::vector<double> time;
    std::vector<std::vector<double>> nets;
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
