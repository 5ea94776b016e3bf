#pragma once
#include "design/design.hpp"
#include "engine/queries.hpp"
#include "planning/arrays.hpp"
#include "planning/lights_place.hpp"

namespace elkit {

inline constexpr int most_by_coil = 12;  ///< lights; each way is followed through time

/// The ways to arrange lights that a coil feeds by pulses, in their place and without resistors, the best
/// first: one string before strings side by side, more of the power in the LEDs before less. Currents are
/// averages over a cycle in `lit`; LEDs' bins are their spread. Usage error for more lights than
/// `most_by_coil`; errors of the engine with the lights as they are.
Result<std::vector<Arrangement>> arrangements_by_coil(const Ask& ask, const ArrayQuestion& question,
                                                      const LightsPlace& place, const Conditions& lit);

}  // namespace elkit
