#pragma once
#include <array>
#include <map>
#include <optional>
#include <vector>

#include "engine/queries.hpp"
#include "light/strings.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// One string of LEDs, now and over the batch.
struct StringResult {
    std::vector<std::string> leds;
    std::string resistor;  ///< designator; empty if the string has none of its own
    std::string shared;    ///< designator of a resistor shared with other strings
    Figure current;        ///< now, spread over bins and resistor tolerance; of a pulsed one while it is on
    Figure fresh_current;  ///< from fresh cells
    std::optional<Figure> average;  ///< A now, of a pulsed one
    Figure resistance;              ///< of its own or shared resistor
    Figure resistor_power;          ///< from fresh cells, on average; `high` is the worst corner
    double led_voltage = 0;         ///< V of one LED now, while it is on
};

/// Currents of the strings and the light they give.
struct LightResult {
    std::vector<StringResult> strings;
    std::vector<Figure>
        inside;         ///< A in each light of another part: a colour of an RGB LED, a strip, a module
    Figure total;       ///< current from the supply now, on average
    Figure brightness;  ///< perceived now, % of fresh and lit, of the average light
};

/// What the lights of a circuit do under these conditions, and from fresh cells. Errors are those of the
/// engine.
struct LightQuery : Situated {
    using Situated::Situated;
    using Value = LightResult;
    static constexpr std::string_view name = "light";
    bool is_quick() const { return !may_move(*circuit); }
    Result<Value> compute(const Ask& ask) const;
};

inline constexpr std::array<double, 3> bin_charges{1.0, 0.5, 0.1};

/// Current [A] of the first string: rows low, typical, high forward voltage; columns fresh, half, nearly
/// flat. Lit, of a pulsed one while it is on; the battery of the conditions does not matter. Design error
/// without an LED.
struct BinsQuery : Situated {
    BinsQuery(const Keyed<Circuit>& of, const Conditions& under) : Situated(of, fresh(*of, under)) {}
    using Value = std::array<std::array<Figure, 3>, 3>;
    static constexpr std::string_view name = "bins";
    bool is_quick() const { return !may_move(*circuit); }
    Result<Value> compute(const Ask& ask) const;
};

/// Perceived brightness 0…1 of each light at these readings, against half the current its type is tested at.
std::map<std::string, double> glow_of(const Circuit& circuit, const OperatingPoint& op);

}  // namespace elkit
