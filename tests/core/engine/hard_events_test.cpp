// What happens at once: coils let go, latches that answer later, parts beyond what they stand.
#include <gtest/gtest.h>

#include <cmath>
#include <functional>

#include "engine/measure.hpp"
#include "engine/steady.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

Conditions with_switch(bool on) {
    Conditions c;
    c.switches["S1"] = on;
    return c;
}

/// Lowest and highest voltage of net A after S1 opened at 20 ms.
Measurements let_go(std::vector<std::string> lines) {
    lines.insert(lines.begin(), {"battery B1 +=V -=0 cell=6LR61", "switch S1 a=V b=A"});
    const Recording r =
        recorded(circuit(lines),
                 {.until = 0.06, .probes = {"net:A"}, .changes = {{0.02, with_switch(false), "S1 off"}}});
    return measure(r.time, r.traces[0].values, 0.0200001);
}

TEST(LettingGo, ACoilSparksAndADiodeKeepsItFromThat) {
    const std::vector<std::string> coil{"inductor LI1 a=A b=B value=0.01", "resistor R1 a=B b=0 value=100"};
    const double spark = let_go(coil).minimum;
    EXPECT_LT(spark, -290);
    EXPECT_GT(spark, -345) << "air gives way";
    auto caught = coil;
    caught.push_back("diode D1 a=0 k=A type=rectifier");
    EXPECT_GT(let_go(caught).minimum, -1.2);
}

class Loads : public ::testing::TestWithParam<std::vector<std::string>> {};
TEST_P(Loads, GoThroughAnOpeningSwitch) {
    const Measurements m = let_go(GetParam());
    EXPECT_GT(m.minimum, -400);
    EXPECT_LT(m.maximum, 400);
}
INSTANTIATE_TEST_SUITE_P(
    All, Loads,
    ::testing::Values(
        std::vector<std::string>{"led L1 a=A k=B", "resistor R1 a=B b=0 value=470"},
        std::vector<std::string>{"motor M1 +=A -=0"},
        std::vector<std::string>{"relay K1 coil+=A coil-=0 common=V no=C", "resistor R1 a=C b=0 value=1000"},
        std::vector<std::string>{"inductor LI1 a=A b=B value=0.01", "resistor R1 a=B b=C value=470",
                                 "led L1 a=C k=0"},
        std::vector<std::string>{"inductor LI1 a=A b=0 value=0.01 resistance=100", "led L1 a=0 k=A"},
        std::vector<std::string>{"core T1 1a=A 1b=B 2a=C 2b=0", "resistor R1 a=B b=0 value=100",
                                 "led L1 a=C k=0"}));

TEST(LettingGo, ATransistorBreaksDownABitAboveItsRating) {
    const Recording r = recorded(
        circuit({"battery B1 +=V -=0 cell=LR6 count=4", "button S1 a=V b=A", "resistor R1 a=A b=B value=1000",
                 "resistor R2 a=B b=0 value=10000", "npn Q1 b=B c=C e=0", "relay K1 coil+=V coil-=C"}),
        {.until = 0.05,
         .probes = {"net:C"},
         .changes = {{0.001, with_switch(true), "on"}, {0.03, with_switch(false), "off"}}});
    EXPECT_NEAR(measure(r.time, r.traces[0].values, 0.0301).maximum, 1.4 * 40, 5);
}

TEST(Delay, AnAstableIsSlowerByItsDelayAndWhatItOvershoots) {
    const auto period = [](double delay) {
        Circuit c = astable(5, 47000, 47000, 1e-10);
        c.find("U1")->params["delay"] = delay;
        return steady_state(c, known_catalogue(), {}, {}, {.relative = 1e-4}).value().period;
    };
    const double ra = 47000, rb = 47000, farads = 1e-10, d = 3e-7;
    const double up = (ra + rb) * farads, down = rb * farads;
    const double top = 1 - std::exp(-d / up) / 3, bottom = std::exp(-d / down) / 3;
    const double longer = 2 * d + up * std::log(3 * (1 - bottom)) + down * std::log(3 * top);
    EXPECT_NEAR(period(d) / period(0), longer / ((ra + 2 * rb) * farads * std::log(2.0)), 0.005);
}

