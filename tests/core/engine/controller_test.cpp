// A small controller in a circuit: its pins as drivers, what it sees, what it takes.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "behaviour/machine.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/long_run.hpp"
#include "engine/measure.hpp"
#include "engine/operating_point.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

/// Lights on P0 and P1, a button at P3, a divider whose lower half is R3 at P2.
Circuit controlled(const std::string& behaviour, const std::string& supply = "4.5") {
    Circuit c =
        circuit({"supply PS1 +=V -=0 lead_length=0 resistance=0.5 voltage=" + supply,
                 "capacitor C1 a=V b=0 value=1e-7", "controller_8 U1 vcc=V gnd=0 P0=O0 P1=O1 P2=S P3=B",
                 "resistor R1 a=O0 b=A0 value=330", "led L1 a=A0 k=0 type=red-5mm",
                 "resistor R2 a=O1 b=A1 value=330", "led L2 a=A1 k=0 type=red-5mm",
                 "resistor R3 a=S b=0 value=10000", "resistor R4 a=V b=S value=10000", "button S1 a=B b=0"});
    c.find("U1")->params["behaviour"] = behaviour;
    return c;
}

LongRun lasting(const Circuit& c, const Conditions& conditions = {}) {
    auto run = long_run(c, known_catalogue(), conditions);
    EXPECT_TRUE(run) << (run ? "" : run.error().text());
    return std::move(run).value();
}
double amps(const LongRun& run, const char* light) { return run.mean().part(light).current; }

TEST(Controller, DrivesItsPinsAsSwitchesBehindTheirResistance) {
    const Circuit c = controlled("state a; P0 on");
    const LongRun run = lasting(c);
    EXPECT_FALSE(run.moves());
    const double i = amps(run, "L1");
    const OperatingPoint& op = run.mean();
    EXPECT_NEAR(op.voltage("V") - op.voltage("O0"), 30 * i, 1e-3);
    EXPECT_NEAR(amps(run, "L2"), 0, 1e-7);
    const double divider = op.voltage("V") / 20000;
    EXPECT_NEAR(op.supply_current() - i - divider, 0.005 * op.voltage("V") / 5, 1e-5) << "its own";
    Circuit sinks = circuit({"supply PS1 +=V -=0 voltage=4.5", "controller_8 U1 vcc=V gnd=0 P0=O0",
                             "resistor R1 a=A0 b=O0 value=330", "led L1 a=V k=A0 type=red-5mm"});
    sinks.find("U1")->params["behaviour"] = std::string("sinks P0; state a; P0 on");
    EXPECT_NEAR(amps(lasting(sinks), "L1"), i, 0.05 * i);
}

TEST(Controller, DimsByPulsesWhoseShareIsTheCurve) {
    const double full = amps(lasting(controlled("state a; P0 on")), "L1");
    for (const int percent : {10, 40, 75}) {
        const LongRun run = lasting(controlled("state a; P0 on " + std::to_string(percent) + "%"));
        ASSERT_TRUE(run.steady().repeats) << percent;
        EXPECT_NEAR(run.steady().period, 0.005, 1e-6);
        const double y = std::pow((percent + 16) / 116.0, 3);  // CIE 1976
        EXPECT_NEAR(amps(run, "L1") / full, y, 0.02 * y + 0.004) << percent;
    }
}

