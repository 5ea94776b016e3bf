#include "engine/junction.hpp"

#include <gtest/gtest.h>

#include <boost/math/special_functions/lambert_w.hpp>
#include <cmath>

namespace elkit {
namespace {

TEST(WrightOmega, AgreesWithLambertWWhereThatCanBeComputed) {
    for (double z = -25; z < 600; z += 0.37) {
        const double expected = z < 690 ? boost::math::lambert_w0(std::exp(z)) : 0;
        EXPECT_NEAR(wright_omega(z) / expected, 1, 1e-13) << z;
    }
}

TEST(WrightOmega, SolvesItsEquationFarOutside) {
    for (const double z : {-700.0, -40.0, 1e3, 1e6, 1e12}) {
        const double w = wright_omega(z);
        if (z > 0) {
            EXPECT_NEAR((w + std::log(w)) / z, 1, 1e-14) << z;
        } else {
            EXPECT_NEAR(std::log(w) / z, 1, 1e-12) << z;
        }
    }
}

TEST(Junction, KnowsTheThermalVoltage) {
    EXPECT_NEAR(thermal_voltage(25), 0.0256926, 1e-7);  // kT/q at 298.15 K
    EXPECT_NEAR(thermal_voltage(-20) / thermal_voltage(25), 253.15 / 298.15, 1e-12);
}

TEST(Junction, CurrentAndVoltageAreInverse) {
    for (const double rs : {0.0, 0.5, 10.0}) {
        const Junction j{1e-17, 0.05, rs};
        for (double i = 1e-9; i < 0.05; i *= 3)
            EXPECT_NEAR(j.at(j.voltage_at(i)).current / i, 1, 1e-9) << rs << " " << i;
    }
}

TEST(Junction, ConductanceIsTheSlopeOfTheCurrent) {
    const Junction j{1e-16, 0.05, 8};
    for (double v = 0.8; v < 4; v += 0.1) {
        const double h = 1e-6, slope = (j.at(v + h).current - j.at(v - h).current) / (2 * h);
        EXPECT_NEAR(j.at(v).conductance / slope, 1, 1e-5) << v;
    }
}

TEST(Fit, OnePointIsMetAtItsTemperature) {
    const auto j = fit_junction({{0.02, 2.1}}, {1.9, 6, -0.002, 25}, 25);
    ASSERT_TRUE(j);
    EXPECT_NEAR(j.value().voltage_at(0.02), 2.1, 1e-9);
}

TEST(Fit, ForwardVoltageFallsTwoMillivoltsForEachDegree) {
    const auto cold = fit_junction({{0.02, 2.1}}, {1.9, 6, -0.002, 25}, 0),
               hot = fit_junction({{0.02, 2.1}}, {1.9, 6, -0.002, 25}, 50);
    EXPECT_NEAR(cold.value().voltage_at(0.02), 2.15, 1e-6);
    EXPECT_NEAR(hot.value().voltage_at(0.02), 2.05, 1e-6);
}

TEST(Fit, ThreePointsGiveBackTheCurveTheyCameFrom) {
    const double vt = thermal_voltage(25);
    const Junction truth{3e-18, 2.1 * vt, 7};
    PointList points;
    for (const double i : {0.001, 0.005, 0.02}) points.push_back({i, truth.voltage_at(i)});
    const auto fitted = fit_junction(points, {}, 25);
    ASSERT_TRUE(fitted);
    EXPECT_NEAR(fitted.value().resistance, 7, 1e-6);
    EXPECT_NEAR(fitted.value().slope / truth.slope, 1, 1e-6);
    EXPECT_NEAR(fitted.value().voltage_at(0.01), truth.voltage_at(0.01), 1e-6);
}

TEST(Fit, TwoPointsThatRiseLessThanTheirSeriesResistanceStillFit) {
    // 30 mV more from 10 to 20 mA: 10 Ω alone would make 100 mV
    const PointList points{{0.01, 1.97}, {0.02, 2.0}};
    const auto j = fit_junction(points, {1.8, 10, -0.002}, 25);
    ASSERT_TRUE(j) << j.error().text();
    for (const auto& [i, v] : points) EXPECT_NEAR(j.value().voltage_at(i), v, 1e-3);
    EXPECT_GE(j.value().resistance, 0);
}

TEST(Fit, SaysInPlainWordsWhyTwoPointsDoNotFit) {
    const auto falls = fit_junction({{0.01, 2.05}, {0.02, 2.0}}, {1.8, 10, -0.002}, 25);
    ASSERT_FALSE(falls);
    EXPECT_NE(falls.error().found.find("falls by 50 mV"), std::string::npos) << falls.error().text();
    EXPECT_NE(falls.error().expected.find("grown warm"), std::string::npos);
}

TEST(Fit, PointsHoldAtTheTemperatureThatTheyWereMeasuredAt) {
    JunctionGuess guess{2, 5, -0.002};
    guess.reference = 5;
    const auto j = fit_junction({{0.02, 2.1}}, guess, 5);
    ASSERT_TRUE(j);
    EXPECT_NEAR(j.value().voltage_at(0.02), 2.1, 1e-6);
    EXPECT_NEAR(fit_junction({{0.02, 2.1}}, guess, 25).value().voltage_at(0.02), 2.1 - 20 * 0.002, 2e-3);
}

TEST(Fit, RefusesPointsThatAreNoDiode) {
    EXPECT_FALSE(fit_junction({}, {}, 25));
    EXPECT_FALSE(fit_junction({{0.01, -2}}, {}, 25));
    EXPECT_FALSE(fit_junction({{0.01, 2.0}, {0.01, 2.1}}, {}, 25));
    EXPECT_FALSE(fit_junction({{0.01, 2.1}, {0.02, 1.9}}, {}, 25));
}

}  // namespace
}  // namespace elkit
