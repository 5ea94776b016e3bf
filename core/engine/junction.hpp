#pragma once
#include "circuit/part.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A diode or LED as the engine sees it:  I = Is (exp((V − I Rs)/(n Vt)) − 1).
struct Junction {
    double saturation = 1e-15;  ///< Is [A]
    double slope = 0.05;        ///< n Vt [V]
    double resistance = 0;      ///< Rs [Ω]

    struct Point {
        double current, conductance;
    };
    /// Current [A] and dI/dV [S] at `voltage` [V] across the whole device, closed form through the
    /// Wright omega function ω(z) = W(e^z): I = (n Vt/Rs) ω(z) − Is, z = ln(Is Rs/(n Vt)) + (V + Is Rs)/(n
    /// Vt) (Banwell & Jayakumar, Electronics Letters 36, 2000).
    Point at(double voltage) const;
    /// Voltage [V] across the device at `current` [A] > −Is.
    double voltage_at(double current) const;
};

/// The same with its constants worked out, for devices that ask again and again.
class JunctionLaw {
  public:
    explicit JunctionLaw(const Junction& junction = {});
    Junction::Point at(double voltage) const;
    double slope() const { return slope_; }
    double resistance() const { return resistance_; }

  private:
    double saturation_, slope_, resistance_, offset_;
};

/// ω(z) = W(e^z) for real z (Lawrence, Corless & Jeffrey, ACM TOMS 917, 2012), to rounding.
double wright_omega(double z);

/// Thermal voltage kT/q [V] at `celsius`.
double thermal_voltage(double celsius);

/// What a fit needs besides points; temperatures in °C, `tempco` [V/K] at constant current.
struct JunctionGuess {
    double emission = 2, resistance = 5, tempco = -0.002, reference = 25;
};
/// Fits Is from one (current, voltage) point; n too from two; Rs too from three or more (least squares of
/// V = n Vt ln I − n Vt ln Is + Rs I). Where that gives an n below 0.8 or an Rs below zero, Rs is fitted with
/// the n guessed, or n without Rs. The result holds at `celsius`. Error if a point is not positive, currents
/// repeat, or the voltage rises less than any junction's.
Result<Junction> fit_junction(const PointList& points, const JunctionGuess& guess, double celsius);

}  // namespace elkit