TEST(Controller, RepeatsAsItsTableSays) {
    const LongRun blink = lasting(controlled("state a; P0 blink 1s 30%; P1 blink 600ms"));
    EXPECT_NEAR(blink.steady().period, 3, 1e-6);
    const double full = amps(lasting(controlled("state a; P0 on")), "L1");
    EXPECT_NEAR(amps(blink, "L1"), 0.3 * full, 0.01 * full);
    EXPECT_NEAR(amps(blink, "L2"), 0.5 * full, 0.01 * full);
    const LongRun states =
        lasting(controlled("state a; P0 on; after 1s to b; state b; P1 on; after 500ms to a"));
    EXPECT_NEAR(states.steady().period, 1.5, 1e-6);
    EXPECT_NEAR(amps(states, "L1"), full * 2 / 3, 0.01 * full);
    const LongRun hours = lasting(controlled("state a; P0 on; after 1h to b; state b; P1 on; after 3h to a"));
    EXPECT_NEAR(hours.steady().period, 4 * 3600, 1e-3);
    EXPECT_NEAR(amps(hours, "L1"), full / 4, 0.01 * full);
    const LongRun later = lasting(controlled("state a; P1 rise 2s; after 3s to b; state b; P0 blink 400ms"));
    EXPECT_NEAR(later.steady().period, 0.4, 1e-6) << "what comes before does not count";
    EXPECT_NEAR(amps(later, "L1"), full / 2, 0.01 * full);
    EXPECT_LT(amps(later, "L2"), 1e-6);
    const LongRun random = lasting(controlled("state a; P0 flicker 100ms"));
    EXPECT_FALSE(random.steady().repeats) << "what is at random does not repeat, and says so";
    EXPECT_GT(amps(random, "L1"), 0.15 * full);
    EXPECT_LT(amps(random, "L1"), 0.75 * full);
}

/// Every pin at every tick in the circuit is what the machine says.
TEST(Controller, InTheCircuitDoesWhatItsMachineDoes) {
    const Circuit c =
        controlled("state a; P0 blink 130ms 40%; after 400ms to b; state b; P1 blink 70ms; after 350ms to a");
    const Recording r = recorded(c, {.until = 3, .start = Start::power_up, .probes = {"net:O0", "net:O1"}});
    const Program program = program_of(*c.find("U1")).value();
    const PinsSeen none;
    Machine machine(program, none);
    for (int tick = 0; tick < 290; ++tick) {
        machine.step(none);
        const double t = tick * tick_seconds + 0.006;  // it begins 1 ms after power
        for (std::size_t k = 0; k < 2; ++k)
            EXPECT_NEAR(value_at(r.time, r.traces[k].values, t) / 4.4, machine.levels()[k] / 255.0, 0.1)
                << "tick " << tick;
    }
}

TEST(Controller, WakesFromSleepByAPressAndFallsAsleepAgain) {
    const Circuit c =
        controlled("state rest sleeps; P0 off; press P3 to lit; state lit; P0 on; after 5s to rest");
    const LongRun asleep = lasting(c);
    const LongRun soon = lasting(controlled("state lit; P0 blink 1s; after 60s to rest; state rest sleeps"));
    EXPECT_FALSE(soon.moves());
    EXPECT_LT(amps(soon, "L1"), 1e-6) << "what it does for a minute is not what it does in the long run";
    EXPECT_NEAR(asleep.mean().supply_current(), 4.5 / 20000 + 1e-6, 3e-6);
    Conditions pressed;
    pressed.events = {{1, "S1", true}, {1.5, "S1", false}};
    pressed.moment = 2;
    EXPECT_GT(amps(lasting(c, pressed), "L1"), 5e-3) << "two seconds after it was let go";
    pressed.moment = 0;
    EXPECT_LT(amps(lasting(c, pressed), "L1"), 1e-6) << "in the long run it sleeps again";
}

TEST(Controller, AMomentShowsADimmedLightAsTheEyeSeesIt) {
    const Circuit c =
        controlled("state rest sleeps; press P3 to lit; state lit; P0 on 50%; P1 on; after 60s to rest");
    Conditions pressed;
    pressed.events = {{1, "S1", true}, {1.2, "S1", false}};
    for (const double moment : {2.0, 2.001, 2.0023, 2.0041, 7.0}) {
        pressed.moment = moment;
        const LongRun run = lasting(c, pressed);
        EXPECT_FALSE(run.mean().oscillates);
        EXPECT_NEAR(amps(run, "L1") / amps(run, "L2"), std::pow((50 + 16) / 116.0, 3), 0.01) << moment;
    }
}

