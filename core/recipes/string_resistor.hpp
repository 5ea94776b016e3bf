#pragma once
#include <optional>

#include "circuit/part.hpp"
#include "engine/models.hpp"
#include "recipes/series_resistor.hpp"

namespace elkit {

/// Strings of LEDs side by side on a source, of which one resistor is asked for.
struct StringQuestion {
    Part source, led;        ///< a battery or supply; an LED with its type, bin or measured points
    int leds = 1;            ///< in a string
    double led_current = 0;  ///< A wanted in each
    double current = 0;      ///< A through the resistor: that of one string, or of all that share it
    double total = 0;        ///< A out of the source
    double contact = 0;      ///< Ω of a switch before them
    Series series = Series::e24;
    Rounding rounding = Rounding::under;
    std::vector<double> owned;          ///< Ω; if not empty, only these values are considered
    std::optional<Thevenin> feed = {};  ///< what they hang on, in place of source and contact
    double celsius = 21;                ///< of the LEDs
};

/// The resistor for fresh cells under the load of all strings, with the LED's own curve. Errors:
/// those of choose_resistor(); a cell or LED that the catalogue does not know.
Result<ResistorAnswer> size_string(const StringQuestion& question);

}  // namespace elkit
