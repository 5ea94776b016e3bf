#pragma once
#include <string>
#include <vector>

#include "circuit/part.hpp"

namespace elkit {

/// The voltage that a part wants between two of its nets.
struct SupplyRange {
    std::string designator, plus, minus;  ///< part and nets
    double low = 0, high = 0;             ///< V
    bool stops = false;                   ///< below `low` it stops working, rather than working worse
};

/// Of every part whose kind states a supply (kinds.json).
std::vector<SupplyRange> supply_ranges(const Circuit& circuit);

}  // namespace elkit
