#pragma once
#include <cmath>

#include "engine/junction.hpp"

/// Pieces that junction devices share.
namespace elkit {

/// Voltage [V] above which a junction without series resistance is too steep for a plain Newton step.
inline double critical_voltage(const Junction& j) {
    return j.slope * std::log(j.slope / (std::sqrt(2.0) * j.saturation));
}

/// The step a junction may take from `before` to `wanted`: beyond the critical voltage by the logarithm
/// (Nagel, "SPICE2", UCB/ERL M520, 1975).
inline double limit_junction(double wanted, double before, double slope, double critical) {
    if (wanted <= critical || std::abs(wanted - before) <= 2 * slope) return wanted;
    if (before <= 0) return slope * std::log(std::max(wanted / slope, 1.0));
    const double argument = 1 + (wanted - before) / slope;
    return argument > 0 ? before + slope * std::log(argument) : critical;
}

/// What gives way beyond a voltage: nothing up to a twentieth below it, then along a parabola into a straight
/// line.
class Knee {
  public:
    Knee(double volts, double ohms) : from_(0.95 * volts), width_(0.05 * volts), g_(1 / ohms) {}
    Junction::Point at(double v) const {
        const double over = v - from_;
        if (!(over > 0)) return {0, 0};
        if (over > 2 * width_) return {g_ * (over - width_), g_};
        return {g_ * over * over / (4 * width_), g_ * over / (2 * width_)};
    }

  private:
    double from_, width_, g_;
};

struct Exponential {
    double value, slope;
};
/// exp(k v) and its derivative; a straight line beyond k v = 80, where no circuit settles, and nothing below
/// −40, which is lost beside 1.
inline Exponential bounded_exp(double v, double k) {
    const double z = k * v;
    if (z < -40) return {0, 0};
    if (z <= 80) {
        const double e = std::exp(z);
        return {e, e * k};
    }
    const double e = std::exp(80.0);
    return {e * (1 + z - 80), e * k};
}

struct Swing {
    double value, slope;
};
/// A leak's share at v: ±1 beyond some 0.1 V, a straight line through 0.
inline Swing leak_swing(double v) {
    constexpr double knee = 0.1;  // V
    const double inverse = 1 / std::sqrt(v * v + knee * knee);
    return {v * inverse, knee * knee * inverse * inverse * inverse};
}

/// Depletion charge [C] and capacitance [F] of a junction: Q' = Cj0 (1 − v/φ)^−½, and above φ/2 the tangent.
inline Junction::Point depletion(double v, double cj0) {
    constexpr double phi = 0.75, per_phi = 1 / phi, half = 0.5 * phi;
    if (v < half) {
        const double root = std::sqrt(1 - v * per_phi);
        return {2 * cj0 * phi * (1 - root), cj0 / root};
    }
    const double root = std::sqrt(0.5), c = cj0 / root, slope = c / (2 * phi * 0.5);
    const double d = v - half;
    return {2 * cj0 * phi * (1 - root) + c * d + slope * d * d / 2, c + slope * d};
}

}  // namespace elkit
