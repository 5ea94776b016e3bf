#pragma once
#include <utility>
#include <vector>

#include "drawing/drawing.hpp"
#include "recipes/sensor_law.hpp"

namespace elkit {

/// A fixed resistor from the supply to a pin that measures, and a thermistor from there to ground.
struct SensorDivider {
    SensorFit sensor;
    double fixed = 0;      ///< Ω
    double supply = 0;     ///< V
    double reference = 0;  ///< V of full scale; 0: the supply
    int bits = 10;

    double volts(double celsius) const;
    double counts(double celsius) const;
    /// What it is worth where it is so warm [1/K]; it falls with warmth.
    double per_kelvin(double celsius) const;
    /// °C at which it measures so many counts; with a sensor and a resistor that differ by these factors.
    double celsius_for(double counts, double sensor_factor = 1, double fixed_factor = 1) const;
    /// Coldest and warmest over a batch, the converter one count off.
    std::pair<double, double> spread(double counts) const;
    /// °C by which its own current warms the sensor.
    double warms_itself(double celsius) const;
    double full() const { return static_cast<double>(1 << bits); }
};

/// The fixed resistor [Ω] for the best slope where the sensor has so many ohms: as many, since
/// d(R/(R + F))/dR · dR/dT is greatest for F = R; more where the volts would come near a reference of its
/// own.
double best_fixed(double sensor_ohms, double supply, double reference);

/// Where a controller changes its mind.
struct Trip {
    double celsius = 0, counts = 0;
    const char* words = "";  ///< "warns below"
};

/// Ohms, volts, counts and warmth in one plot, with the trip points and how far a batch spreads them. In
/// units of a screen.
Drawing draw_divider(const SensorDivider& divider, const std::vector<Trip>& trips);

}  // namespace elkit
