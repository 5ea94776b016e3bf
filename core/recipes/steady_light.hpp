#pragma once
#include "design/design.hpp"
#include "light/resistor.hpp"

namespace elkit {

/// How the LEDs split into strings: full strings of `per_string` and one remainder.
std::vector<int> string_lengths(const LightGoals& goals);

/// The sizing behind one resistor: what the recipe asks of it, with the cells' sag and the LEDs' own curve at
/// 21 °C. `leds` in series in this string. Errors if cell or LED are unknown or nothing is left for the
/// resistor.
Result<ResistorAnswer> size_resistor(const LightGoals& goals, int leds,
                                     const std::vector<double>& owned = {});

/// A design to start from: the recipe's standard goals, sized.
Design new_light();

/// Builds the steady light: cells → switch → resistor → LEDs in strings. Designators that exist keep their
/// own parameters (leads, tolerance, measured points); parts that the goals no longer need go, parts of other
/// kinds stay. Errors as size_resistor().
Result<Design> apply_steady_light(const Design& design, const LightGoals& goals);

}  // namespace elkit