class ControlCapacitors : public ::testing::TestWithParam<std::tuple<const char*, double, double>> {};
TEST_P(ControlCapacitors, StartTogetherWithTheTimingCapacitor) {
    const auto [type, volts, farads] = GetParam();
    Circuit c = astable(volts, 1000, 47000, 1e-7, type);
    c.find("U1")->pins.push_back({"cont", "CV"});
    Circuit more = circuit({"supply PS1 +=V -=0", "capacitor C9 a=CV b=0"});
    Part control = *more.find("C9");
    control.params["value"] = farads;
    for (Pin& pin : control.pins)
        if (pin.net == "0") pin.net = c.negative_rail();
    c.parts.push_back(control);
    const auto run = simulate(c, known_catalogue(), {}, {.until = 0.1, .start = Start::power_up});
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_GT(run.value().happenings.size(), 3u);
}
INSTANTIATE_TEST_SUITE_P(All, ControlCapacitors,
                         ::testing::Combine(::testing::Values("timer-cmos", "timer-bipolar"),
                                            ::testing::Values(4.5, 9.0, 15.0),
                                            ::testing::Values(1e-8, 1e-6, 1e-5)));

TEST(Coupling, IsTheShareOfFluxThatTwoWindingsHaveInCommon) {
    // open secondary of as many turns: its voltage is k times the primary's
    for (const double k : {0.5, 0.7, 0.95}) {
        std::ostringstream core;
        core << "core T1 1a=A 1b=0 2a=B 2b=0 turns1=10 turns2=10 area=10000 bsat=3 winding_capacitance=0 "
                "core_loss=1e9 "
                "wire_resistance=1e-6 coupling="
             << k;
        const Recording r = recorded(circuit({"supply PS1 +=A -=0 voltage=1 lead_length=0 resistance=0.001",
                                              core.str(), "resistor R1 a=B b=0 value=1e6"}),
                                     {.until = 1e-6, .start = Start::power_up, .probes = {"net:B"}});
        EXPECT_NEAR(r.traces[0].values.back(), k, 0.01);
    }
}

TEST(Motor, StartsWithWhatItsWindingAllows) {
    const Recording r = recorded(circuit({"supply PS1 +=V -=0 voltage=3 lead_length=0", "motor M1 +=V -=0"}),
                                 {.until = 1, .start = Start::power_up, .probes = {"part:M1"}});
    EXPECT_GT(measure(r.time, r.traces[0].values).maximum, 0.5) << "near 3 V / 5 Ω";
    EXPECT_NEAR(r.traces[0].values.back(), 3 * (1 - 0.93) / 5, 0.002) << "running free";
}

TEST(Transistor, LosesGainAtHighCurrent) {
    const auto gain = [](double base) {
        std::ostringstream source;
        source << "isource IS1 +=B -=0 value=" << base;
        const auto op = solve(circuit({"supply PS1 +=C -=0 voltage=5 resistance=0.001 lead_length=0",
                                       source.str(), "npn Q1 c=C b=B e=0"}));
        return op.part("Q1").pins[0] / base;
    };
    EXPECT_NEAR(gain(1e-5) / 200, 1, 0.1);
    EXPECT_LT(gain(2e-3), 0.7 * gain(1e-5)) << "above the knee at 100 mA";
}

TEST(Zener, DriftsTheWayItsVoltageSays) {
    const auto volts = [](const char* type, double celsius) {
        Conditions c;
        c.celsius = celsius;
        return solve(circuit({"supply PS1 +=V -=0 voltage=20", "resistor R1 a=V b=Z value=1000",
                              std::string("diode D1 a=0 k=Z type=") + type}),
                     c)
            .voltage("Z");
    };
    EXPECT_GT(volts("zener-12V", 60), volts("zener-12V", 20) + 0.2);
    EXPECT_LT(volts("zener-3V3", 60), volts("zener-3V3", 20));
}

