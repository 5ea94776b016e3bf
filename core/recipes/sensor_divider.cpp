#include "recipes/sensor_divider.hpp"

#include <algorithm>
#include <cmath>

#include "recipes/sketch.hpp"

namespace elkit {
namespace {

constexpr double coldest = -60, warmest = 160;  // °C, between which it looks
constexpr double most_of_reference = 0.75;      // that the set point takes of a reference of its own
constexpr double slope_over = 0.01;             // °C

}  // namespace

double SensorDivider::volts(double celsius) const {
    const double ohms = sensor.ohms(celsius);
    return supply * ohms / (ohms + fixed);
}

double SensorDivider::counts(double celsius) const {
    return std::min(full(), full() * volts(celsius) / (reference > 0 ? reference : supply));
}

double SensorDivider::per_kelvin(double celsius) const {
    return (counts(celsius + slope_over / 2) - counts(celsius - slope_over / 2)) / slope_over;
}

double SensorDivider::celsius_for(double wanted, double sensor_factor, double fixed_factor) const {
    const double part = wanted / full() * (reference > 0 ? reference / supply : 1);
    if (part >= 1) return coldest;
    const double ohms = fixed * fixed_factor * part / (1 - part) / sensor_factor;
    double low = coldest, high = warmest;
    for (int k = 0; k < 60; ++k) {
        const double middle = (low + high) / 2;
        (sensor.ohms(middle) > ohms ? low : high) = middle;
    }
    return (low + high) / 2;
}

std::pair<double, double> SensorDivider::spread(double wanted) const {
    const double s = sensor.tolerance(), f = usual_tolerance("resistor");
    return {celsius_for(wanted + 1, 1 - s, 1 + f), celsius_for(wanted - 1, 1 + s, 1 - f)};
}

double SensorDivider::warms_itself(double celsius) const {
    const double v = volts(celsius);
    return v * v / sensor.ohms(celsius) / sensor.part.number("dissipation");
}

double best_fixed(double sensor_ohms, double supply, double reference) {
    if (!(reference > 0)) return sensor_ohms;
    return std::max(sensor_ohms, sensor_ohms * (supply / (most_of_reference * reference) - 1));
}

}  // namespace elkit
