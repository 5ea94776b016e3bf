#include "engine/section.hpp"

#include <algorithm>
#include <cmath>

#include "engine/measure.hpp"

namespace elkit {

bool find_section(const Window& w, const System& system, Section& section) {
    for (int m = 0; m < system.monitors(); ++m) {
        std::vector<double> times;
        for (const auto& [t, monitor] : w.events)
            if (monitor == m) times.push_back(t);
        // a latch fires one monitor for both ways: take every second one as the cycle
        if (times.size() < 5) continue;
        section.monitor = m;
        section.period = times[times.size() - 1] - times[times.size() - 3];
        return true;
    }
    const double late = w.time.front() + 0.4 * (w.time.back() - w.time.front());
    double best = 0;
    for (std::size_t n = 0; n < w.unknowns.size(); ++n) {
        const Measurements m = measure(w.time, w.volts[n], late);
        const double swing = m.maximum - m.minimum;
        if (m.cycles < 3 || swing < 5e-3 || swing <= best) continue;
        best = swing;
        section.unknown = w.unknowns[n], section.level = (m.maximum + m.minimum) / 2;
        section.period = *m.period, section.monitor = system.monitors();
    }
    return section.monitor >= 0;
}

double closure(const std::vector<double>& before, const std::vector<double>& after,
               std::vector<double>& scale) {
    scale.resize(before.size(), 0);
    double widest = 0, worst = 0;
    for (std::size_t k = 0; k < before.size(); ++k) {
        scale[k] = std::max({scale[k], std::abs(before[k]), std::abs(after[k])});
        widest = std::max(widest, scale[k]);
    }
    for (std::size_t k = 0; k < before.size(); ++k)
        if (scale[k] > 1e-12 * widest) worst = std::max(worst, std::abs(after[k] - before[k]) / scale[k]);
    return worst;
}

}  // namespace elkit
