// Devices against their equations over currents, voltages and temperatures, and every kind against the laws
// that no part may break.
#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "engine/transient.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

std::string text(double v) {
    std::ostringstream s;
    s.precision(12);
    s << v;
    return s.str();
}

/// Base-emitter voltage and collector current of a transistor in its active region.
class Junctions : public ::testing::TestWithParam<double> {};
TEST_P(Junctions, CollectorCurrentFollowsTheExponential) {
    const double vbe = GetParam();
    const Circuit c = circuit({"vsource VS1 +=B -=0 resistance=1e-6 value=" + text(vbe),
                               "vsource VS2 +=C -=0 value=5 resistance=1e-6",
                               "npn Q1 c=C b=B e=0 saturation_current=1e-14 gain=200 early=1000 leakage=0 "
                               "knee_current=1000 collector_resistance=0"});
    Conditions q;
    q.celsius = 25;
    const OperatingPoint op = solve(c, q);
    const double vt = thermal_voltage(25);
    const double expected = 1e-14 * (std::exp(vbe / vt) - 1) * (1 + (5 - vbe) / 1000);
    EXPECT_NEAR(op.part("Q1").pins[0] / expected, 1, 2e-3);
    EXPECT_NEAR(op.part("Q1").pins[0] / op.part("Q1").pins[1], 200, 2);
    EXPECT_NEAR(op.part("Q1").pins[0] + op.part("Q1").pins[1] + op.part("Q1").pins[2], 0,
                1e-12 + 1e-9 * expected);
}
INSTANTIATE_TEST_SUITE_P(Volts, Junctions, ::testing::Values(0.50, 0.55, 0.60, 0.65, 0.70, 0.75));

TEST(Transistors, WarmthBringsMoreCurrentForTheSameVoltage) {
    const Circuit c =
        circuit({"vsource VS1 +=B -=0 value=0.6", "vsource VS2 +=C -=0 value=5", "npn Q1 c=C b=B e=0"});
    double before = 0;
    for (const double celsius : {-10.0, 0.0, 20.0, 40.0, 60.0}) {
        Conditions q;
        q.celsius = celsius;
        const double now = solve(c, q).part("Q1").pins[0];
        EXPECT_GT(now, before * 1.5) << celsius;
        before = now;
    }
}

TEST(Transistors, APnpIsAnNpnInAMirror) {
    const Circuit npn = circuit({"vsource VS1 +=B -=0 value=0.65", "vsource VS2 +=C -=0 value=3",
                                 "npn Q1 c=C b=B e=0 gain=100 saturation_current=1e-14 early=80 leakage=1e-9 "
                                 "knee_current=0.1 collector_resistance=1"});
    const Circuit pnp = circuit({"vsource VS1 +=B -=0 value=-0.65", "vsource VS2 +=C -=0 value=-3",
                                 "pnp Q1 c=C b=B e=0 gain=100 saturation_current=1e-14 early=80 leakage=1e-9 "
                                 "knee_current=0.1 collector_resistance=1"});
    for (std::size_t k = 0; k < 3; ++k)
        EXPECT_NEAR(solve(npn).part("Q1").pins[k], -solve(pnp).part("Q1").pins[k], 1e-9);
}

struct PhysicsPoint {
    double gate, drain;
};
class Fets : public ::testing::TestWithParam<PhysicsPoint> {};
TEST_P(Fets, FollowTheirCurveInEveryRegion) {
    const auto [vgs, vds] = GetParam();
    const Circuit c = circuit({"vsource VS1 +=G -=0 value=" + text(vgs),
                               "vsource VS2 +=D -=0 resistance=1e-6 value=" + text(vds),
                               "nmos Q1 d=D g=G s=0 threshold=1.5 on_resistance=1 gate_drive=4.5 leakage=0"});
    Conditions q;
    q.celsius = 25;
    const double beta = 1 / (1 * (4.5 - 1.5)), vt = thermal_voltage(25), n = mosfet_slope;
    const auto f = [&](double u) { return std::pow(std::log1p(std::exp(u / (2 * n * vt))), 2); };
    const double expected = 2 * n * beta * vt * vt * (f(vgs - 1.5) - f(vgs - 1.5 - n * vds));
    EXPECT_NEAR(solve(c, q).part("Q1").pins[0], expected, 2e-3 * expected + 1e-11);
}
INSTANTIATE_TEST_SUITE_P(Points, Fets,
                         ::testing::Values(PhysicsPoint{0.5, 3}, PhysicsPoint{1.2, 3}, PhysicsPoint{1.5, 3},
                                           PhysicsPoint{2, 3}, PhysicsPoint{3, 0.05}, PhysicsPoint{3, 1},
                                           PhysicsPoint{4.5, 0.1}, PhysicsPoint{4.5, 4}));

/// Temperature, LED and the 2 mV that it loses a degree.
class Warmth : public ::testing::TestWithParam<const char*> {};
TEST_P(Warmth, LowersTheForwardVoltage) {
    const Circuit c = circuit({"vsource VS1 +=Z -=0", "resistor R1 a=Z b=0", "isource IS1 +=A -=0 value=0.01",
                               "led L1 a=A k=0 type=" + std::string(GetParam())});
    Conditions cold, hot;
    cold.celsius = 0, hot.celsius = 50;
    EXPECT_NEAR((solve(c, hot).voltage("A") - solve(c, cold).voltage("A")) / 50, -0.002, 3e-4);
}
INSTANTIATE_TEST_SUITE_P(Colours, Warmth, ::testing::Values("red-5mm", "green-5mm", "blue-5mm", "white-5mm"));