TEST(Relay, ThatLetsGoAboveItsPullInIsRefused) {
    const auto op =
        operating_point(circuit({"supply PS1 +=V -=0", "relay K1 coil+=V coil-=0 pull_in=3 release=4"}),
                        known_catalogue(), {});
    ASSERT_FALSE(op);
    EXPECT_EQ(op.error().place, "part K1");
}

TEST(Stability, AFlasherHasNoRestAndALatchHasTwo) {
    const Circuit flasher = demo("twin-blinker").circuit;
    const auto balance = operating_point(flasher, known_catalogue(), {});
    ASSERT_TRUE(balance) << "both transistors half on: currents balance";
    EXPECT_FALSE(stable_state(flasher, known_catalogue(), {}, balance.value()))
        << "but nobody will ever see it";
    const Circuit latch =
        circuit({"supply PS1 +=V -=0 voltage=5", "resistor R1 a=V b=P value=1000", "npn Q1 b=B1 c=P e=0",
                 "npn Q2 b=B2 c=N e=0", "resistor R2 a=V b=N value=1000", "resistor R3 a=P b=B2 value=10000",
                 "resistor R4 a=N b=B1 value=10000"});
    const auto states = operating_points(latch, known_catalogue(), {}).value();
    ASSERT_EQ(states.size(), 2u) << "not the balance point between them";
    EXPECT_GT(std::abs(states[0].voltage("P") - states[1].voltage("P")), 3);
}

TEST(Crossings, AreFoundOnEdgesOfNoLengthAndOnTheCurve) {
    const std::vector<double> t{0, 1, 1, 2, 2, 3, 3, 4, 4, 5}, square{0, 0, 5, 5, 0, 0, 5, 5, 0, 0};
    const Measurements m = measure(t, square);
    ASSERT_TRUE(m.period);
    EXPECT_DOUBLE_EQ(*m.period, 2);
    EXPECT_DOUBLE_EQ(*m.duty(), 0.5);
    EXPECT_DOUBLE_EQ(m.mean, 2.5);
    const auto all = level_crossings(t, square, 2.5);
    ASSERT_EQ(all.size(), 4u);
    EXPECT_TRUE(all[2].rising);
    EXPECT_DOUBLE_EQ(all[3].time, 4);
    EXPECT_EQ(threshold_figure(t, square, "X", Unit::volt, 2.5, -1e300, 2)->value, 2);
    EXPECT_FALSE(threshold_figure(t, square, "X", Unit::volt, 2.5, -1e300, 5));
    const Recording r = recorded(
        circuit({"supply PS1 +=V -=0 voltage=5 lead_length=0 resistance=0.001",
                 "resistor R1 a=V b=A value=100000", "capacitor C1 a=A b=0 value=1e-4 leakage=1e15"}),
        {.until = 30, .start = Start::power_up, .probes = {"net:A"}});
    EXPECT_NEAR(*time_to_threshold(r.time, r.traces[0].values, 3), 10 * std::log(2.5), 1e-3 * 10)
        << "1 − e^(−t/RC) = 0.6";
}

/// Two astables on one supply, each with a light of its own.
Circuit two_clocks(double second_rb, double second_farads) {
    std::vector<std::string> lines{"supply PS1 +=V -=0 voltage=5"};
    const auto clock = [&](const std::string& n, double rb, double farads) {
        std::ostringstream numbers;
        numbers << "resistor RB" << n << " a=D" << n << " b=T" << n << " value=" << rb;
        lines.push_back(numbers.str());
        numbers.str("");
        numbers << "capacitor C" << n << " a=T" << n << " b=0 value=" << farads;
        lines.push_back(numbers.str());
        lines.push_back("timer U" + n + " gnd=0 trig=T" + n + " out=O" + n + " reset=V thr=T" + n +
                        " disch=D" + n + " vcc=V");
        lines.push_back("resistor RA" + n + " a=V b=D" + n + " value=10000");
        lines.push_back("resistor RL" + n + " a=O" + n + " b=A" + n + " value=1000");
        lines.push_back("led L" + n + " a=A" + n + " k=0");
    };
    clock("1", 47000, 1e-8), clock("2", second_rb, second_farads);
    return circuit(lines);
}