TEST(Controller, LooksNowAndThenWhileItSleeps) {
    const char* table =
        "state calm sleeps 2s; above P2 60% to warns; press P3 to lit; state warns; P0 on; state lit; P1 on; "
        "after 1s to calm";
    const Circuit c = controlled(table);
    const LongRun waits = lasting(c);
    ASSERT_TRUE(waits.moves());
    EXPECT_NEAR(waits.steady().period, 2, 1e-6);
    // through the divider, asleep, and 1 ms of every 2 s at work
    EXPECT_NEAR(waits.mean().supply_current(), 4.5 / 20000 + 0.9e-6 + 4.5e-3 * 1e-3 / 2, 3e-7);
    Circuit driven = c;
    std::erase_if(driven.parts, [](const Part& p) { return p.designator == "R3" || p.designator == "R4"; });
    driven.parts.push_back(circuit({"vsource VS1 +=S -=0 value=1"}).parts.front());
    RunRequest request{.until = 8, .probes = {"part:L1", "part:L2"}};
    Conditions pressed;
    pressed.switches["S1"] = true;
    request.changes = {{2.5, pressed, "press"}, {2.6, {}, "let go"}};
    Conditions high;
    high.levels["VS1"] = 3;
    request.changes.push_back({5, high, "turn"});
    const auto run = simulate(driven, known_catalogue(), {}, request);
    ASSERT_TRUE(run) << run.error().text();
    const auto at = [&](const char* probe, double t) {
        return value_at(run.value().time, run.value().trace(probe)->values, t);
    };
    EXPECT_GT(at("part:L2", 2.51), 5e-3) << "a press wakes it at once";
    EXPECT_GT(at("part:L2", 3.45), 5e-3);
    EXPECT_LT(at("part:L2", 3.55), 1e-6) << "a second later it sleeps again";
    EXPECT_LT(at("part:L1", 5.45), 1e-6)
        << "what it measures it sees at its next look, two seconds after that";
    EXPECT_GT(at("part:L1", 5.55), 5e-3);
}

TEST(Controller, MeasuresByAReferenceOfItsOwn) {
    for (const char* supply : {"3", "4.5"}) {
        Circuit c = controlled("state low; P0 on; above P2 50% to high; state high; P1 on", supply);
        c.find("U1")->params["reference"] = 3.5;  // half of it is 1.75 V
        const LongRun run = lasting(c);           // and the pin has half of the supply
        EXPECT_EQ(amps(run, "L2") > 1e-3, supply == std::string("4.5")) << supply;
    }
}

TEST(Controller, TellsVoltsByTheShareOfItsSupplyWithHysteresis) {
    const char* table = "state cold; P0 on; above P2 50% to warm; state warm; P1 on; below P2 45% to cold";
    for (const char* supply : {"3", "4.5"}) {
        Circuit c = controlled(table, supply);
        const auto lit = [&](double lower) {
            c.find("R3")->params["value"] = lower;
            const LongRun run = lasting(c);
            return amps(run, "L1") > 1e-3 ? 1 : amps(run, "L2") > 1e-3 ? 2 : 0;
        };
        EXPECT_EQ(lit(9900), 1) << "the ratio counts, whatever the supply: " << supply;
        EXPECT_EQ(lit(10150), 2) << supply;
    }
    // one way and back
    Circuit driven = controlled(table);
    std::erase_if(driven.parts, [](const Part& p) { return p.designator == "R3" || p.designator == "R4"; });
    driven.parts.push_back(circuit({"vsource VS1 +=S -=0 value=1"}).parts.front());
    RunRequest request{.until = 4, .probes = {"part:L1", "part:L2"}};
    double time = 0;
    for (const double volts : {2.5, 2.12, 1.8}) {  // 56, 47 and 40 %
        Conditions next;
        next.levels["VS1"] = volts;
        request.changes.push_back({time += 1, next, "turn"});
    }
    const Recording r = recorded(driven, request);
    for (const auto& [t, light] : {std::pair{0.9, 0}, {1.9, 1}, {2.9, 1}, {3.9, 0}})
        EXPECT_GT(value_at(r.time, r.traces[static_cast<std::size_t>(light)].values, t), 1e-3) << t;
}

