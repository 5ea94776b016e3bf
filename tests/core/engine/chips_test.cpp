// Chips, coils and fuses through time, against what their data sheets and closed forms say.
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"
#include "engine/measure.hpp"
#include "engine/models.hpp"
#include "engine/steady.hpp"
#include "engine/transient.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

Conditions pressed(const char* name) {
    Conditions c;
    c.switches[name] = true;
    return c;
}

/// A light between plus and the output of the bipolar timer: while that is high nothing but leaks says where
/// its net is, and the net must not jump about.
TEST(BipolarOutput, LeavesALightToPlusDarkWithoutShaking) {
    const Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=6.4 resistance=0.6",
                 "timer U1 gnd=0 trig=T thr=T out=OUT reset=V cont=K disch=D vcc=V type=timer-bipolar",
                 "resistor R1 a=V b=D value=300000", "resistor R2 a=D b=T value=200000",
                 "electrolytic C1 +=T -=0 value=1e-6", "capacitor C2 a=V b=0 value=1e-7",
                 "capacitor C3 a=K b=0 value=1e-8", "resistor R3 a=V b=A value=510",
                 "led L1 a=A k=OUT type=red-5mm"});
    const Recording r = recorded(c, {.until = 1, .start = Start::power_up, .probes = {"net:OUT", "part:L1"}});
    EXPECT_LT(r.steps, 5000) << "an edge or two, and otherwise long steps";
    const auto steady = steady_state(c, known_catalogue(), {}, {"part:L1"});
    ASSERT_TRUE(steady) << steady.error().text();
    EXPECT_TRUE(steady.value().repeats);
    const Measurements m = measure(steady.value().cycle.time, steady.value().cycle.traces.front().values);
    EXPECT_GT(m.maximum, 0.006) << "lit while the output is low";
    EXPECT_LT(m.minimum, 2e-6) << "dark while it is high";
}

/// A light on the output for a moment after a press, read at that moment and once all is over.
TEST(AMoment, IsReadOnTheWayOfAPulse) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=5 resistance=0.1",
                               "timer U1 gnd=0 trig=TR out=OUT reset=V thr=T disch=T vcc=V type=timer-cmos",
                               "resistor R1 a=V b=T value=100000", "capacitor C1 a=T b=0 value=1e-5",
                               "resistor R2 a=V b=TR value=10000", "button S1 a=TR b=0",
                               "resistor R3 a=OUT b=L value=470", "led L1 a=L k=0 type=red-5mm"});
    Conditions now;
    now.events = {{1, "S1", true}, {1.1, "S1", false}};
    EXPECT_LT(solve(c, now).part("L1").current, 1e-6) << "in the end it is dark";
    now.moment = 0.5;
    EXPECT_GT(solve(c, now).part("L1").current, 2e-3);
    const auto run = long_run(c, known_catalogue(), now);
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_FALSE(run.value().moves());
    EXPECT_GT(run.value().mean().part("L1").current, 2e-3);
    now.moment = 3;
    EXPECT_LT(solve(c, now).part("L1").current, 1e-6) << "a pulse of 1.1 s is over by then";
}

TEST(Leak, OfAnElectrolyticCapacitorGoesByItsCapacitance) {
    Part c{"C1", "electrolytic", {{"value", 1e-4}}, {}, {}};
    EXPECT_DOUBLE_EQ(leak_resistance(c), 1e7);
    c.params["value"] = 1e-6;
    EXPECT_DOUBLE_EQ(leak_resistance(c), 1e9);
    c.params["leakage"] = 2e6;
    EXPECT_DOUBLE_EQ(leak_resistance(c), 2e6) << "what was measured counts";
    EXPECT_GT(leak_resistance({"C1", "capacitor", {{"value", 1e-6}}, {}, {}}), 1e10);
}

