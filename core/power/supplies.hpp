#pragma once
#include <string>
#include <vector>

#include "design/design.hpp"
#include "power/discharge.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// The same light from another supply.
struct SupplyRow {
    std::string cell;  ///< catalogue id
    int count = 1;
    std::string name;  ///< "3 × LR6"
    bool possible = false;
    bool lasts = true;     ///< false: dark or starved from the start, so that no run time can be told
    bool present = false;  ///< it is the design's own supply
    std::string reason;    ///< why not, or a caution such as a rate above the cell's; empty if fine
    Figure resistor;       ///< of the first string; 0 without one
    Figure current;        ///< through one string while it is on, fresh; without strings from the supply
    Figure start, end;     ///< perceived brightness, % of this design's light from fresh cells
    Figure run_time;       ///< infinity if it does not empty
    Figure cost_per_hour;  ///< workshop's currency
    Figure mass;           ///< g, of the cells
};

/// Whether recipes size their parts anew for another supply, or everything stays as it is.
enum class SupplyPolicy { sized_anew, same_parts };

/// The usual supplies for a design, its own first: as it would be with each. Design error without a source;
/// those of the engine with its own.
struct SuppliesQuery {
    SuppliesQuery(const Design& of, const Conditions& under, SupplyPolicy how);
    Design design;  ///< of which circuit, blocks and the end of the light matter
    Conditions conditions;
    SupplyPolicy policy;
    using Value = std::vector<SupplyRow>;
    static constexpr std::string_view name = "supplies";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
