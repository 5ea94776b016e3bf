#pragma once
#include <string>
#include <vector>

#include "design/design.hpp"
#include "power/discharge.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// A light on its cells over their life.
struct CellsRow {
    std::string name;  ///< "1 × LR6, boosted", "3 × LR6 and a resistor"
    int cells = 1;
    bool present = false;   ///< it is the design's own
    std::string reason;     ///< why it cannot be; empty if it can
    Figure light;           ///< A on average through its first LED, fresh
    Figure late_light;      ///< perceived, % of fresh, with a tenth of the charge left; 0 if it ends before
    Figure run_time, left;  ///< h; % of the cells' energy that stays in them
    Figure efficiency, late_efficiency;  ///< % of what the cells give that the lights get: fresh, half empty
    Figure per_cell;                     ///< h of run time for each cell
    Discharge run;
};

/// Whether a block lifts the volts of its cells with a coil, so that it is worth a look beside more cells.
bool boosts(const Design& design, std::size_t block);

/// A block that lifts the volts of its cells, beside the same light on two and three cells with a resistor,
/// and on the fewest that light it so. Design error without such a block on cells; those of the engine.
struct PlainCellsQuery {
    PlainCellsQuery(const Design& of, std::size_t which, const Conditions& under);
    Design design;  ///< of which circuit, blocks and the end of the light matter
    std::size_t block;
    Conditions conditions;
    using Value = std::vector<CellsRow>;
    static constexpr std::string_view name = "plain cells";
    static constexpr std::size_t weight = 20;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