/// One pulse of 1.1 R C after the button pulls the trigger down.
class Monostable : public ::testing::TestWithParam<double> {};
TEST_P(Monostable, GivesAPulseOfOnePointOneRC) {
    const double ohms = GetParam();
    std::ostringstream value;
    value << ohms;
    const Circuit c = circuit(
        {"supply PS1 +=V -=0 voltage=5 resistance=0.001 lead_length=0",
         "timer U1 gnd=0 trig=TR out=OUT reset=V thr=T disch=T vcc=V type=timer-cmos "
         "discharge_resistance=0.5",
         "resistor R1 a=V b=T value=" + value.str(), "capacitor C1 a=T b=0 value=1e-6 leakage=1e15",
         "resistor R2 a=V b=TR value=10000", "button S1 a=TR b=0", "resistor R3 a=OUT b=0 value=100000"});
    const double pulse = 1.0986 * ohms * 1e-6;  // ln 3
    const Recording r =
        recorded(c, {.until = 3 * pulse,
                     .probes = {"net:OUT"},
                     .changes = {{0.2 * pulse, pressed("S1"), "press S1"}, {0.3 * pulse, {}, "release S1"}}});
    const double up = *time_to_threshold(r.time, r.traces[0].values, 2.5);
    const double down = *time_to_threshold(r.time, r.traces[0].values, 2.5, up + 1e-9);
    EXPECT_NEAR(up, 0.2 * pulse, 1e-3 * pulse);
    EXPECT_NEAR(down - up, pulse, 2e-3 * pulse);
}
INSTANTIATE_TEST_SUITE_P(Ohms, Monostable, ::testing::Values(10e3, 100e3, 1e6));

TEST(Timer, IsABistableWithSetAndReset) {
    const Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=5 lead_length=0",
                 "timer U1 gnd=0 trig=TR out=OUT reset=RE thr=0 vcc=V type=timer-cmos",
                 "resistor R1 a=V b=TR value=10000", "button S1 a=TR b=0", "resistor R2 a=V b=RE value=10000",
                 "button S2 a=RE b=0", "resistor R3 a=OUT b=0 value=10000"});
    const Recording r = recorded(c, {.until = 0.01,
                                     .probes = {"net:OUT"},
                                     .changes = {{1e-3, pressed("S1"), "set"},
                                                 {2e-3, {}, "let go"},
                                                 {6e-3, pressed("S2"), "reset"},
                                                 {7e-3, {}, "let go"}}});
    const auto at = [&](double t) { return value_at(r.time, r.traces[0].values, t); };
    EXPECT_LT(at(0.5e-3), 0.5);
    EXPECT_GT(at(1.5e-3), 4);
    EXPECT_GT(at(5e-3), 4) << "it remembers";
    EXPECT_LT(at(6.5e-3), 0.5);
    EXPECT_LT(at(9e-3), 0.5) << "and forgets";
}

TEST(Timer, TheBipolarOneDropsVoltsAndTakesItsCurrent) {
    const auto out = [](const char* type) {
        return circuit({"supply PS1 +=V -=0 voltage=9 lead_length=0",
                        "timer U1 gnd=0 trig=0 out=OUT reset=V thr=0 vcc=V type=" + std::string(type),
                        "resistor R1 a=OUT b=0 value=1000"});
    };
    const OperatingPoint bipolar = solve(out("timer-bipolar")), cmos = solve(out("timer-cmos"));
    EXPECT_NEAR(9 - bipolar.voltage("OUT"), 1.4, 0.2);
    EXPECT_GT(cmos.voltage("OUT"), 7);
    EXPECT_GT(bipolar.supply_current() - bipolar.voltage("OUT") / 1000,
              10 * (cmos.supply_current() - cmos.voltage("OUT") / 1000));
}

