#pragma once
#include <algorithm>

/// What counts as a good light, for findings and for comparisons alike. Bench practice.
namespace elkit {

/// Of the fresh current, at half battery: less, and the light sags.
inline constexpr double least_at_half = 0.55;

/// V that a resistor wants across it, of a supply of so many: 0.5 V, and 15 %. Below, the current follows the
/// LEDs and the cells more than the resistor.
inline double enough_headroom(double supply) { return std::max(0.5, 0.15 * supply); }

/// Largest to smallest current over the LED bins that nobody minds.
inline constexpr double spread_by_bins = 1.25;

}  // namespace elkit