TEST(TwoClocks, ThatHaveNothingToDoWithEachOtherDoNotRepeat) {
    const Circuit c = two_clocks(33000, 1.1e-7);
    const Steady s = steady_state(c, known_catalogue(), {}, {}).value();
    EXPECT_TRUE(s.moves);
    EXPECT_FALSE(s.repeats);
    EXPECT_LT(s.uncertainty, 0.02);
    const auto alone = [](const Circuit& one) {
        return steady_state(one, known_catalogue(), {}, {}).value();
    };
    Circuit first = c, second = c;
    std::erase_if(first.parts, [](const Part& p) { return p.designator.back() == '2'; });
    std::erase_if(second.parts,
                  [](const Part& p) { return p.designator.back() == '1' && p.designator != "PS1"; });
    EXPECT_TRUE(alone(first).repeats);
    EXPECT_NEAR(s.mean_current / (alone(first).mean_current + alone(second).mean_current), 1, 0.01);
}

TEST(TwoClocks, AreAveragedFromWhereASimilarCircuitWasFound) {
    Circuit c = two_clocks(33000, 1.1e-7);
    const Steady near = steady_state(c, known_catalogue(), {}, {}).value();
    for (const double volts : {4.9, 4.6, 4.2}) {
        c.find("PS1")->params["voltage"] = volts;
        const Steady cold = steady_state(c, known_catalogue(), {}, {}).value();
        const Steady warm = steady_state(c, known_catalogue(), {}, {}, {}, {}, &near).value();
        EXPECT_FALSE(warm.repeats) << volts;
        EXPECT_NEAR(warm.mean_current / cold.mean_current, 1, 0.01) << volts;
    }
    c.find("C1")->params["value"] = 1e-3;  // one of them takes minutes: the other counts
    const Steady slow = steady_state(c, known_catalogue(), {}, {}).value(),
                 found = steady_state(c, known_catalogue(), {}, {}, {}, {}, &near).value();
    EXPECT_NEAR(found.mean_current / slow.mean_current, 1, 0.02);
}

/// What takes current slowly beside a quick clock counts as what it takes by itself, with its pauses.
void expect_sum(const std::vector<std::string>& quick, const std::vector<std::string>& slow,
                const std::function<void(Circuit&)>& set) {
    const auto mean = [&](bool with_quick, bool with_slow) {
        std::vector<std::string> lines{"supply PS1 +=V -=0 voltage=5"};
        if (with_quick) lines.insert(lines.end(), quick.begin(), quick.end());
        if (with_slow) lines.insert(lines.end(), slow.begin(), slow.end());
        Circuit c = circuit(lines);
        if (with_slow) set(c);
        return steady_state(c, known_catalogue(), {}, {}).value().mean_current;
    };
    const double apart = mean(true, false) + mean(false, true);
    EXPECT_NEAR(mean(true, true) / apart, 1, 0.01);
    std::vector<std::string> lines{"supply PS1 +=V -=0 voltage=5"};
    for (const auto* more : {&quick, &slow}) lines.insert(lines.end(), more->begin(), more->end());
    Circuit c = circuit(lines);
    set(c);
    const Steady near = steady_state(c, known_catalogue(), {}, {}).value();
    EXPECT_NEAR(steady_state(c, known_catalogue(), {}, {}, {}, {}, &near).value().mean_current / apart, 1,
                0.01)
        << "from where it was found before";
}