TEST(Timer, ControlPinMovesTheThresholds) {
    Circuit c = astable(6, 10e3, 47e3, 1e-7);
    const double usual = steady_state(c, known_catalogue(), {}, {}).value().period;
    c.find("U1")->pins.push_back({"cont", "CV"});
    c.parts.push_back(circuit({"resistor R9 a=CV b=0 value=100000"}).parts.front());
    const double pulled_down = steady_state(c, known_catalogue(), {}, {}).value().period;
    EXPECT_LT(pulled_down, 0.95 * usual) << "lower thresholds are reached sooner";
}

TEST(Comparator, SwitchesAtTheReferenceWithItsHysteresis) {
    // a slow triangle against 2 V
    const Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=5 lead_length=0",
                 "vsource VS1 +=IN -=0 wave=pulse value=0 high=4 edge=0.01 width=1e-6 period=0.021",
                 "vsource VS2 +=REF -=0 value=2",
                 "comparator U1 in+=IN in-=REF out=OUT vcc=V gnd=0 type=comparator-cmos hysteresis=0.4",
                 "resistor R1 a=OUT b=0 value=100000"});
    const Recording r = recorded(c, {.until = 0.02, .probes = {"net:OUT", "net:IN"}});
    std::vector<double> crossings;
    for (const auto& h : r.happenings) crossings.push_back(value_at(r.time, r.traces[1].values, h.time));
    ASSERT_EQ(crossings.size(), 2u);
    EXPECT_NEAR(crossings[0], 2.2, 0.005);
    EXPECT_NEAR(crossings[1], 1.8, 0.005);
}

TEST(Comparator, AnOpenCollectorNeedsItsPullUp) {
    const auto high = [](const char* pull_up) {
        return solve(circuit({"supply PS1 +=V -=0 voltage=5 lead_length=0",
                              "comparator U1 in+=V in-=0 out=OUT vcc=V gnd=0 type=comparator-open",
                              std::string("resistor R1 a=V b=OUT value=") + pull_up,
                              "resistor R2 a=OUT b=0 value=1e6"}))
            .voltage("OUT");
    };
    EXPECT_GT(high("10000"), 4.8);
    EXPECT_LT(high("1e8"), 0.1);
}

struct Coil {
    const char* line;
    double ohms, henry;
};
class Coils : public ::testing::TestWithParam<Coil> {};
TEST_P(Coils, RiseWithTheirTimeConstant) {
    const Coil& coil = GetParam();
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=3 resistance=0.001 lead_length=0", coil.line});
    const double tau = coil.henry / coil.ohms;
    const std::string name = c.parts[1].designator;
    const Recording r = recorded(c, {.until = 5 * tau, .start = Start::power_up, .probes = {"part:" + name}});
    EXPECT_NEAR(value_at(r.time, r.traces[0].values, tau) * coil.ohms / 3, 1 - std::exp(-1.0), 0.01) << name;
    EXPECT_NEAR(r.traces[0].values.back() * coil.ohms / 3, 1 - std::exp(-5.0), 0.01) << name;
}
INSTANTIATE_TEST_SUITE_P(
    Kinds, Coils,
    ::testing::Values(Coil{"inductor LI1 a=V b=0 value=0.01 resistance=10 saturation=1000", 10, 0.01},
                      Coil{"relay K1 coil+=V coil-=0 coil_resistance=100 coil_inductance=0.2 pull_in=50", 100,
                           0.2},
                      Coil{"buzzer BZ1 +=V -=0 resistance=50 inductance=0.005", 50, 0.005},
                      Coil{"motor M1 +=V -=0 resistance=5 inductance=0.002 back_share=0", 5, 0.002}));

