#pragma once
#include <string>
#include <vector>

#include "power/discharge.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// The same light from another supply.
struct SupplyRow {
    std::string cell;  ///< catalogue id
    int count = 1;
    std::string name;  ///< "3 × LR6"
    bool possible = false;
    bool present = false;  ///< it is the design's own supply
    std::string reason;    ///< why not, or a caution such as a rate above the cell's; empty if fine
    Figure resistor;       ///< of the first string; 0 without one
    Figure current;        ///< through one string, fresh
    Figure start, end;     ///< perceived brightness, % of the light at the target current
    Figure run_time;       ///< infinity if it does not empty
    Figure cost_per_hour;  ///< workshop's currency
    Figure mass;           ///< g, of the cells
};

/// Which resistor the other supplies get.
enum class ResistorPolicy { rechosen, same };

/// Compares the usual supplies for the design's light, its own first. Needs the recipe's goals: design error
/// without.
Result<std::vector<SupplyRow>> compare_supplies(const Design& design, const Conditions& conditions,
                                                ResistorPolicy policy);

/// The design fed by `count` × `cell`, resistors re-chosen. Errors as apply_steady_light().
Result<Design> with_supply(const Design& design, const std::string& cell, int count);

}  // namespace elkit
