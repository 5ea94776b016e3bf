#pragma once
#include <map>
#include <string>
#include <vector>

#include "design/design.hpp"
#include "power/discharge.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// A resistor on another supply.
struct ScaledResistor {
    double ohms = 0, rating = 0;  ///< Ω, and W of twice its heat
};

/// The same light from another supply.
struct SupplyRow {
    std::string cell;  ///< catalogue id
    int count = 1;
    std::string name;      ///< "3 × LR6", "2 × LR6, stepped up"
    double converted = 0;  ///< V that a converter module makes of it; 0 without one
    bool possible = false;
    bool lasts = true;     ///< false: dark or starved from the start, so that no run time can be told
    bool present = false;  ///< it is the design's own supply
    std::string reason;    ///< why not, or a caution such as a rate above the cell's; empty if fine
    Figure resistor;       ///< of the first string; 0 without one
    Figure current;        ///< through one string while it is on, fresh; without strings from the supply
    Figure start, end;     ///< perceived brightness, % of this design's light from fresh cells
    Figure run_time;       ///< infinity if it does not empty
    Figure cost_per_hour;  ///< workshop's currency; cells that are recharged by their charges
    Figure waste;          ///< g of spent cells in a hundred hours, likewise
    Figure mass;           ///< g, of the cells and of a converter
    Figure cost;           ///< of one set of cells, and of a converter
    Figure keeps;          ///< years on the shelf until a fifth is gone by itself; infinity if nothing goes
    double width = 0, height = 0;                  ///< mm that the cells in their holder take, side by side
    bool fits = true;                              ///< in the room of the brief
    std::string care;                              ///< what to mind with such cells; empty if nothing
    std::map<std::string, ScaledResistor> scaled;  ///< that no recipe sized, with which it is as bright
};

/// Whether parts are sized anew for another supply, by their recipes or else by scaling the resistors of
/// lights, or everything stays as it is.
enum class SupplyPolicy { sized_anew, same_parts };

/// Which supplies are tried: those that are at hand everywhere, with the user's own cells, one to three in a
/// row; these with a converter module too, that makes the volts of the design's own supply of them; or every
/// cell of the catalogue, one to six in a row.
enum class SupplyScope { usual, converted, all };

/// The design as it would be with each of these supplies: its own first, then
/// those that serve by their run time, then the rest with the reason. What gives less than 0.4 or more than 3
/// times the volts of its own supply is not solved; with a converter all parts stay as they are. Design error
/// without a source; those of the engine with its own.
struct SuppliesQuery {
    SuppliesQuery(const Design& of, const Conditions& under, SupplyPolicy how,
                  SupplyScope which = SupplyScope::usual);
    Design design;  ///< of which circuit, blocks and the end of the light matter
    Conditions conditions;
    SupplyPolicy policy;
    SupplyScope scope;
    using Value = std::vector<SupplyRow>;
    static constexpr std::string_view name = "supplies";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// What a supply takes, for its run time to be held against: the cost of a set, cm² of the holder, g of
/// cells.
enum class SupplyTakes { cost, size, mass };
double taken_by(const SupplyRow& row, SupplyTakes what);

/// Whether a row has a run time that can be told.
bool runs_out(const SupplyRow& row);

/// Whether a row has something to mind, or another one without that runs longer and takes no more.
bool beaten(const std::vector<SupplyRow>& rows, std::size_t row, SupplyTakes what);

/// The design on the supply of a row that was found with this policy. Behind a converter blocks that the
/// source feeds are blocks no longer: their recipes size for cells. Errors as with_supply().
Result<Design> with_supply_row(const Design& design, const SupplyRow& row, SupplyPolicy policy);

}  // namespace elkit