TEST(Coils, ADiodeCatchesTheKick) {
    const auto peak = [](bool diode) {
        std::vector<std::string> lines{"supply PS1 +=V -=0 voltage=5 lead_length=0",
                                       "relay K1 coil+=V coil-=C type=relay-5V",
                                       "nmos Q1 d=C g=G s=0",
                                       "button S1 a=V b=G",
                                       "resistor R1 a=G b=0 value=1000",
                                       "resistor R2 a=C b=0 value=20000"};
        if (diode) lines.push_back("diode D1 a=C k=V type=rectifier");
        const Recording r =
            recorded(circuit(lines), {.until = 0.06,
                                      .probes = {"net:C"},
                                      .changes = {{1e-3, pressed("S1"), "on"}, {0.05, {}, "off"}}});
        return measure(r.time, r.traces[0].values).maximum;
    };
    EXPECT_LT(peak(true), 7);
    EXPECT_NEAR(peak(false), 1.2 * 30, 2) << "the transistor breaks down a fifth above its rating";
}

TEST(Relay, LetsGoLaterThanItPullsIn) {
    const Circuit c =
        circuit({"vsource VS1 +=V -=0 wave=pulse value=0 high=5 edge=1 width=1e-3 period=3 resistance=0.01",
                 "relay K1 coil+=V coil-=0 common=V no=A type=relay-5V", "resistor R1 a=A b=0 value=1000"});
    const Recording r = recorded(c, {.until = 2.2, .probes = {"net:V"}});
    ASSERT_GE(r.happenings.size(), 2u);
    EXPECT_NEAR(value_at(r.time, r.traces[0].values, r.happenings[0].time), 3.5, 0.2);
    EXPECT_NEAR(value_at(r.time, r.traces[0].values, r.happenings[1].time), 0.5, 0.2);
}

TEST(Fuse, OpensAboveItsTripAndHoldsBelow) {
    const auto left = [](double ohms) {
        std::ostringstream value;
        value << ohms;
        const Circuit c =
            circuit({"supply PS1 +=V -=0 voltage=5 resistance=0.01 lead_length=0",
                     "fuse F1 a=V b=A type=ptc-100mA", "resistor R1 a=A b=0 rating=10 value=" + value.str()});
        const Recording r = recorded(c, {.until = 60, .start = Start::power_up, .probes = {"part:R1"}});
        return r.traces[0].values.back() / r.traces[0].values.front();
    };
    EXPECT_GT(left(100), 0.95) << "50 mA is carried for ever";
    EXPECT_LT(left(5), 0.3) << "ten times its current is not";
}

TEST(Waves, PulseSineAndTableGoWhereTheyShould) {
    const Circuit c =
        circuit({"vsource VS1 +=A -=0 wave=sine value=1 amplitude=2 frequency=50 resistance=1e-6",
                 "resistor R1 a=A b=0 value=1000",
                 "isource IS1 +=B -=0 wave=pulse value=0 high=1e-3 width=5e-3 period=1e-2 edge=1e-6",
                 "resistor R2 a=B b=0 value=1000"});
    const Recording r = recorded(c, {.until = 0.09, .probes = {"net:A", "net:B"}});
    const Measurements a = measure(r.time, r.traces[0].values), b = measure(r.time, r.traces[1].values);
    EXPECT_NEAR(a.mean, 1, 0.02);
    EXPECT_NEAR(a.maximum, 3, 0.02);
    EXPECT_NEAR(a.minimum, -1, 0.02);
    EXPECT_NEAR(a.rms, std::sqrt(1 + 2.0), 0.03);
    EXPECT_NEAR(*a.period, 0.02, 2e-4);
    EXPECT_NEAR(*b.duty(), 0.5, 2e-3);
    EXPECT_NEAR(b.maximum, 1, 1e-3);
    Circuit table = circuit({"vsource VS1 +=A -=0 wave=table", "resistor R1 a=A b=0"});
    table.find("VS1")->params["points"] = PointList{{0, 0}, {1e-3, 5}, {2e-3, 5}, {4e-3, 1}};
    const Recording t = recorded(table, {.until = 5e-3, .start = Start::power_up, .probes = {"net:A"}});
    for (const auto& [at, volts] :
         {std::pair(0.5e-3, 2.5), std::pair(1.5e-3, 5.0), std::pair(3e-3, 3.0), std::pair(4.8e-3, 1.0)})
        EXPECT_NEAR(value_at(t.time, t.traces[0].values, at), volts, 0.01) << at;
}

