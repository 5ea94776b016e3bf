#include "recipes/sensor_law.hpp"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>

#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "quantity/format.hpp"
#include "quantity/preferred.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double zero_celsius = 273.15, room_kelvin = 298.15;  // K

Error not_so(const std::string& found, const std::string& expected) {
    return {Fault::design, "readings", found, expected};
}

/// Sorted by state, and falling. Error if there are too few, two of one state, or one that does not fall.
Result<PointList> falling(PointList readings, double least, Unit unit, const std::string& example) {
    std::sort(readings.begin(), readings.end());
    if (readings.size() < 2) return not_so(fmt::format("{} of them", readings.size()), example);
    for (std::size_t k = 0; k < readings.size(); ++k) {
        const auto& [state, ohms] = readings[k];
        if (!(state > least) || !(ohms > 0))
            return not_so(fmt::format("{} at {}", ohms_text(ohms), format_quantity(state, unit)), example);
        if (k && (state <= readings[k - 1][0] || ohms >= readings[k - 1][1]))
            return not_so(
                fmt::format("{} at {} after {} at {}", ohms_text(ohms), format_quantity(state, unit),
                            ohms_text(readings[k - 1][1]), format_quantity(readings[k - 1][0], unit)),
                "fewer ohms the more there is of it, " + example);
    }
    return readings;
}

/// Least squares of y = Σ c_k x^k over k of `powers`.
Eigen::VectorXd fit(const std::vector<double>& x, const std::vector<double>& y,
                    const std::vector<int>& powers) {
    Eigen::MatrixXd m(x.size(), powers.size());
    Eigen::VectorXd v(x.size());
    for (std::size_t row = 0; row < x.size(); ++row) {
        const auto r = static_cast<Eigen::Index>(row);
        for (std::size_t k = 0; k < powers.size(); ++k)
            m(r, static_cast<Eigen::Index>(k)) = std::pow(x[row], powers[k]);
        v(r) = y[row];
    }
    return m.colPivHouseholderQr().solve(v);
}

double within(const Part& part, const char* param, double value) {
    const ParamInfo& info = *part_kind(part.kind)->param(param);
    return std::clamp(value, info.low, info.high);
}

Result<SensorFit> judged(SensorFit fitted, const PointList& readings, const std::string& kind) {
    for (const auto& [state, ohms] : readings)
        fitted.worst = std::max(fitted.worst, std::abs(fitted.ohms(state) / ohms - 1));
    if (fitted.worst > 0.3)
        return not_so(fmt::format("{} that fits them is off by {:.0f} %", kind, 100 * fitted.worst),
                      "readings of one sensor, each once it no longer changes");
    if (fitted.worst > 0.005)
        fitted.law += fmt::format("; the reading that fits worst is off by {:.1f} %", 100 * fitted.worst);
    return fitted;
}

/// By what it is sold: the preferred value next to its ohms at 25 °C. Then its curve is in points.
void name_by_preferred(Part& thermistor) {
    const double own = thermistor.number("value"), sold = nearest_preferred(own, Series::e24);
    if (std::abs(sold / own - 1) > 0.1 || std::abs(sold / own - 1) < 1e-4) return;
    if (!thermistor.points("points")) {
        PointList points;
        for (const double celsius : {0.0, 25.0, 60.0})
            points.push_back({celsius, std::stod(fmt::format(
                                           "{:.5g}", thermistor_resistance(thermistor, celsius).value()))});
        Part curved = thermistor;
        curved.params["points"] = points;
        if (!thermistor_law(curved)) return;
        thermistor = std::move(curved);
    }
    thermistor.params["value"] = sold;
}

/// Steinhart and Hart's law by least squares, as three points of its curve.
PointList three_points(const PointList& readings) {
    std::vector<double> logs, inverse;
    for (const auto& [celsius, ohms] : readings)
        logs.push_back(std::log(ohms)), inverse.push_back(1 / (celsius + zero_celsius));
    const Eigen::VectorXd c = fit(logs, inverse, {0, 1, 3});
    PointList points;
    for (const double l : {logs.front(), (logs.front() + logs.back()) / 2, logs.back()})
        points.push_back({1 / (c(0) + c(1) * l + c(2) * l * l * l) - zero_celsius, std::exp(l)});
    return points;
}

}  // namespace

