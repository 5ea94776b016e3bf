#include "engine/junction.hpp"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <optional>
#include <utility>
#include <vector>

#include "quantity/format.hpp"

namespace elkit {

double thermal_voltage(double celsius) {
    constexpr double boltzmann_over_charge = 1.380649e-23 / 1.602176634e-19;  // SI 2019, exact
    return boltzmann_over_charge * (celsius + 273.15);
}

namespace {

/// Two steps of fourth order on w + ln w − z (Fritsch, Shafer & Crowley, CACM 16, 1973) from a guess.
double polished_omega(double w, double z) {
    for (int i = 0; i < 3; ++i) {
        const double r = z - w - std::log(w), s = 1 + w;
        const double t = s * (s + 2.0 / 3 * r);
        w *= 1 + r / s * (t - r / 2) / (t - r);
        if (std::abs(r) < 1e-3 * s) break;  // what is left is below rounding
    }
    return w;
}

double omega_by_series(double z) {
    double w = 0;
    if (z < -2) {  // ω = e − e² + 3/2 e³ …, e = e^z
        const double e = std::exp(z);
        w = e * (1 - e * (1 - 1.5 * e));
        if (z < -13) return w;  // what is left out is below rounding
    } else if (z < 1.5) {
        const double d = z - 1;  // Taylor at ω(1) = 1
        w = 1 + d * (0.5 + d * (1.0 / 16 - d / 192));
    } else {
        const double l = std::log(z);
        w = z - l + l / z * (1 + (l - 2) / (2 * z));
    }
    return polished_omega(w, z);
}

/// Taylor's series at points a thirty-second apart, where junctions conduct: seven terms are below rounding.
class OmegaTable {
  public:
    static constexpr double low = -13, high = 40;
    OmegaTable() {
        for (std::size_t k = 0; k < points_.size(); ++k) {
            const double w = omega_by_series(low + static_cast<double>(k) / per_unit), s = 1 / (1 + w);
            // ω' = ω/(1 + ω), and each derivative from the one before (Corless & Jeffrey, LNCS 2385, 2002)
            const double a = w * s, b = a * s * s, c = b * s * s, d = c * s * s, e = d * s * s;
            points_[k] = {w,
                          a,
                          b / 2,
                          c * (1 - 2 * w) / 6,
                          d * (1 + w * (-8 + 6 * w)) / 24,
                          e * (1 + w * (-22 + w * (58 - 24 * w))) / 120,
                          e * s * s * (1 + w * (-52 + w * (328 + w * (-444 + 120 * w)))) / 720};
        }
    }
    double at(double z) const {
        const double place = (z - low) * per_unit + 0.5;
        const auto k = static_cast<std::size_t>(place);
        const double d = (place - 0.5 - static_cast<double>(k)) / per_unit;
        const auto& c = points_[k];
        return c[0] + d * (c[1] + d * (c[2] + d * (c[3] + d * (c[4] + d * (c[5] + d * c[6])))));
    }