class Thermistors : public ::testing::TestWithParam<double> {};
TEST_P(Thermistors, DivideAsTheirFormula) {
    Conditions q;
    q.celsius = GetParam();
    const Circuit c =
        circuit({"vsource VS1 +=V -=0 value=5 resistance=1e-6",
                 "thermistor TH1 a=V b=M value=10000 beta=3950", "resistor R1 a=M b=0 value=10000"});
    double own = 0, volts = 0;  // its own warmth
    for (int k = 0; k < 100; ++k) {
        const double r = 10e3 * std::exp(3950 * (1 / (GetParam() + own + 273.15) - 1 / 298.15));
        volts = 5 * 10e3 / (10e3 + r);
        own = (5 - volts) * (5 - volts) / r / 0.002;
    }
    EXPECT_NEAR(solve(c, q).voltage("M"), volts, 1e-6);
    EXPECT_GT(own, 0.05);
}
INSTANTIATE_TEST_SUITE_P(Celsius, Thermistors, ::testing::Values(-20.0, 0.0, 25.0, 60.0, 85.0));

class EveryKind : public ::testing::TestWithParam<std::string> {};
TEST_P(EveryKind, SolvesAndKeepsKirchhoffAndEnergy) {
    const PartKind& kind = *part_kind(GetParam());
    const Circuit c = around(kind);
    for (const double celsius : {-10.0, 21.0, 50.0}) {
        Conditions q;
        q.celsius = celsius;
        const auto op = operating_point(c, known_catalogue(), q);
        ASSERT_TRUE(op) << op.error().text();
        double power = 0, largest = 0;
        for (const PartState& s : op.value().parts)
            power += s.power(), largest = std::max(largest, std::abs(s.power()));
        EXPECT_LT(std::abs(power), 1e-6 * largest + 1e-9) << "what is given is taken";
        if (!is(c.parts.back(), Role::source) && kind.id != "isource") {
            EXPECT_GE(op.value().parts.back().power(), -1e-9) << "it gives nothing of its own";
        }
    }
}
TEST_P(EveryKind, RunsThroughTimeAndKeepsItsBooks) {
    const PartKind& kind = *part_kind(GetParam());
    const Circuit c = around(kind);
    RunRequest request{.until = 2e-3, .start = Start::power_up, .probes = {"net:M"}};
    request.accuracy.relative = 1e-3;
    const auto run = simulate(c, known_catalogue(), {}, request);
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_NEAR(run.value().time.back(), 2e-3, 1e-12);
    EXPECT_LT(run.value().balance.energy_error, 0.05) << kind.id;
    EXPECT_LT(run.value().balance.charge_error, 0.02) << kind.id;
    for (const double v : run.value().traces[0].values) EXPECT_LT(std::abs(v), 100) << kind.id;
}
std::vector<std::string> kind_ids() {
    std::vector<std::string> ids;
    for (const PartKind& kind : part_kinds()) ids.push_back(kind.id);
    return ids;
}
INSTANTIATE_TEST_SUITE_P(Kinds, EveryKind, ::testing::ValuesIn(kind_ids()),
                         [](const auto& i) { return i.param; });

/// Time constants over nine decades: the step finds its own size.
class Decades : public ::testing::TestWithParam<double> {};
TEST_P(Decades, OfTimeAreMetAlike) {
    const double tau = GetParam(), ohms = 1e4;
    const Circuit c = circuit({"supply PS1 +=IN -=0 voltage=5 resistance=0.001 lead_length=0",
                               "resistor R1 a=IN b=OUT value=" + text(ohms),
                               "capacitor C1 a=OUT b=0 leakage=1e15 value=" + text(tau / ohms)});
    RunRequest q{.until = 3 * tau, .start = Start::power_up, .probes = {"net:OUT"}};
    const auto run = simulate(c, known_catalogue(), {}, q);
    ASSERT_TRUE(run);
    EXPECT_NEAR(run.value().traces[0].values.back(), 5 * (1 - std::exp(-3.0)), 0.01) << tau;
    EXPECT_LT(run.value().steps, 120);
}
INSTANTIATE_TEST_SUITE_P(Tau, Decades, ::testing::Values(1e-8, 1e-6, 1e-4, 1e-2, 1.0));

/// A capacitor that floats between two resistors: charge that no ground sees.
class Floating : public ::testing::TestWithParam<double> {};
TEST_P(Floating, CapacitorsChargeThroughBothSides) {
    const double ohms = GetParam();
    const Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=6 resistance=0.5 lead_length=0",
                 "capacitor C1 a=V b=X value=5e-8 leakage=1e15", "resistor R1 a=X b=0 value=" + text(ohms)});
    const double tau = (ohms + 0.5) * 5e-8;
    const auto run = simulate(c, known_catalogue(), {},
                              {.until = 4 * tau, .start = Start::power_up, .probes = {"part:C1", "part:R1"}});
    ASSERT_TRUE(run) << run.error().text();
    const Recording& r = run.value();
    for (std::size_t k = 0; k < r.time.size(); ++k) {
        const double exact = 6 / (ohms + 0.5) * std::exp(-r.time[k] / tau);
        EXPECT_NEAR(r.traces[0].values[k], exact, 0.01 * 6 / (ohms + 0.5)) << r.time[k];
        EXPECT_NEAR(r.traces[1].values[k], r.traces[0].values[k], 1e-6 * 6 / (ohms + 0.5) + 1e-9);
    }
}
INSTANTIATE_TEST_SUITE_P(Ohms, Floating, ::testing::Values(1.0, 10.0, 1e3, 1e5));

}  // namespace
}  // namespace elkit::test
