#pragma once
#include <algorithm>
#include <cmath>
#include <numbers>

namespace elkit {

/// Perceived lightness 0…1 of a luminance `ratio` against its reference (CIE 1976 L*, CIE 15:2018, divided by
/// 100).
inline double perceived(double ratio) {
    if (ratio <= 0) return 0;
    constexpr double knee = 216.0 / 24389, slope = 24389.0 / 27;
    return (ratio > knee ? 116 * std::cbrt(ratio) - 16 : slope * ratio) / 100;
}

/// The luminance ratio that looks like `lightness` 0…1; inverse of perceived().
inline double luminance_for(double lightness) {
    const double l = 100 * std::max(lightness, 0.0);
    return l > 8 ? std::pow((l + 16) / 116, 3) : l * 27.0 / 24389;
}

/// About the luminous flux [lm] of a light with `candela` straight ahead that falls to half at the edges of a
/// cone of `degrees`, taken as even within it: Φ = 2π I (1 − cos(θ/2)) (CIE 127:2007 for intensity and flux
/// of LEDs).
inline double flux(double candela, double degrees) {
    return 2 * std::numbers::pi * candela * (1 - std::cos(degrees / 2 * std::numbers::pi / 180));
}

}  // namespace elkit