  private:
    static constexpr double per_unit = 32;
    std::array<std::array<double, 7>, static_cast<std::size_t>((high - low) * per_unit) + 2> points_{};
};

}  // namespace

double wright_omega(double z) {
    static const OmegaTable table;
    return z >= OmegaTable::low && z < OmegaTable::high ? table.at(z) : omega_by_series(z);
}

JunctionLaw::JunctionLaw(const Junction& j)
    : saturation_(j.saturation),
      slope_(j.slope),
      resistance_(j.resistance),
      offset_(j.resistance > 0
                  ? std::log(j.saturation * j.resistance / j.slope) + j.saturation * j.resistance / j.slope
                  : 0) {}

/// Below this a junction carries less than some 1e-18 A: nothing beside any leak.
constexpr double dark = -36;

Junction::Point JunctionLaw::at(double voltage) const {
    if (resistance_ <= 0) {
        const double e = saturation_ * std::exp(voltage / slope_);
        return {e - saturation_, e / slope_};
    }
    const double z = offset_ + voltage / slope_;
    if (z < dark) return {-saturation_, 0};
    const double w = wright_omega(z);
    return {slope_ / resistance_ * w - saturation_, w / (resistance_ * (1 + w))};
}

Junction::Point Junction::at(double voltage) const { return JunctionLaw(*this).at(voltage); }

double Junction::voltage_at(double current) const {
    return slope * std::log1p(current / saturation) + current * resistance;
}

namespace {

constexpr double least_emission = 0.8;  // of any junction, with room for what a meter reads wrong

struct Shape {
    double slope, resistance;  // n Vt [V], Rs [Ω]
};

/// Least squares of V = c + slope ln I + Rs I over the columns that are not given; nothing if two points
/// share one current.
std::optional<Shape> least_squares(const PointList& points, std::optional<double> slope,
                                   std::optional<double> rs) {
    const auto n = static_cast<Eigen::Index>(points.size());
    const Eigen::Index columns = 1 + (slope ? 0 : 1) + (rs ? 0 : 1);
    if (n < columns) return std::nullopt;
    Eigen::MatrixXd a(n, columns);
    Eigen::VectorXd b(n);
    for (Eigen::Index k = 0; k < n; ++k) {
        const auto& [i, v] = points[static_cast<std::size_t>(k)];
        Eigen::Index c = 0;
        a(k, c++) = 1, b(k) = v - slope.value_or(0) * std::log(i) - rs.value_or(0) * i;
        if (!slope) a(k, c++) = std::log(i);
        if (!rs) a(k, c++) = i;
    }
    const auto qr = a.colPivHouseholderQr();
    if (qr.rank() < columns) return std::nullopt;
    const Eigen::VectorXd x = qr.solve(b);
    Eigen::Index c = 1;
    Shape shape{};
    shape.slope = slope ? *slope : x(c++);
    shape.resistance = rs ? *rs : x(c);
    return shape;
}

/// The shape that the points give: n from two of them, Rs too from three; where these give what no junction
/// has, with the other of the two as the type has it, or without Rs.
Result<Shape> fit_shape(const PointList& points, const JunctionGuess& guess, double vt) {
    const double slope = guess.emission * vt, rs = guess.resistance;
    if (points.size() < 2) return Shape{slope, rs};
    using Given = std::optional<double>;
    const std::vector<std::pair<Given, Given>> ways =
        points.size() >= 3 ? std::vector<std::pair<Given, Given>>{{{}, {}}, {{}, rs}, {slope, {}}, {{}, 0.0}}
                           : std::vector<std::pair<Given, Given>>{{{}, rs}, {slope, {}}, {{}, 0.0}};
    bool any = false;
    for (const auto& [given_slope, given_rs] : ways) {
        const auto shape = least_squares(points, given_slope, given_rs);
        if (!shape) continue;
        any = true;
        if (shape->slope >= least_emission * vt && shape->resistance >= 0) return *shape;
    }
    if (!any)
        return Error{Fault::design, "points", "two points share one current", "points at different currents"};
    const auto order = [](const auto& x, const auto& y) { return x[0] < y[0]; };
    const auto low = *std::min_element(points.begin(), points.end(), order),
               high = *std::max_element(points.begin(), points.end(), order);
    return Error{
        Fault::design, "points",
        fmt::format(
            "from {} to {} its voltage {} by {:.3g} mV; no junction's rises by less than {:.3g} mV there",
            format_quantity(low[0], Unit::ampere), format_quantity(high[0], Unit::ampere),
            high[1] < low[1] ? "falls" : "rises", 1e3 * std::abs(high[1] - low[1]),
            1e3 * least_emission * vt * std::log(high[0] / low[0])),
        "two points measured anew, each a few seconds after the current was set: at the higher current "
        "the LED must not have grown warm"};
}

constexpr double steepest = 600;   // n Vt: e to that is still a number
constexpr double least_share = 6;  // n Vt that the junction itself must drop: it blocks to 1/400

}  // namespace

Result<Junction> fit_junction(const PointList& points, const JunctionGuess& guess, double celsius) {
    const auto bad = [](std::string found, std::string expected) {
        return Error{Fault::design, "points", std::move(found), std::move(expected)};
    };
    if (points.empty()) return bad("there is no point", "[[current A, forward voltage V], …]");
    for (const auto& [i, v] : points)
        if (!(i > 0 && v > 0))
            return bad(fmt::format("({}, {}) is not positive", i, v), "currents in A and volts above zero");
    const double vt = thermal_voltage(guess.reference);
    auto shape = fit_shape(points, guess, vt);
    if (!shape) return shape.error();
    const auto [slope, rs] = shape.value();
    const auto n = static_cast<double>(points.size());
    double log_is = 0;  // mean of the offsets left by each point
    for (const auto& [i, v] : points) log_is += (std::log(i) - (v - i * rs) / slope) / n;
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
