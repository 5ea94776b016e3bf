// Runs through time against closed forms, conservation and exact events.
#include "engine/transient.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "support/circuits.hpp"

namespace elkit::test {
namespace {

double at_end(const Recording& r, const char* probe) {
    const Trace* t = r.trace(probe);
    EXPECT_NE(t, nullptr) << probe;
    return t && !t->values.empty() ? t->values.back() : 0;
}

/// 5 V, R, C to ground.
Circuit rc() {
    return circuit({"supply PS1 +=IN -=0 voltage=5 resistance=0.001 lead_length=0",
                    "resistor R1 a=IN b=OUT value=10000", "capacitor C1 a=OUT b=0 value=1e-6 leakage=1e15"});
}

TEST(Transient, ChargesACapacitorAsTheClosedFormSays) {
    RunRequest q{.until = 0.03, .start = Start::power_up, .probes = {"net:OUT", "part:C1", "part:R1"}};
    const Recording r = recorded(rc(), q);
    const double tau = 1e-6 * (10000 + 0.001);
    for (std::size_t k = 0; k < r.time.size(); ++k) {
        EXPECT_NEAR(r.traces[0].values[k], 5 * (1 - std::exp(-r.time[k] / tau)), 0.01) << r.time[k];
        EXPECT_NEAR(r.traces[1].values[k], r.traces[2].values[k], 2e-6) << "the same current through both";
    }
    EXPECT_LT(r.steps, 80);
}

TEST(Transient, ConvergesWithTheSquareOfTheStep) {
    double before = 0;
    for (const double step : {2e-3, 1e-3, 0.5e-3, 0.25e-3}) {
        RunRequest q{.until = 0.01, .start = Start::power_up, .probes = {"net:OUT"}};
        q.accuracy = {.relative = 1e3, .volts = 1, .others = 1, .longest_step = step};
        const double error = std::abs(at_end(recorded(rc(), q), "net:OUT") - 5 * (1 - std::exp(-1.0)));
        if (before > 0) {
            EXPECT_NEAR(before / error, 4, 1.2) << step;
        }
        before = error;
    }
}

TEST(Transient, RingsAsAResonantCircuit) {
    const Circuit c = circuit({"supply PS1 +=IN -=0 voltage=1 resistance=0.001 lead_length=0",
                               "resistor R1 a=IN b=A value=10",
                               "inductor L1 a=A b=OUT value=1e-3 resistance=0.0001 saturation=1000",
                               "capacitor C1 a=OUT b=0 value=1e-6 leakage=1e15"});
    RunRequest q{.until = 1e-3, .start = Start::power_up, .probes = {"net:OUT"}};
    q.accuracy.relative = 1e-5;
    const Recording r = recorded(c, q);
    const double alpha = 10.0 / (2 * 1e-3), w = std::sqrt(1 / (1e-3 * 1e-6) - alpha * alpha);
    for (std::size_t k = 0; k < r.time.size(); ++k) {
        const double t = r.time[k];
        const double exact = 1 - std::exp(-alpha * t) * (std::cos(w * t) + alpha / w * std::sin(w * t));
        EXPECT_NEAR(r.traces[0].values[k], exact, 2e-3) << t;
    }
}

TEST(Transient, KeepsItsBooks) {
    RunRequest q{.until = 0.05, .start = Start::power_up, .probes = {"net:OUT"}};
    q.accuracy.relative = 1e-4;
    const Recording r = recorded(rc(), q);
    EXPECT_NEAR(r.balance.charge, 5e-6, 5e-8) << "Q = C V out of the supply";
    EXPECT_LT(r.balance.charge_error, 1e-3);
    EXPECT_NEAR(r.balance.given, 25e-6, 5e-7) << "C V²: half is heat";
    EXPECT_LT(r.balance.energy_error, 0.01);
}

TEST(Transient, PulsesAreMetAtTheirEdges) {
    const Circuit c =
        circuit({"vsource VS1 +=IN -=0 wave=pulse value=0 high=5 delay=1e-3 width=2e-3 period=1e-2 edge=1e-6",
                 "resistor R1 a=IN b=0 value=1000"});
    const Recording r = recorded(c, {.until = 0.02, .probes = {"net:IN"}});
    double high = 0;
    for (std::size_t k = 1; k < r.time.size(); ++k)
        high += (r.time[k] - r.time[k - 1]) * (r.traces[0].values[k] + r.traces[0].values[k - 1]) / 2;
    EXPECT_NEAR(high, 2 * 5 * (2e-3 + 1e-6), 1e-6) << "two pulses, however long the steps between";
}

TEST(Transient, AnAstableHasThePeriodOfTheClosedForm) {
    for (const double volts : {3.0, 5.0, 12.0}) {
        const Recording r = recorded(astable(volts, 10e3, 47e3, 1e-7),
                                     {.until = 0.08, .start = Start::power_up, .probes = {"net:OUT"}});
        std::vector<double> switches;
        for (const auto& h : r.happenings) switches.push_back(h.time);
        ASSERT_GT(switches.size(), 9u) << volts;
        const std::size_t last = switches.size() - 1;
        const double period = switches[last] - switches[last - 2];
        // charge from the supply through both; discharge towards what Ra leaves on the chip's 40 Ω
        const double floor = 40.0 / (10e3 + 40), ohms = 47e3 + 40 * 10e3 / (10e3 + 40);
        const double high = 57e3 * 1e-7 * std::numbers::ln2;
        const double low = ohms * 1e-7 * std::log((2.0 / 3 - floor) / (1.0 / 3 - floor));
        EXPECT_NEAR(period, low + high, 0.002 * period) << volts;
    }
}

TEST(Transient, EventTimesDoNotHangOnTheStep) {
    std::vector<double> first;
    for (const double step : {0.0, 3e-4, 1e-4}) {
        RunRequest q{.until = 0.03, .start = Start::power_up};
        q.accuracy = {.relative = 1e-6, .volts = 1e-8, .longest_step = step};
        const Recording r = recorded(astable(5, 10e3, 47e3, 1e-7), q);
        std::vector<double> times;
        for (const auto& h : r.happenings) times.push_back(h.time);
        if (first.empty()) first = times;
        ASSERT_GT(times.size(), 3u);
        ASSERT_EQ(times.size(), first.size());
        for (std::size_t k = 0; k < times.size(); ++k)
            EXPECT_NEAR(times[k], first[k], 2e-5 * first[k] + 1e-9);
    }
}

TEST(Transient, ASwitchIsPressedAtItsMoment) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=5 lead_length=0", "button S1 a=V b=OUT",
                               "resistor R1 a=OUT b=0 value=1000"});
    Conditions pressed;
    pressed.switches["S1"] = true;
    const Recording r = recorded(c, {.until = 0.02,
                                     .probes = {"net:OUT"},
                                     .changes = {{0.005, pressed, "press S1"}, {0.012, {}, "release S1"}}});
    for (std::size_t k = 0; k < r.time.size(); ++k) {
        const bool closed = r.time[k] > 0.005 && r.time[k] < 0.012;
        if (r.time[k] == 0.005 || r.time[k] == 0.012) continue;
        EXPECT_NEAR(r.traces[0].values[k], closed ? 5.0 : 0.0, 0.01) << r.time[k];
    }
    ASSERT_EQ(r.happenings.size(), 2u);
    EXPECT_EQ(r.happenings[0].what, "press S1");
    EXPECT_EQ(r.happenings[0].time, 0.005);
}

