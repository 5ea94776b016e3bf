// Random circuits of all kinds against the laws of physics, and the single faults that they found.
#include "support/random_circuits.hpp"

#include <gtest/gtest.h>

#include "engine/transient.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

TEST(RandomCircuits, ObeyTheLawsOfPhysics) {
    constexpr unsigned count = 2000;
    int solved = 0;
    for (unsigned seed = 1; seed <= count; ++seed) {
        const RandomCase random = random_case(seed);
        const Outcome outcome = outcome_of(random, seed % 4 == 0);
        for (const std::string& law : outcome.broken)
            ADD_FAILURE() << seed << ": " << law << "\n" << described(random);
        EXPECT_EQ(outcome.run_refusal.find("would not settle"), std::string::npos)
            << seed << ": " << outcome.run_refusal << "\n"
            << described(random);
        solved += outcome.kind == Outcome::Kind::solved;
        if (outcome.kind == Outcome::Kind::unsettled)
            ADD_FAILURE() << seed << ": " << outcome.refusal << "\n" << described(random);
        if (outcome.kind == Outcome::Kind::refused) {
            EXPECT_NE(outcome.refusal.find(": "), std::string::npos)
                << "a refusal names its place: " << outcome.refusal;
        }
    }
    EXPECT_GT(solved, static_cast<int>(count) / 2) << "most of them are circuits that can be solved";
}

TEST(RandomCircuits, ARelayWhoseContactsHangFreeRuns) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=60", "relay K1 coil+=0 coil-=N1 no=N4",
                               "electrolytic C1 +=N1 -=N3 value=6.6e-8", "button S1 a=V b=N3 normally=closed",
                               "resistor R1 a=V b=N4 value=1000", "resistor R2 a=N4 b=0 value=6200"});
    for (const Start start : {Start::rest, Start::power_up}) {
        const Recording r = recorded(c, {.until = 2e-3, .start = start, .probes = {"net:N4"}});
        EXPECT_NEAR(r.traces[0].values.back(), 60 * 6.2 / 7.2, 0.05);
    }
}

TEST(RandomCircuits, WhatChattersIsNamedAtOnce) {
    const Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=5", "vsource VS1 +=REF -=0 value=2",
                 "comparator U1 in+=REF in-=A out=OUT vcc=V gnd=0 type=comparator-cmos hysteresis=0.05",
                 "resistor R1 a=OUT b=A value=1000", "capacitor C1 a=A b=0 value=1e-12"});
    const auto run = simulate(c, known_catalogue(), {}, {.until = 1, .start = Start::power_up});
    ASSERT_FALSE(run);
    EXPECT_EQ(run.error().place, "U1");
    EXPECT_NE(run.error().found.find("it switches 20001 times"), std::string::npos) << run.error().text();
}

TEST(Passive, ATimerBelowItsOwnDropGivesNothing) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=1",
                               "timer U1 gnd=0 trig=0 reset=V thr=0 out=OUT disch=D vcc=V type=timer-bipolar",
                               "resistor R1 a=OUT b=0 value=1000", "resistor R2 a=D b=V value=1000"});
    const OperatingPoint op = solve(c);
    EXPECT_GE(op.voltage("OUT"), 0);
    EXPECT_LT(op.part("PS1").taken, 0) << "the supply gives, and is not charged";
    EXPECT_GE(op.part("U1").taken, 0);
}

TEST(Passive, AnLedBlocksOrSaysThatItCannot) {
    const auto reversed = [](double ohms) {
        return circuit({"supply PS1 +=V -=0 voltage=5",
                        "led L1 a=0 k=A series_resistance=" + std::to_string(ohms),
                        "resistor R1 a=V b=A value=10"});
    };
    EXPECT_LT(std::abs(solve(reversed(20)).part("L1").current), 1e-6);
    const auto refused = operating_point(reversed(2000), known_catalogue(), {});
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().place, "part L1");
    EXPECT_NE(refused.error().found.find("series resistance"), std::string::npos) << refused.error().text();
}

TEST(Passive, ACurrentThatCanGoNowhereIsNamed) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=5", "resistor R1 a=V b=0 value=1000",
                               "isource I1 +=A -=0 value=0.01", "capacitor C1 a=0 b=A leakage=1e9"});
    const auto op = operating_point(c, known_catalogue(), {});
    ASSERT_FALSE(op);
    EXPECT_EQ(op.error().place, "net A");
    EXPECT_NE(op.error().found.find("driven to"), std::string::npos) << op.error().text();
}

TEST(Floating, PiecesThatOnlyLeaksHoldSettle) {
    // two contacts of a relay left open, and a fuse between an open switch and a dark LED
    Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=9", "relay K1 coil+=V coil-=0 no=V contact_resistance=0.0002",
                 "switch S1 a=V b=A", "resistor R1 a=A b=B value=0.001", "led L1 a=B k=0"});
    Conditions open;
    open.switches["S1"] = false;
    const OperatingPoint op = solve(c, open);
    EXPECT_LT(std::abs(op.part("L1").current), 1e-8);
    EXPECT_NEAR(op.voltage("A"), op.voltage("B"), 1e-6);
}

TEST(Capacitor, LetsOutWhatGoesIn) {
    const Circuit c =
        circuit({"vsource V1 +=A -=0 wave=pulse value=0 high=5 width=1e-4 period=2e-4 resistance=10",
                 "electrolytic C1 +=A -=B value=1e-6 esr=0.0001", "resistor R1 a=B b=0 value=47",
                 "supply PS1 +=V -=0 voltage=5", "resistor R2 a=V b=0 value=1000"});
    RunRequest request{.until = 1e-3, .probes = {"part:C1.+", "part:C1.-"}};
    const Recording r = recorded(c, request);
    double largest = 0;
    for (const double i : r.traces[0].values) largest = std::max(largest, std::abs(i));
    EXPECT_GT(largest, 0.05);
    for (std::size_t k = 0; k < r.time.size(); ++k)
        EXPECT_NEAR(r.traces[0].values[k], -r.traces[1].values[k], 1e-9) << r.time[k];
    EXPECT_LT(r.balance.energy_error, 0.05);
}

}  // namespace
}  // namespace elkit::test
