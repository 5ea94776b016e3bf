#pragma once
#include <cstdint>
#include <vector>

#include "engine/goal.hpp"
#include "quantity/figure.hpp"
#include "quantity/progress.hpp"

namespace elkit {

/// How much of a result's spread comes from one part.
struct Influence {
    std::string designator;
    double share = 0;        ///< fraction of the variance, 0…1
    double correlation = 0;  ///< sign and strength, −1…1
    Figure figure() const;   ///< the share in percent
};

/// Builds counted by value, in bars of the same width.
struct Histogram {
    double width = 0;
    std::vector<double> centre, count;
};

/// A batch built on paper: every part at a random place of its tolerance or bin.
struct Spread {
    Goal goal;
    std::vector<double> values;  ///< of the builds that could be solved, ascending
    int builds = 0, failed = 0;
    std::uint64_t seed = 0;
    double low = 0, median = 0, high = 0;  ///< 5, 50 and 95 % of the builds
    double least = 0, most = 0, mean = 0;
    std::vector<Influence> influences;  ///< most important first
    std::string trouble;                ///< of the first build that failed

    double percentile(double percent) const;
    Figure figure() const;               ///< the median with its spread; the working names what matters most
    Figure end_figure(bool most) const;  ///< the least or the most of all builds
    Histogram histogram(int bars) const;
};

/// Solves `builds` copies, each part placed at random: normal with σ = half of its tolerance or bin, cut at
/// its ends. Build k depends on the seed and k only, so the result is the same on any number of threads.
/// Errors: the typical circuit cannot be solved; stopped by `progress`.
Result<std::vector<Spread>> spread(const Circuit& circuit, const Catalogue& catalogue,
                                   const Conditions& conditions, const std::vector<Goal>& goals, int builds,
                                   std::uint64_t seed = 1, const Progress& progress = {});

/// Where each varying part of one build stands in its tolerance or bin; the same for the same seed and build.
Corner random_build(const Circuit& circuit, std::uint64_t seed, std::uint64_t build);

/// True if a batch of this part varies: it has a tolerance, a bin or a gain.
bool varies(const Part& part);

}  // namespace elkit
