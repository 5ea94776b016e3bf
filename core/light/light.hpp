#pragma once
#include <array>
#include <optional>
#include <vector>

#include "design/design.hpp"
#include "light/resistor.hpp"
#include "light/strings.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// One string of LEDs, now and over the batch.
struct StringResult {
    std::vector<std::string> leds;
    std::string resistor;    ///< designator; empty if the string has none of its own
    std::string shared;      ///< designator of a resistor shared with other strings
    Figure current;          ///< now, spread over bins and resistor tolerance
    Figure fresh_current;    ///< from fresh cells
    Figure resistance;       ///< of its own or shared resistor
    Figure resistor_power;   ///< from fresh cells; `high` is the worst corner
    double led_voltage = 0;  ///< V of one LED now
};

/// One way to round the resistor of the recipe.
struct ResistorOption {
    std::string label;  ///< "nearest", "never above", "in the drawer"
    Figure resistance;  ///< Ω; 0 if this school finds none
    Figure current;     ///< A from fresh cells, by the engine
    bool chosen = false;
    std::string note;  ///< "on target", "over target", "3 % under", or why there is none
};

struct LightResult {
    std::vector<StringResult> strings;
    /// Current [A] of the first string: rows low, typical, high forward voltage; columns fresh, half, nearly
    /// flat.
    std::array<std::array<Figure, 3>, 3> bins;
    Figure total;       ///< current from the cells now
    Figure brightness;  ///< perceived now, % of fresh
    std::vector<ResistorOption> options;
};

inline constexpr std::array<double, 3> bin_charges{1.0, 0.5, 0.1};

/// Everything the Light station shows. `owned` are resistor values in the drawer [Ω]; may be empty.
/// Errors are those of the engine.
Result<LightResult> analyse_light(const Design& design, const Conditions& conditions,
                                  const std::vector<double>& owned = {});

/// Conditions with every switch of the circuit closed: the light is on.
Conditions lit(const Circuit& circuit, Conditions conditions);

}  // namespace elkit
