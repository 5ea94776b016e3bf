#pragma once
#include "circuit/part.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A sensor that stands for readings taken with a meter.
struct SensorFit {
    Part part;                        ///< without a name and without nets
    double worst = 0;                 ///< by how much the reading that fits worst is off, as a fraction
    std::string law;                  ///< in words, with its numbers
    double ohms(double state) const;  ///< at °C or lx
    double tolerance() const { return part.number("tolerance"); }
};

/// A thermistor through readings [°C, Ω]: β through two, Steinhart and Hart's law through three, their least
/// squares through more. Design error at "readings" where there are fewer, they do not fall, or no thermistor
/// is like that.
Result<SensorFit> fitted_thermistor(const PointList& readings);

/// A light-dependent resistor through readings [lx, Ω]: R = R10 (E/10 lx)^−γ, least squares of the
/// logarithms. Errors likewise.
Result<SensorFit> fitted_ldr(const PointList& readings);

}  // namespace elkit
