#pragma once
#include <vector>

#include "engine/transient.hpp"

namespace elkit {

/// A circuit through time as an eye sees it: all readings, each on average until the next.
struct Pictures {
    double each = 0;  ///< s
    std::vector<OperatingPoint> all;
};
/// So many pictures of the time from power-up on, `each` [s]. Errors as simulate().
Result<Pictures> pictures_of(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                             double each, std::size_t count, const Progress& progress = {});

}  // namespace elkit