TEST(Transient, AProbeThatDoesNotExistIsNamed) {
    auto r = simulate(rc(), known_catalogue(), {}, {.until = 1, .probes = {"net:NOWHERE"}});
    ASSERT_FALSE(r);
    EXPECT_NE(r.error().place.find("NOWHERE"), std::string::npos);
}

TEST(Transient, CopiedCyclesAreTheComputedOnes) {
    Recording runs[2];
    for (const bool copy : {false, true}) {
        RunRequest q{.until = 1.0, .start = Start::power_up, .probes = {"net:OUT", "part:PS1"}};
        q.copy_cycles = copy;
        runs[copy] = recorded(astable(5, 10e3, 47e3, 1e-7), q);
    }
    const Recording &computed = runs[0], &copied = runs[1];
    EXPECT_GT(copied.copied_cycles, 100);
    EXPECT_EQ(computed.copied_cycles, 0);
    EXPECT_LT(copied.steps * 5, computed.steps);
    EXPECT_EQ(copied.happenings.size(), computed.happenings.size());
    EXPECT_NEAR(copied.happenings.back().time, computed.happenings.back().time, 1e-3);
    EXPECT_NEAR(copied.balance.charge / computed.balance.charge, 1, 1e-3);
    EXPECT_NEAR(copied.balance.given / computed.balance.given, 1, 1e-3);
    EXPECT_EQ(copied.time.back(), 1.0);
    EXPECT_TRUE(std::is_sorted(copied.time.begin(), copied.time.end()));
    for (const auto& t : copied.traces) EXPECT_EQ(t.values.size(), copied.time.size());
}

}  // namespace
}  // namespace elkit::test