double SensorFit::ohms(double state) const {
    if (part.kind == "ldr") return ldr_resistance(part, state);
    const auto r = thermistor_resistance(part, state);
    return r ? r.value() : 0;
}

Result<SensorFit> fitted_thermistor(const PointList& typed) {
    auto sorted =
        falling(typed, -zero_celsius, Unit::celsius, "two readings or more, such as 20°C 12.5k; 60°C 2.5k");
    if (!sorted) return sorted.error();
    const PointList& readings = sorted.value();
    SensorFit fitted{{"", "thermistor", {}, {}, {}}, 0, {}};
    std::vector<double> inverse, logs;
    for (const auto& [celsius, ohms] : readings)
        inverse.push_back(1 / (celsius + zero_celsius) - 1 / room_kelvin), logs.push_back(std::log(ohms));
    const Eigen::VectorXd line = fit(inverse, logs, {0, 1});
    const double beta = std::round(line(1));
    if (beta != within(fitted.part, "beta", beta))
        return not_so(fmt::format("β would be {:.0f} K", beta), "readings of a thermistor: 1000 to 6000 K");
    // β in whole kelvins; the resistance that still goes through the middle of the readings
    double middle = 0;
    for (std::size_t k = 0; k < logs.size(); ++k)
        middle += (logs[k] - beta * inverse[k]) / static_cast<double>(logs.size());
    fitted.part.params["value"] =
        within(fitted.part, "value", std::stod(fmt::format("{:.4g}", std::exp(middle))));
    fitted.part.params["beta"] = beta;
    fitted.law =
        fmt::format("R = {} exp({:.0f} K (1/T − 1/298.15 K))", ohms_text(fitted.part.number("value")), beta);
    if (readings.size() > 2) {
        Part curved = fitted.part;
        curved.params["points"] = readings.size() == 3 ? readings : three_points(readings);
        if (const auto law = thermistor_law(curved)) {  // readings too rough for it stay with β
            fitted.part = std::move(curved);
            fitted.law = fmt::format("1/T = {:.5g} + {:.5g} ln R + {:.3g} (ln R)³", law.value().a,
                                     law.value().b, law.value().c);
        }
    }
    name_by_preferred(fitted.part);
    return judged(std::move(fitted), readings, "the thermistor");
}

Result<SensorFit> fitted_ldr(const PointList& typed) {
    auto sorted = falling(typed, 0, Unit::lux, "two readings or more, such as 10lx 10k; 1000lx 400R");
    if (!sorted) return sorted.error();
    const PointList& readings = sorted.value();
    SensorFit fitted{{"", "ldr", {}, {}, {}}, 0, {}};
    std::vector<double> x, y;
    for (const auto& [lux, ohms] : readings) x.push_back(std::log(lux / 10)), y.push_back(std::log(ohms));
    const Eigen::VectorXd line = fit(x, y, {0, 1});
    const double gamma = std::stod(fmt::format("{:.3f}", -line(1))),
                 value = std::stod(fmt::format("{:.4g}", std::exp(line(0))));
    if (gamma != within(fitted.part, "gamma", gamma) || value != within(fitted.part, "value", value))
        return not_so(fmt::format("γ would be {:.2f}, with {} at 10 lx", gamma, ohms_text(value)),
                      "readings of a light-dependent resistor: γ from 0.3 to 1.5");
    fitted.part.params["gamma"] = gamma, fitted.part.params["value"] = value;
    if (readings.front()[1] > fitted.part.number("dark") / 3)  // its dark resistance is more than that
        fitted.part.params["dark"] = within(fitted.part, "dark", 10 * readings.front()[1]);
    fitted.law = fmt::format("R = {} (E/10 lx)^−{:.3g}", ohms_text(value), gamma);
    return judged(std::move(fitted), readings, "the light-dependent resistor");
}

}  // namespace elkit