TEST(Regulator, TakesItsOwnCurrentAndNeverFeedsBack) {
    const Circuit c =
        circuit({"supply PS1 +=V -=0 voltage=9 lead_length=0",
                 "regulator U1 in=V gnd=0 out=OUT type=regulator-5V", "resistor R1 a=OUT b=0 value=500"});
    const OperatingPoint op = solve(c);
    EXPECT_NEAR(op.voltage("OUT"), 5, 0.02);
    EXPECT_NEAR(op.supply_current(), 0.01 + 0.003 * op.voltage("V") / 5, 1e-3);
    const OperatingPoint back = solve(
        circuit({"supply PS1 +=OUT -=0 voltage=9 lead_length=0",
                 "regulator U1 in=V gnd=0 out=OUT type=regulator-5V", "resistor R1 a=V b=0 value=500"}));
    EXPECT_LT(back.voltage("V"), 0.1);
}

TEST(SteadyState, FromANeighbourIsTheSameAsFromPowerUp) {
    const Circuit c = astable(5, 10e3, 47e3, 1e-7);
    Conditions warm;
    warm.celsius = 40;
    const Steady there = steady_state(c, known_catalogue(), {}, {"net:OUT"}).value();
    const Steady cold = steady_state(c, known_catalogue(), warm, {"net:OUT"}).value();
    const Steady near = steady_state(c, known_catalogue(), warm, {"net:OUT"}, {}, {}, &there).value();
    EXPECT_NEAR(near.period / cold.period, 1, 2e-3);
    EXPECT_NEAR(near.mean_current / cold.mean_current, 1, 5e-3);
    const Circuit other = circuit({"supply PS1 +=V -=0 voltage=5", "resistor R1 a=V b=0"});
    EXPECT_FALSE(steady_state(other, known_catalogue(), {}, {}).value().repeats);
}

TEST(Latch, HasHysteresis) {
    // two transistors hold each other: it needs more to set it than to keep it
    const std::vector<std::string> lines{"vsource VS1 +=IN -=0 value=0 resistance=1000",
                                         "supply PS1 +=V -=0 voltage=5 lead_length=0",
                                         "resistor R1 a=V b=A value=1000",
                                         "resistor R2 a=IN b=P value=22000",
                                         "npn Q1 c=A b=P e=0",
                                         "resistor R3 a=A b=Q value=22000",
                                         "npn Q2 c=B b=Q e=0",
                                         "resistor R4 a=V b=B value=1000",
                                         "resistor R5 a=B b=P value=47000",
                                         "resistor R6 a=P b=0 value=10000"};
    const Circuit c = circuit(lines);
    Conditions q;
    OperatingPoint op = solve(c, q);
    double set_at = -1, reset_at = -1;
    for (int k = 0; k <= 100; ++k) {
        q.levels["VS1"] = 0.05 * k;
        const auto next = operating_point(c, known_catalogue(), q, {}, &op);
        ASSERT_TRUE(next) << q.levels["VS1"] << ": " << next.error().text();
        op = next.value();
        if (set_at < 0 && op.voltage("A") < 1) set_at = q.levels["VS1"];
    }
    for (int k = 100; k >= -100; --k) {
        q.levels["VS1"] = 0.05 * k;
        const auto next = operating_point(c, known_catalogue(), q, {}, &op);
        ASSERT_TRUE(next) << q.levels["VS1"] << ": " << next.error().text();
        op = next.value();
        if (reset_at < 0 && op.voltage("A") > 3) reset_at = q.levels["VS1"] + 10;
    }
    ASSERT_GT(set_at, 0);
    ASSERT_GT(reset_at, 0) << "it lets go at last";
    EXPECT_LT(reset_at - 10, set_at - 0.2);
}

}  // namespace
}  // namespace elkit::test
