#pragma once

namespace elkit {

/// Resistance [Ω] of `metres` of copper of this cross-section [mm²]: 0.0172 Ω mm²/m at 20 °C, +0.39 %/K
/// (IEC 60028).
inline double copper_resistance(double metres, double area, double celsius) {
    return 0.0172 * metres / area * (1 + 0.0039 * (celsius - 20));
}

}  // namespace elkit
