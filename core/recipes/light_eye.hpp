#pragma once
#include <string>

#include "circuit/part.hpp"

namespace elkit {

/// A light sensor, in light of one kind.
struct LightEye {
    Part part;  ///< an ldr or a phototransistor, without a name
    /// W/m² of infrared (700 to 1100 nm, what silicon sees) that comes with each lux.
    double infrared_per_lux = 0;

    /// A that it lets through in so much light [lx] with so many volts across it.
    double amps(double lux, double volts) const;
    /// lx in which it lets that much through; its range ends at 1 mlx and 1 Mlx.
    double lux_for(double amps, double volts) const;
    /// V across it where it hangs in a row with `ohms` at `supply` [V].
    double volts_behind(double ohms, double supply, double lux) const;
    /// The exponent by which its current follows the light.
    double steepness() const;
    double tolerance() const { return part.number("tolerance"); }
    /// As a part of this name with more volts at `plus`.
    Part placed(const std::string& name, const std::string& plus, const std::string& minus) const;
};

/// Infrared of "daylight" (4 mW/m² a lux: some 440 of the 1000 W/m² of the sun at ground, with 110 klx), of a
/// "filament" of 2800 K (20 mW/m² a lux: 30 % of its radiation, with 15 lm/W), of an "led", that has none
/// [W/m² a lux].
double infrared_of(const std::string& light);

/// The sensor of this id: "ldr", with its ohms at 10 lx, or a type of phototransistor.
LightEye light_eye(const std::string& id, double ldr_ohms, const std::string& light);

}  // namespace elkit
