#pragma once
#include <cstdint>
#include <vector>

#include "engine/transient.hpp"

namespace elkit {

/// Between which values a trace runs over a batch.
struct Band {
    std::string probe;
    Unit unit = Unit::volt;
    std::vector<double> low, high;  ///< 5 and 95 % of the builds, at the times of the band
};

struct Bands {
    std::vector<double> time;  ///< s, evenly spaced
    std::vector<Band> bands;   ///< one for each probe of the request
    int builds = 0, failed = 0;
};

/// Follows `builds` copies of the circuit, every part at a random place of its tolerance (random_build), and
/// gathers their traces at `points` even times, in parallel. Errors: the request cannot be run on the typical
/// circuit; stopped by `progress`.
Result<Bands> bands(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                    const RunRequest& request, int builds, int points = 400, std::uint64_t seed = 1,
                    const Progress& progress = {});

}  // namespace elkit