/// What it finds at power-up is neither a press nor a change.
TEST(Controller, BeginsWithWhatItFinds) {
    const Circuit c = controlled("state a; P0 on; press P3 to b; state b; P1 on");
    Conditions held;
    held.switches["S1"] = true;
    EXPECT_GT(amps(lasting(c, held), "L1"), 1e-3) << "held down all along";
    EXPECT_GT(solve(c, held).part("L1").current, 1e-3) << "likewise at rest";
    for (const char* first : {"cold", "warm"}) {  // between both thresholds it stays in the first
        const std::string cold = "state cold; P0 on; above P2 55% to warm; ",
                          warm = "state warm; P1 on; below P2 45% to cold; ";
        const LongRun run = lasting(controlled(*first == 'c' ? cold + warm : warm + cold));
        EXPECT_GT(amps(run, *first == 'c' ? "L1" : "L2"), 1e-3) << first;
    }
}

TEST(Controller, RestsBelowItsLowestSupplyAndBeginsAnew) {
    EXPECT_LT(amps(lasting(controlled("state a; P0 on", "1.6")), "L1"), 1e-6);
    const Circuit c = controlled("state a; after 1s to b; state b; P0 on", "4.5");
    Circuit weak = c;
    weak.find("PS1")->params["voltage"] = 1.75;
    EXPECT_LT(amps(lasting(weak), "L1"), 1e-6) << "it begins a little above its lowest";
    EXPECT_GT(amps(lasting(c), "L1"), 1e-3);
}

/// Its light pulls the supply below what it needs, which ends its own cycle long before that is over.
TEST(Controller, ThatItsOwnLightTurnsOffIsFollowedAsSuch) {
    Circuit c = controlled("state a; P0 blink 3s", "2.4");
    c.find("PS1")->params["resistance"] = 300.0, c.find("R1")->params["value"] = 10.0;
    const LongRun run = lasting(c);
    ASSERT_TRUE(run.moves());
    EXPECT_LT(run.steady().period, 0.1) << run.steady().section;
    EXPECT_LT(run.steady().cycle.steps, 400'000);
}

/// Two that go by clocks of their own: as long as both together, or as a mean where they never meet.
TEST(Controller, BesideAnotherIsFollowedUntilBothComeRound) {
    const auto two = [](const std::string& first, const std::string& second) {
        Circuit c = controlled(first);
        const Circuit more = circuit({"controller_8 U2 vcc=V gnd=0 P0=O2 P1=S",
                                      "resistor R5 a=O2 b=A2 value=330", "led L3 a=A2 k=0 type=red-5mm"});
        c.parts.insert(c.parts.end(), more.parts.begin(), more.parts.end());
        c.find("U2")->params["behaviour"] = second;
        return c;
    };
    const double full = amps(lasting(two("state a; P0 on", "state a; P0 on")), "L3");
    for (const auto& [second, period] :
         {std::pair("state a; P0 blink 1s", 2.0), {"state a; P0 blink 3s", 6.0}}) {
        const LongRun run = lasting(two("state a; P0 blink 2s", second));
        EXPECT_TRUE(run.steady().repeats) << second;
        EXPECT_NEAR(run.steady().period, period, 1e-6) << second;
        EXPECT_NEAR(amps(run, "L1"), full / 2, 0.02 * full) << second;
        EXPECT_NEAR(amps(run, "L3"), full / 2, 0.02 * full) << second;
    }
    const LongRun run = lasting(two("state a; P0 blink 2s", "state a; P0 blink 970ms"));
    EXPECT_FALSE(run.steady().repeats);
    EXPECT_NEAR(amps(run, "L3"), full / 2, 0.03 * full);
    // one that looks while it sleeps, beside one that breathes
    const LongRun sleeps =
        lasting(two("state a; P0 breathe 4s", "state a sleeps 1s; above P2 60% to b; state b; P0 on"));
    EXPECT_GT(amps(sleeps, "L1"), 0.1 * full);
    EXPECT_LT(amps(sleeps, "L3"), 1e-6);
}

TEST(Controller, OfABadTableIsRefusedByItsStatement) {
    Circuit c = controlled("state a; P0 blink");
    const auto op = operating_point(c, known_catalogue(), {});
    ASSERT_FALSE(op);
    EXPECT_NE(op.error().text().find("statement 2"), std::string::npos) << op.error().text();
}

}  // namespace
}  // namespace elkit::test
