#include "engine/operating_point.hpp"

#include <gtest/gtest.h>

#include <boost/math/special_functions/lambert_w.hpp>
#include <cmath>
#include <random>

#include "engine/device.hpp"
#include "engine/models.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {
using test::led, test::resistor, test::solve, test::supply;

TEST(OperatingPoint, DividesAVoltage) {
    const auto op =
        solve({{supply("V", "0", 9, 0), resistor("R1", "V", "M", 2000), resistor("R2", "M", "0", 1000)}});
    EXPECT_NEAR(op.voltage("M"), 3, 1e-6);
    EXPECT_NEAR(op.part("R1").current, 0.003, 1e-8);
    EXPECT_NEAR(op.supply_current(), 0.003, 1e-8);
}

TEST(OperatingPoint, SharesBetweenParallelCells) {
    // two unequal sources behind their resistances: superposition gives the node voltage
    Part b2{"B2", "supply", {}, {{"+", "V"}, {"-", "0"}}, {}};
    b2.params["voltage"] = 4.0, b2.params["resistance"] = 2.0, b2.params["lead_length"] = 0.0;
    const auto op = solve({{supply("V", "0", 5, 1), b2, resistor("R1", "V", "0", 10)}});
    const double expected = (5.0 / 1 + 4.0 / 2) / (1 + 0.5 + 0.1);
    EXPECT_NEAR(op.voltage("V"), expected, 1e-6);
    EXPECT_NEAR(-op.part("PS1").current, 5 - expected, 1e-6);
    EXPECT_NEAR(-op.part("B2").current, (4 - expected) / 2, 1e-6);
}

TEST(OperatingPoint, MeetsTheLambertWSolutionOfLedAndResistor) {
    for (const double volts : {2.2, 3.0, 5.0, 9.0, 12.0})
        for (const double ohms : {47.0, 220.0, 1000.0}) {
            const Circuit c{
                {supply("V", "0", volts, 0.1), resistor("R1", "V", "A", ohms), led("L1", "A", "0")}};
            const auto op = solve(c);
            const Junction j = junction_model(*c.find("L1"), known_catalogue(), 21, 0).value();
            const double r = ohms + 0.1 + j.resistance, a = j.slope;
            const double z = j.saturation * r / a * std::exp((volts + j.saturation * r) / a);
            const double expected =
                std::isfinite(z) ? a / r * boost::math::lambert_w0(z) - j.saturation : op.part("L1").current;
            EXPECT_NEAR(op.part("L1").current / expected, 1, 1e-7) << volts << " V, " << ohms << " Ω";
        }
}

TEST(OperatingPoint, BlocksAReversedLed) {
    const auto op = solve({{supply("V", "0", 4.5, 0.1), resistor("R1", "V", "A", 100), led("L1", "0", "A")}});
    EXPECT_LT(std::abs(op.part("L1").current), 1e-9);
    EXPECT_NEAR(op.part("L1").voltage, -4.5, 1e-3);
}

TEST(OperatingPoint, SettlesWithEverySwitchOpen) {
    const Design d = test::pier_lantern();
    Conditions off;
    off.switches["S1"] = false;
    const auto op = solve(d.circuit, off);
    EXPECT_LT(std::abs(op.supply_current()), 1e-10);
}

TEST(OperatingPoint, FollowsBatteryAndTemperature) {
    const Design d = test::pier_lantern();
    double before = 1;
    for (const double charge : {1.0, 0.8, 0.6, 0.4, 0.2, 0.0}) {
        const double now = solve(d.circuit, {charge, 21, {}}).supply_current();
        EXPECT_LT(now, before) << charge;
        before = now;
    }
    EXPECT_GT(solve(d.circuit, {1, 40, {}}).supply_current(), solve(d.circuit, {1, 0, {}}).supply_current())
        << "a warm LED has less forward voltage";
}

TEST(OperatingPoint, NearlyTheSameFromAnyStart) {
    const Design d = test::pier_lantern();
    const auto fresh = solve(d.circuit), half = solve(d.circuit, {0.5, 21, {}});
    const auto again = operating_point(d.circuit, known_catalogue(), {1, 21, {}}, {}, &half);
    ASSERT_TRUE(again);
    for (const auto& net : fresh.nets)
        EXPECT_NEAR(again.value().voltage(net), fresh.voltage(net), 1e-8) << net;
}

TEST(OperatingPoint, NamesTheCulprit) {
    const auto lone = operating_point(
        {{supply("V", "0", 5, 1), resistor("R1", "V", "X", 100), resistor("R2", "V", "0", 100)}},
        known_catalogue(), {});
    ASSERT_FALSE(lone);
    EXPECT_EQ(lone.error().place, "net X");
    const auto high =
        operating_point({{supply("V", "0", 61, 1), resistor("R1", "V", "0", 100)}}, known_catalogue(), {});
    ASSERT_FALSE(high);
    EXPECT_EQ(high.error().place, "part PS1");
    EXPECT_NE(high.error().expected.find("licensed electrician"), std::string::npos);
}

/// Random networks of resistors, LEDs and diodes between random nets: Kirchhoff holds and no energy is
/// created.
class RandomNetwork : public ::testing::TestWithParam<int> {};

TEST_P(RandomNetwork, HoldsKirchhoffAndEnergy) {
    std::mt19937 random(static_cast<unsigned>(GetParam()));
    const int nets = 3 + GetParam() % 90;  // crosses from the dense to the sparse solver
    const auto pick = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
    const auto name = [](int n) { return "N" + std::to_string(n); };
    Circuit c{{supply("N1", "N0", 1 + pick(50), 0.2 + pick(5))}};
    for (int n = 2; n < nets; ++n)
        c.parts.push_back(resistor("R" + std::to_string(n), name(n), name(pick(n)), std::pow(10, pick(6))));
    for (int k = 0; k < 2 * nets; ++k) {
        const int a = pick(nets), b = pick(nets);
        if (a == b) continue;
        const std::string id = std::to_string(1000 + k);
        if (k % 3 == 0)
            c.parts.push_back(resistor("R" + id, name(a), name(b), std::pow(10, 1 + pick(5))));
        else
            c.parts.push_back(led("L" + id, name(a), name(b), k % 2 ? "red-5mm" : "white-5mm"));
    }
    for (const auto& net : c.nets()) {  // no net with a single pin
        int pins = 0;
        for (const auto& p : c.parts) pins += (p.pins[0].net == net) + (p.pins[1].net == net);
        if (pins == 1) c.parts.push_back(resistor("RX" + net, net, net == "N0" ? "N1" : "N0", 1e4));
    }
    const auto op = solve(c);
    std::map<std::string, double> sum;
    double largest = 0, power = 0;
    for (std::size_t i = 0; i < c.parts.size(); ++i) {
        const PartState& s = op.parts[i];
        sum[c.parts[i].pins[0].net] += s.current;
        sum[c.parts[i].pins[1].net] -= s.current;
        largest = std::max(largest, std::abs(s.current));
        power += s.power();
        if (c.parts[i].kind != "supply") {
            EXPECT_GE(s.power(), -1e-9) << c.parts[i].designator << " gives energy";
        }
    }
    for (const auto& [net, i] : sum) EXPECT_LT(std::abs(i), 2e-9 * largest + 1e-9) << net;
    EXPECT_LT(std::abs(power), 1e-6 * largest * 50 + 1e-9);
}

INSTANTIATE_TEST_SUITE_P(Seeds, RandomNetwork, ::testing::Range(1, 120));

}  // namespace
}  // namespace elkit
