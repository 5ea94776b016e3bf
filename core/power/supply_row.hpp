#pragma once
#include "engine/queries.hpp"
#include "light/strings.hpp"
#include "power/supplies.hpp"

/// What a row of the comparison of supplies says.
namespace elkit {

/// What a row is by its `count` cells and its converter, nullptr if it has none: mass, cost, shelf life, room
/// of the cells against the brief's, care.
void fill_cells(SupplyRow& row, const CellType& cell, const PartKind* converter, const Brief& brief);

/// Its light, run time, cost and waste: from the engine's fresh operating point and the discharge; `ratio` is
/// its fresh light over that of the design's own supply.
void fill_figures(SupplyRow& row, const Discharge& run, const OperatingPoint& fresh, const CellType& cell,
                  double ratio, double end_brightness);

/// What the row says of a string while it is on; of a circuit without strings, what it takes.
void fill_current(SupplyRow& row, const Circuit& circuit, const WhileOn& on, const LedString* string);

/// Why a light or a chip of this circuit does not bear the supply; empty if they do.
std::string not_borne(const Circuit& circuit, const LongRun& run);

/// The chip that this supply leaves below its least voltage; empty if there is none.
std::string starved(const Circuit& circuit, const LongRun& run);

}  // namespace elkit
