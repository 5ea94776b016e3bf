#pragma once
#include <string>
#include <vector>

#include "quantity/result.hpp"

namespace elkit {

/// Series of preferred values, IEC 60063.
enum class Series { e3 = 3, e6 = 6, e12 = 12, e24 = 24, e48 = 48, e96 = 96, e192 = 192 };

Result<Series> parse_series(const std::string& text);  ///< "E24"; usage error otherwise
std::string series_name(Series series);
/// The members of one decade, 1.0 ≤ value < 10, ascending.
const std::vector<double>& decade(Series series);

/// Nearest member by ratio; `value` > 0.
double nearest_preferred(double value, Series series);
/// Smallest member that is not below `value` (to 1e-9 relative); `value` > 0.
double preferred_at_least(double value, Series series);
/// Largest member that is not above `value`; `value` > 0.
/// Members of a series in the decades below, of and above a value, ascending; none of what is not above zero.
std::vector<double> preferred_around(double value, Series series);
double preferred_at_most(double value, Series series);

/// How a calculated resistor becomes a real one. Two schools: nearest value, or never above the target
/// current.
enum class Rounding { nearest, under };

/// Resistor colour bands, IEC 60062: two digits, multiplier, tolerance (four bands) or three digits (five).
struct ColourBands {
    std::vector<std::string> names;  ///< e.g. yellow, violet, red, gold
};
/// Bands of `ohms` with `tolerance` (0.05 = 5 %). Five bands when two digits do not hold the value.
/// Error if the value is outside 0.1 Ω … 99 GΩ.
Result<ColourBands> colour_bands(double ohms, double tolerance);
/// sRGB of a band colour by name, as 0xRRGGBB.
unsigned band_rgb(const std::string& name);

/// Three-figure capacitor code in picofarad, e.g. 100 nF → "104".
std::string capacitor_code(double farad);
/// As resistors on the surface have it: "102" for 1 kΩ, "1022" where two digits do not say it, "4R7" below
/// 10 Ω; empty for what is not above 0.
std::string resistor_code(double ohm);

/// The next common power rating [W] at or above `watt`: 1/8, 1/4, 1/2, 1, 2, 3, 5; infinity above 5 W.
double resistor_rating_at_least(double watt);
/// "¼ W" and the like.
std::string rating_text(double watt);

}  // namespace elkit
