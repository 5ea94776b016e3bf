#pragma once
#include <optional>
#include <string>
#include <vector>

#include "quantity/figure.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// What can be read from a recorded waveform. Means and rms are time averages: over steps of the
/// engine, which are recorded with their stage at Stepper::gamma, by the parabola through the three samples,
/// elsewhere by straight lines. Times are where
/// the straight line between samples crosses the middle between minimum and maximum, with a tenth of the
/// swing as hysteresis.
struct Measurements {
    double minimum = 0, maximum = 0, mean = 0, rms = 0;
    std::optional<double> period, high_time;  ///< s, over the last whole cycle; none if it does not repeat
    std::optional<double> frequency() const { return period ? std::optional(1 / *period) : std::nullopt; }
    std::optional<double> low_time() const {
        return period && high_time ? std::optional(*period - *high_time) : std::nullopt;
    }
    std::optional<double> duty() const {
        return period && high_time ? std::optional(*high_time / *period) : std::nullopt;
    }
    int cycles = 0;
};

/// `from` and `to` [s] limit what is looked at. Averages of a repeating waveform are over whole cycles.
Measurements measure(const std::vector<double>& time, const std::vector<double>& values, double from = -1e300,
                     double to = 1e300);

/// Where a waveform goes through a level, on the curve through the samples around.
struct LevelCrossing {
    double time = 0;  ///< s
    bool rising = true;
};
std::vector<LevelCrossing> level_crossings(const std::vector<double>& time, const std::vector<double>& values,
                                           double level, double from = -1e300);

/// First time [s] after `from` at which the waveform crosses `level` upwards or downwards; nothing if never.
std::optional<double> time_to_threshold(const std::vector<double>& time, const std::vector<double>& values,
                                        double level, double from = -1e300);

/// What each sample [s] counts in ∫ y dt over all of a recording: parabolas over steps of the engine,
/// straight lines elsewhere.
std::vector<double> quadrature(const std::vector<double>& time);
/// Mean over a recording with these weights; of a single moment its value.
double mean_by(const std::vector<double>& weights, const std::vector<double>& values);

/// ∫ y dt between two times, likewise: charge of a current, energy of a power.
double integral(const std::vector<double>& time, const std::vector<double>& values, double from, double to);

/// The measurements as figures with their working, "net:OUT" being the probe.
std::vector<Figure> measurement_figures(const Measurements& m, const std::string& probe, Unit unit);

/// Time [s] from `from`, or the start, until the waveform crosses `level` for the n-th time; nothing if it
/// never does.
std::optional<Figure> threshold_figure(const std::vector<double>& time, const std::vector<double>& values,
                                       const std::string& probe, Unit unit, double level,
                                       double from = -1e300, std::size_t which = 1);

/// Time between two moments [s] with its frequency as the working.
Figure time_difference(double from, double to);
/// Change of a recorded waveform between two moments.
Figure value_difference(const std::vector<double>& time, const std::vector<double>& values,
                        const std::string& probe, Unit unit, double from, double to);
/// Value of a recorded waveform at a time, straight lines between samples, its ends beyond them.
double value_at(const std::vector<double>& time, const std::vector<double>& values, double at);

/// One measurement by its name: mean, min, max, rms, swing, period, frequency, duty,
/// high, low, cycle (mean × period: charge of a current, energy of a power). Usage error
/// for another name; design error where the waveform does not repeat.
Result<double> measurement(const Measurements& m, const std::string& name);
Unit measurement_unit(const std::string& name, Unit of_waveform);

}  // namespace elkit
