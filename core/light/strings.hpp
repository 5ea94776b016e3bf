#pragma once
#include <string>
#include <vector>

#include "circuit/connectivity.hpp"
#include "engine/operating_point.hpp"

namespace elkit {

/// LEDs in series as found in a circuit, however it was entered.
struct LedString {
    std::vector<const Part*> leds;
    const Part* resistor = nullptr;  ///< in the string itself
    const Part* shared = nullptr;    ///< a resistor that feeds this and other strings
    std::string from, to;            ///< nets at its ends, positive side first
};

/// Finds the strings: chains with at least one LED. A chain's resistor is its first one.
std::vector<LedString> led_strings(const Circuit& circuit);

/// Whether a coil hangs on one of two nets, between which lights hang.
bool meets_coil(const Circuit& circuit, const std::string& plus, const std::string& minus);

/// One light in a part: an LED has one, an RGB LED one for each colour in use.
struct LightDie {
    const LedType* type;
    std::string pin;  ///< that its current flows through; empty: the part's main pin
    double intensity = 0, test_current = 0.02;  ///< cd at A, the part's own where it says so
    double in_series = 1;                       ///< lights that this current passes, one after another
    double side_by_side = 1;                    ///< rows of them that share it
    std::string name = {};                      ///< "red 5 mm LED", "filament lamp"
    double rated_power = 0;                     ///< W of a filament; 0: an LED
    double cools = 0;                           ///< s in which a filament loses its light
    bool filament() const { return rated_power > 0; }
    /// cd of all together at A: an LED's in proportion, a filament's as T⁹ with I as T^1.4.
    double candela(double amps) const;
};
/// Empty for a part that gives no light, or whose type the catalogue does not know.
std::vector<LightDie> dies(const Part& part, const Catalogue& catalogue);
/// Current [A] through one of them; of a filament that which makes it as hot as its power does.
double die_current(const Part& part, const LightDie& die, const OperatingPoint& op);

/// Relative light [cd] of all LEDs at this operating point: intensity × current/test current, summed.
double total_intensity(const Circuit& circuit, const Catalogue& catalogue, const OperatingPoint& op);

}  // namespace elkit
