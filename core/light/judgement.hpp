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

/// °C inside an LED: above, it loses light and soon its life; above, it is ruined; what a heat sink is chosen
/// for. Typical datasheets allow 100 to 125.
inline constexpr double hot_junction = 100, ruined_junction = 150, cool_junction = 85;

/// °C of metal or ceramic that fingers bear for a moment (ISO 13732-1:2006, threshold at one second,
/// rounded).
inline constexpr double hot_to_touch = 60;

/// Luminance of a source [cd/m²] up to which looking into it needs no closer evaluation of the hazard to the
/// eye (IEC 62471:2006, 4.1), and which is comfortable to look at.
inline constexpr double calm_to_look_at = 1e4;

/// m, from which a light counts as near the eyes or worn: at arm's length. Bench practice.
inline constexpr double near_to_eyes = 0.5;

}  // namespace elkit