TEST(TwoClocks, SomethingSlowBesideSomethingQuickCountsWithAllItsCourse) {
    const std::vector<std::string> quick{"resistor RB a=D b=T value=4700",
                                         "capacitor C1 a=T b=0 value=1e-7",
                                         "timer U1 gnd=0 trig=T out=O reset=V thr=T disch=D vcc=V",
                                         "resistor RA a=V b=D value=4700",
                                         "resistor RL a=O b=A value=1000",
                                         "led L1 a=A k=0"};
    expect_sum(quick, {"controller_8 U2 vcc=V gnd=0 P0=P", "resistor R2 a=P b=B value=220", "led L2 a=B k=0"},
               [](Circuit& c) { c.find("U2")->params["behaviour"] = std::string("state a; P0 blink 2s"); });
    expect_sum(quick, {"connector X1 1=0 2=G", "light_matrix M1 vcc=V gnd=0 data=G"}, [](Circuit& c) {
        c.find("M1")->params["pattern"] = std::string("300ms ffffffffffffffff; 900ms 0000000000000001");
    });
    std::vector<std::string> hardly_quicker = quick;  // five cycles in a round
    hardly_quicker[1] = "capacitor C1 a=T b=0 value=2.3e-5";
    expect_sum(
        hardly_quicker, {"connector X1 1=0 2=G", "light_matrix M1 vcc=V gnd=0 data=G"}, [](Circuit& c) {
            c.find("M1")->params["pattern"] = std::string("300ms ffffffffffffffff; 900ms 0000000000000001");
        });
}

TEST(TwoClocks, AreNotCopiedWhereTheSlowOneTurnsRound) {
    const Circuit c = two_clocks(330000, 1.37e-7);
    const auto mean = [&](bool copy) {
        RunRequest q{.until = 0.6, .start = Start::power_up, .probes = {"part:PS1"}};
        q.copy_cycles = copy;
        const Recording r = recorded(c, q);
        return measure(r.time, r.traces[0].values).mean;
    };
    EXPECT_NEAR(mean(true) / mean(false), 1, 0.005);
}

TEST(Steady, WaitsForASourceThatStartsLater) {
    const Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=5",
                 "vsource VS1 +=P -=0 wave=pulse value=0 high=5 delay=10 width=0.1 period=0.5",
                 "resistor R1 a=P b=A value=330", "led L1 a=A k=0", "resistor R2 a=V b=0 value=1000"});
    const Steady s = steady_state(c, known_catalogue(), {}, {}).value();
    EXPECT_TRUE(s.repeats);
    EXPECT_NEAR(s.period, 0.5, 1e-6);
}

TEST(Steady, FindsAPeriodOfAnHour) {
    const Circuit c = astable(5, 10000, 3e6, 1e-3);
    const double expected = std::log(2.0) * (10000 + 2 * 3e6) * 1e-3;
    EXPECT_NEAR(steady_state(c, known_catalogue(), {}, {}).value().period / expected, 1, 0.02);
}

/// A timer whose thresholds nobody reaches remembers which button was pressed last: no net tells its states
/// apart but those that its output drives.
TEST(Latches, OfATimerUsedAsABistableAreBothFound) {
    for (const char* type : {"timer-bipolar", "timer-cmos"}) {
        const Circuit c = circuit(
            {"battery B1 +=V -=0 cell=6LR61",
             std::string("timer U1 gnd=0 trig=T out=Q reset=R thr=0 vcc=V type=") + type,
             "resistor R1 a=V b=T value=10000", "resistor R2 a=V b=R value=10000", "button S1 a=T b=0",
             "button S2 a=R b=0", "resistor R3 a=Q b=A value=470", "led L1 a=A k=0"});
        const auto states = operating_points(c, known_catalogue(), {});
        ASSERT_TRUE(states) << states.error().text();
        ASSERT_EQ(states.value().size(), 2u) << type;
        EXPECT_LT(states.value()[0].voltage("Q"), 0.1) << "from power-up";
        EXPECT_GT(states.value()[1].voltage("Q"), 6) << type;
    }
}

}  // namespace
}  // namespace elkit::test
