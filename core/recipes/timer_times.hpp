#pragma once
#include "engine/junction.hpp"
#include "quantity/result.hpp"

/// How long a two-threshold timer (1/3 and 2/3 of its supply) takes.
namespace elkit {

/// The two parts of a cycle [s].
struct HighLow {
    double high = 0, low = 0;
    double period() const { return high + low; }
};

/// A capacitor [F] with the resistance of its leak [Ω].
struct TimingCapacitor {
    double farads = 0, leak = 1e15;
};

/// Time [s] in which a capacitor comes from one voltage to another through `ohms` from a source of `volts`:
/// R' C ln((V' − from)/(V' − to)) with R' = R ∥ leak and V' = V leak/(R + leak). Infinite if it never gets
/// there.
double charging_time(double ohms, const TimingCapacitor& capacitor, double volts, double from, double to);

/// An astable that charges through `charge` and `discharge` [Ω] in a row and discharges through the second:
/// ln 2 (Ra + Rb) C and ln 2 Rb C without a leak (any two-threshold timer's datasheet).
HighLow plain_times(double charge, double discharge, const TimingCapacitor& capacitor, double supply);

/// Through a real diode and with the leak: ∫ C dv/(i(v) ∓ v/leak), with i R + V diode(i) = V − v. Where
/// little is left for the diode its own curve is what counts. Design error where the diode opens too little
/// at a third of `supply` [V]: it would never get there.
Result<HighLow> steered_times(double charge, double discharge, const TimingCapacitor& capacitor,
                              double supply, const Junction& diode);

/// An astable that charges and discharges through one resistor from its output, which stands at `top` and
/// `bottom` [V]. Design error where the output does not come beyond the thresholds.
Result<HighLow> output_times(double ohms, const TimingCapacitor& capacitor, double supply, double top,
                             double bottom);

/// One shot, from empty to two thirds: ln 3 R C without a leak.
double one_shot_time(double ohms, const TimingCapacitor& capacitor);

}  // namespace elkit
