#include "engine/junction.hpp"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <cmath>

namespace elkit {

double thermal_voltage(double celsius) {
    constexpr double boltzmann_over_charge = 1.380649e-23 / 1.602176634e-19;  // SI 2019, exact
    return boltzmann_over_charge * (celsius + 273.15);
}

double wright_omega(double z) {
    if (z < -30) return std::exp(z);
    double w = 0;
    if (z < -2) {  // ω = e − e² + 3/2 e³ …, e = e^z
        const double e = std::exp(z);
        w = e * (1 - e * (1 - 1.5 * e));
    } else if (z < 1.5) {
        const double d = z - 1;  // Taylor at ω(1) = 1
        w = 1 + d * (0.5 + d * (1.0 / 16 - d / 192));
    } else {
        const double l = std::log(z);
        w = z - l + l / z;
    }
    for (int i = 0; i < 3; ++i) {  // fourth order on w + ln w − z (Fritsch, Shafer & Crowley, CACM 16, 1973)
        const double r = z - w - std::log(w), s = 1 + w;
        const double t = s * (s + 2.0 / 3 * r);
        w *= 1 + r / s * (t - r / 2) / (t - r);
        if (std::abs(r) < 1e-3 * s) break;  // what is left is below rounding
    }
    return w;
}

JunctionLaw::JunctionLaw(const Junction& j)
    : saturation_(j.saturation),
      slope_(j.slope),
      resistance_(j.resistance),
      offset_(j.resistance > 0
                  ? std::log(j.saturation * j.resistance / j.slope) + j.saturation * j.resistance / j.slope
                  : 0) {}

Junction::Point JunctionLaw::at(double voltage) const {
    if (resistance_ <= 0) {
        const double e = saturation_ * std::exp(voltage / slope_);
        return {e - saturation_, e / slope_};
    }
    const double w = wright_omega(offset_ + voltage / slope_);
    return {slope_ / resistance_ * w - saturation_, w / (resistance_ * (1 + w))};
}

Junction::Point Junction::at(double voltage) const { return JunctionLaw(*this).at(voltage); }

double Junction::voltage_at(double current) const {
    return slope * std::log1p(current / saturation) + current * resistance;
}

constexpr double steepest = 600;   // n Vt: e to that is still a number
constexpr double least_share = 6;  // n Vt that the junction itself must drop: it blocks to 1/400

Result<Junction> fit_junction(const PointList& points, const JunctionGuess& guess, double celsius) {
    const auto bad = [](std::string found, std::string expected) {
        return Error{Fault::design, "points", std::move(found), std::move(expected)};
    };
    if (points.empty()) return bad("there is no point", "[[current A, forward voltage V], …]");
    for (const auto& [i, v] : points)
        if (!(i > 0 && v > 0))
            return bad(fmt::format("({}, {}) is not positive", i, v), "currents in A and volts above zero");
    const double vt = thermal_voltage(guess.reference);
    double slope = guess.emission * vt, rs = guess.resistance;
    const auto n = static_cast<Eigen::Index>(points.size());
    if (n >= 2) {  // columns: 1, ln I, and with three points or more I
        const bool with_rs = n >= 3;
        Eigen::MatrixXd a(n, with_rs ? 3 : 2);
        Eigen::VectorXd b(n);
        for (Eigen::Index k = 0; k < n; ++k) {
            const auto& [i, v] = points[static_cast<std::size_t>(k)];
            a(k, 0) = 1, a(k, 1) = std::log(i), b(k) = v - (with_rs ? 0 : i * rs);
            if (with_rs) a(k, 2) = i;
        }
        const auto qr = a.colPivHouseholderQr();
        if (qr.rank() < a.cols()) return bad("two points share one current", "points at different currents");
        const Eigen::VectorXd x = qr.solve(b);
        slope = x(1), rs = with_rs ? x(2) : rs;
        if (!(slope > 0.2 * vt) || rs < 0)
            return bad(fmt::format("the fit gives n = {:.2f}, Rs = {:.2f} Ω", slope / vt, rs),
                       "voltage that rises with current");
    }
    double log_is = 0;  // mean of the offsets left by each point
    for (const auto& [i, v] : points) log_is += (std::log(i) - (v - i * rs) / slope) / static_cast<double>(n);
    // At constant current V moves by tempco·ΔT; the slope follows kT/q. Both are held at the first point's
    // current.
    const double i0 = points.front()[0];
    const double v0 = slope * (std::log(i0) - log_is) + guess.tempco * (celsius - guess.reference);
    const double slope_now = slope * thermal_voltage(celsius) / vt;
    // a junction that is left next to nothing would conduct both ways
    if (!(v0 > least_share * slope_now))
        return bad(fmt::format("its series resistance of {:.4g} Ω drops all of its {:.3g} V at {:.3g} A", rs,
                               v0 + i0 * rs, i0),
                   fmt::format("at most {:.3g} Ω", std::max(0.0, rs + (v0 - least_share * slope_now) / i0)));
    if (v0 > steepest * slope_now)
        return bad(fmt::format("its curve rises within {:.2g} V of {:.3g} V", slope_now, v0),
                   "a curve as gentle as a diode's");
    // Is from I0 = Is (exp(v0/slope) − 1), where v0 is the junction's own share
    return Junction{i0 / std::expm1(v0 / slope_now), slope_now, rs};
}

}  // namespace elkit
