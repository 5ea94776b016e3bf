#include "recipes/timer_times.hpp"

#include <cmath>
#include <limits>

#include "quantity/format.hpp"

namespace elkit {
namespace {

Error too_little(double supply, double drop) {
    return {Fault::design, "steering diode",
            format_quantity(drop, Unit::volt) + " in it, of the " + format_quantity(supply / 3, Unit::volt) +
                " between a threshold and the supply",
            "a third of the supply well above the diode's drop"};
}

/// A through a resistor and a diode in a row at `volts` across both: one junction with all of the resistance.
double current_through(double ohms, Junction diode, double volts) {
    diode.resistance += ohms;
    return diode.at(volts).current;
}

/// The mean of 1/i over the way between the thresholds, by Simpson's rule: to 1e-5 where the drop takes half
/// of what is there. Infinite where the current turns round.
template <class Current>
double mean_reciprocal(Current current) {
    constexpr int pieces = 24;
    double sum = 0;
    for (int k = 0; k <= pieces; ++k) {
        const double amps = current(static_cast<double>(k) / pieces);
        if (!(amps > 0)) return std::numeric_limits<double>::infinity();
        sum += (k == 0 || k == pieces ? 1 : k % 2 ? 4 : 2) / amps;
    }
    return sum / pieces / 3;
}

}  // namespace

double charging_time(double ohms, const TimingCapacitor& c, double volts, double from, double to) {
    const double end = volts * c.leak / (ohms + c.leak), ratio = (end - from) / (end - to);
    if (!(ratio > 1)) return std::numeric_limits<double>::infinity();
    return ohms * c.leak / (ohms + c.leak) * c.farads * std::log(ratio);
}

HighLow plain_times(double charge, double discharge, const TimingCapacitor& c, double supply) {
    return {charging_time(charge + discharge, c, supply, supply / 3, 2 * supply / 3),
            charging_time(discharge, c, 0, 2 * supply / 3, supply / 3)};
}

Result<HighLow> steered_times(double charge, double discharge, const TimingCapacitor& c, double supply,
                              const Junction& diode) {
    constexpr double too_slow = 0.02;  // of what would flow without a diode: the leak decides then
    for (const double ohms : {charge, discharge})
        if (current_through(ohms, diode, supply / 3) * ohms < too_slow * supply / 3)
            return too_little(supply, diode.voltage_at(too_slow * supply / 3 / ohms));
    const double step = supply / 3;
    return HighLow{c.farads * step * mean_reciprocal([&](double s) {  // from two thirds back to one
                       return current_through(charge, diode, step * (1 + s)) - step * (2 - s) / c.leak;
                   }),
                   c.farads * step * mean_reciprocal([&](double s) {
                       return current_through(discharge, diode, step * (1 + s)) + step * (1 + s) / c.leak;
                   })};
}

Result<HighLow> output_times(double ohms, const TimingCapacitor& c, double supply, double top,
                             double bottom) {
    if (!(top > 2 * supply / 3) || !(bottom < supply / 3))
        return Error{
            Fault::design, "way",
            "the output swings from " + format_quantity(bottom, Unit::volt) + " to " +
                format_quantity(top, Unit::volt) + " only, under its load",
            "one that comes beyond both thresholds: the CMOS timer, with its lights on a transistor"};
    return HighLow{charging_time(ohms, c, top, supply / 3, 2 * supply / 3),
                   charging_time(ohms, c, bottom, 2 * supply / 3, supply / 3)};
}

double one_shot_time(double ohms, const TimingCapacitor& c) { return charging_time(ohms, c, 1, 0, 2.0 / 3); }

}  // namespace elkit
