#pragma once
#include <vector>

#include "quantity/figure.hpp"
#include "quantity/preferred.hpp"

namespace elkit {

/// What a series resistor is asked to do.
struct ResistorQuestion {
    double supply = 0;        ///< V, fresh and under load
    double leds_voltage = 0;  ///< V of the LEDs in series, at the target current
    double drops = 0;         ///< V lost elsewhere in series (switch, diode)
    double current = 0;       ///< A wanted through the resistor
    Series series = Series::e24;
    Rounding rounding = Rounding::under;
    std::vector<double> owned;  ///< Ω; if not empty, only these values are considered
};

struct ResistorAnswer {
    double exact = 0;     ///< Ω before rounding
    double value = 0;     ///< Ω chosen
    double current = 0;   ///< A with the chosen value, LED voltage held
    double power = 0;     ///< W in the resistor
    double rating = 0;    ///< W, next common rating at or above twice the power
    double headroom = 0;  ///< V across the resistor at the target current
    ColourBands bands;
    std::vector<std::string> working;
};

/// R = (V supply − V LEDs − V drops)/I, then a value that exists (IEC 60063), by either rounding school.
/// Error (design) if nothing is left for the resistor; usage error if the current is not above zero.
Result<ResistorAnswer> choose_resistor(const ResistorQuestion& question, double tolerance = 0.05);

}  // namespace elkit
