// What is found in circuits in general, and that the remedies cure it.
#include <gtest/gtest.h>

#include "circuit/edit.hpp"
#include "design/file.hpp"
#include "engine/long_run.hpp"
#include "power/standby.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Design design(const std::vector<std::string>& lines) {
    Design d;
    d.circuit = circuit(lines);
    return d;
}

const Finding* find_at(const std::vector<Finding>& all, const std::string& rule, const std::string& part) {
    for (const auto& f : all)
        if (f.rule == rule && f.ref == "part:" + part) return &f;
    return nullptr;
}

/// The rule speaks of this part and falls silent there once its first remedy is applied.
void expect_cured(const Design& d, const std::string& rule, const std::string& part, Severity severity) {
    const auto before = findings(d, rule);
    const Finding* f = find_at(before, rule, part);
    ASSERT_NE(f, nullptr) << rule;
    EXPECT_EQ(f->severity, severity) << f->title;
    ASSERT_FALSE(f->remedies.empty()) << rule;
    const auto next = f->remedies.front().apply(d);
    ASSERT_TRUE(next) << next.error().text();
    const auto after = findings(next.value(), rule);
    const Finding* still = find_at(after, rule, part);
    EXPECT_EQ(still, nullptr) << "still there after \"" << f->remedies.front().label
                              << "\": " << still->title;
}

void expect_silent(const Design& d, const std::string& rule) {
    const auto all = findings(d, rule);
    const Finding* f = find(all, rule);
    EXPECT_EQ(f, nullptr) << f->title;
}

std::vector<std::string> flasher(const std::string& timer) {
    return {"battery B1 +=V -=0 cell=LR6 count=4",
            "timer U1 gnd=0 trig=T out=OUT thr=T disch=D vcc=V " + timer,
            "resistor R1 a=V b=D value=10000",
            "resistor R2 a=D b=T value=470000",
            "capacitor C1 a=T b=0 value=1e-6",
            "resistor R3 a=OUT b=A value=680",
            "led L1 a=A k=0"};
}

TEST(CircuitFindings, ATimerWantsItsResetTiedAndACapacitor) {
    const Design d = design(flasher("type=timer-cmos"));
    expect_cured(d, "reset-open", "U1", Severity::warning);
    expect_cured(d, "supply-capacitor", "U1", Severity::warning);
    expect_cured(d, "control-capacitor", "U1", Severity::note);
    auto complete = flasher("type=timer-cmos reset=V cont=CV");
    complete.push_back("capacitor C2 a=V b=0 value=1e-7");
    complete.push_back("capacitor C3 a=CV b=0 value=1e-8");
    for (const char* rule :
         {"reset-open", "supply-capacitor", "control-capacitor", "pin-open", "gate-floats"})
        expect_silent(design(complete), rule);
    // an electrolytic alone is too slow, and beside a quick one no fault
    auto slow = flasher("type=timer-cmos");
    slow.push_back("electrolytic C4 +=V -=0 value=1e-4");
    const auto all = findings(design(slow), "supply-capacitor");
    ASSERT_FALSE(all.empty());
    EXPECT_TRUE(all.front().title.starts_with("U1 has nothing but C4")) << all.front().title;
    expect_cured(design(slow), "supply-capacitor", "U1", Severity::warning);
}

TEST(CircuitFindings, WhatLimitsNeedNotBeInTheString) {
    const std::vector<std::string> cells{"battery B1 +=V -=0 cell=LR6 count=2",
                                         "battery B2 +=W -=V cell=LR6 count=2"};
    const auto with = [&](std::vector<std::string> more) {
        more.insert(more.begin(), cells.begin(), cells.end());
        return design(more);
    };
    expect_silent(with({"resistor R1 a=W b=A value=300", "resistor R2 a=W b=A value=300",
                        "led L1 a=A k=0 type=white-5mm"}),
                  "no-resistor");
    expect_silent(with({"led L1 a=W k=C type=white-5mm", "npn Q1 c=C b=B e=E", "resistor R1 a=E b=0 value=33",
                        "resistor R2 a=W b=B value=4700", "npn Q2 c=B b=E e=0"}),
                  "no-resistor");
    EXPECT_NE(find_at(findings(with({"led L1 a=V k=0 type=red-5mm", "resistor R9 a=W b=0 value=10000"}),
                               "no-resistor"),
                      "no-resistor", "L1"),
              nullptr);
    EXPECT_NE(
        find_at(findings(with({"led L1 a=W k=M type=red-5mm", "led L2 a=M k=0 type=red-5mm"}), "no-resistor"),
                "no-resistor", "L1"),
        nullptr);
}

TEST(CircuitFindings, AConverterIsSetHigherForALightThatHasTooLittle) {
    const Design d =
        design({"battery B1 +=V -=0 cell=LR03 count=1", "step_up M1 in=V gnd=0 out=H voltage=3.3",
                "resistor R1 a=H b=A value=47", "led L1 a=A k=0 type=white-5mm"});
    expect_cured(d, "headroom", "R1", Severity::warning);
    const auto all = findings(d, "headroom");
    EXPECT_NE(all.front().title.find("of 3.30"), std::string::npos)
        << all.front().title << ": its volts, not the cell's";
    EXPECT_TRUE(all.front().remedies.front().label.starts_with("Set M1 to"))
        << all.front().remedies.front().label;
}

TEST(CircuitFindings, AnOpenTriggerIsJoinedToTheThreshold) {
    Design d = design(flasher("type=timer-cmos reset=V"));
    d.circuit = move_pin(d.circuit, "U1", "trig", "NOWHERE").value();
    expect_cured(d, "pin-open", "U1", Severity::error);
}

TEST(CircuitFindings, AGateThatOnlyASwitchHoldsIsGivenAResistor) {
    const std::vector<std::string> lines{"battery B1 +=V -=0 count=3", "button S1 a=V b=G",
                                         "nmos Q1 d=D g=G s=0", "resistor R1 a=V b=A value=150",
                                         "led L1 a=A k=D"};
    expect_cured(design(lines), "gate-floats", "Q1", Severity::warning);
    auto held = lines;
    held.push_back("resistor R2 a=G b=0 value=100000");
    expect_silent(design(held), "gate-floats");
    auto fading = lines;
    fading.push_back("electrolytic C1 +=G -=0 value=1e-5");
    const auto all = findings(design(fading), "gate-floats");
    const Finding* f = find_at(all, "gate-floats", "Q1");
    ASSERT_NE(f, nullptr);
    EXPECT_NE(f->remedies.front().label.find("Add 10"), std::string::npos) << f->remedies.front().label;
}

TEST(CircuitFindings, ACoilOnATransistorWantsADiode) {
    const std::vector<std::string> lines{"supply PS1 +=V -=0 voltage=5", "button S1 a=V b=X",
                                         "resistor R1 a=X b=B value=1000", "npn Q1 c=C b=B e=0",
                                         "relay K1 coil+=V coil-=C"};
    expect_cured(design(lines), "coil-diode", "K1", Severity::error);
    const auto all = findings(design(lines), "coil-diode");
    EXPECT_NE(all.front().detail.find("When Q1 lets go"), std::string::npos) << all.front().detail;
}

TEST(CircuitFindings, AContactThatOpensACoilWantsADiodeToo) {
    std::vector<std::string> lines{"supply PS1 +=V -=0 voltage=5", "button S1 a=V b=X",
                                   "relay K1 coil+=X coil-=0 coil_resistance=100 coil_inductance=0.1 "
                                   "common=V no=Y",
                                   "resistor R1 a=Y b=Z value=330", "led L1 a=Z k=0"};
    expect_cured(design(lines), "coil-diode", "K1", Severity::warning);
    const auto by_hand = findings(design(lines), "coil-diode");
    ASSERT_FALSE(by_hand.empty());
    for (const char* part : {"When S1 opens, 49.8", " in 100", "124", "sparks"})
        EXPECT_NE(by_hand.front().detail.find(part), std::string::npos) << by_hand.front().detail;
    auto absorbed = lines;
    absorbed.push_back("capacitor C1 a=X b=0 value=1e-7");
    expect_silent(design(absorbed), "coil-diode");
    // the contact of a relay, whose own coil has its diode
    lines.push_back("diode D1 a=0 k=X");
    lines.push_back("motor M1 +=Y -=0");
    expect_cured(design(lines), "coil-diode", "M1", Severity::warning);
    // the coil the other way round, between two switches: the diode must not short them
    const Design turned =
        design({"battery B1 +=V -=0 cell=LR6 count=2", "switch S1 a=V b=X", "motor M2 -=X +=Y",
                "switch S2 a=Y b=0", "resistor R1 a=V b=Z value=100", "led L1 a=Z k=0"});
    const auto asked = findings(turned, "coil-diode");
    ASSERT_FALSE(asked.empty());
    const auto cured = asked.front().remedies.front().apply(turned);
    ASSERT_TRUE(cured);
    const auto diode = std::find_if(cured.value().circuit.parts.begin(), cured.value().circuit.parts.end(),
                                    [](const Part& p) { return p.kind == "diode"; });
    ASSERT_NE(diode, cured.value().circuit.parts.end());
    EXPECT_EQ(diode->net("a"), "Y");
    EXPECT_EQ(diode->net("k"), "X");
    // nothing opens it
    expect_silent(design({"supply PS1 +=V -=0 voltage=3", "motor M1 +=V -=0"}), "coil-diode");
    // it is turned both ways: a diode would short one of them
    expect_silent(design({"supply PS1 +=V -=0 voltage=3", "changeover S1 common=A a=V b=0",
                          "changeover S2 common=B a=V b=0", "motor M1 +=A -=B"}),
                  "coil-diode");
}

TEST(CircuitFindings, TheRowOfAGridSharesItsResistor) {
    const std::vector<std::string> row{"battery B1 +=V -=0 cell=LR6 count=3",
                                       "switch S1 a=V b=A",
                                       "resistor R1 a=A b=B value=100",
                                       "led L1 a=B k=C",
                                       "led L2 a=B k=D",
                                       "switch S2 a=C b=0",
                                       "switch S3 a=D b=0"};
    expect_cured(design(row), "shared-resistor", "R1", Severity::warning);
    const auto all = findings(design(row), "shared-resistor");
    ASSERT_EQ(all.size(), 1u);
    EXPECT_TRUE(all.front().detail.starts_with("L1 alone gets 2")) << all.front().detail;
    EXPECT_EQ(find_at(findings(design(row), "no-resistor"), "no-resistor", "L1"), nullptr);
    auto fed_elsewhere = row;
    fed_elsewhere.push_back("npn Q1 c=B b=A e=0");
    expect_silent(design(fed_elsewhere), "shared-resistor");
}

TEST(CircuitFindings, PartsOverTheirRatings) {
    const Design hot =
        design({"supply PS1 +=V -=0 voltage=12 max_current=5", "resistor R1 a=V b=B value=1000",
                "npn Q1 c=V b=B e=E type=npn-small", "resistor R2 a=E b=0 value=22 rating=10"});
    const auto all = findings(hot, "part-rating");
    const Finding* f = find_at(all, "part-rating", "Q1");
    ASSERT_NE(f, nullptr);
    EXPECT_EQ(f->severity, Severity::error);
    EXPECT_NE(f->title.find("it may have"), std::string::npos) << f->title;
    const auto weak = findings(design({"supply PS1 +=V -=0 voltage=12", "capacitor C1 a=V b=0 rating=10",
                                       "resistor R1 a=V b=0 value=1000"}),
                               "part-rating");
    ASSERT_NE(find_at(weak, "part-rating", "C1"), nullptr);
    EXPECT_NE(find_at(weak, "part-rating", "C1")->title.find("voltage 12"), std::string::npos);
}

TEST(CircuitFindings, AnOutputOverItsCurrent) {
    auto lines = flasher("type=timer-cmos reset=V");
    lines[5] = "resistor R3 a=OUT b=A value=47";
    const auto all = findings(design(lines), "part-rating");
    ASSERT_NE(find_at(all, "part-rating", "U1"), nullptr);
    expect_silent(design(flasher("type=timer-bipolar reset=V")), "part-rating");
}

TEST(CircuitFindings, AReversedElectrolyticIsTurnedRound) {
    expect_cured(
        design({"supply PS1 +=V -=0 voltage=5", "resistor R1 a=V b=0 value=1000", "electrolytic C1 +=0 -=V"}),
        "electrolytic-reversed", "C1", Severity::error);
}

TEST(CircuitFindings, AnElectrolyticThatStandsBothWaysRoundIsReplaced) {
    std::vector<std::string> lines = flasher("reset=V");
    lines.insert(lines.end(), {"battery B2 +=M -=0 cell=LR6 count=2", "electrolytic C3 +=OUT -=N value=1e-5",
                               "resistor R4 a=N b=M value=1000"});
    expect_cured(design(lines), "electrolytic-reversed", "C3", Severity::error);
}

TEST(CircuitFindings, ALatchThatTheSupplySetsIsHeldOff) {
    Design d;
    d.circuit = held_pair();
    const auto all = findings(d, "power-up");
    const Finding* f = find(all, "power-up");
    ASSERT_NE(f, nullptr);
    const auto on = operating_points(d.circuit, known_catalogue(), {}).value().front().supply_current();
    const auto next = f->remedies.at(0).apply(d);
    ASSERT_TRUE(next) << next.error().text();
    const auto run = long_run(next.value().circuit, known_catalogue(), {});
    ASSERT_TRUE(run);
    EXPECT_LT(run.value().mean().supply_current(), 0.01 * on) << "from power-up it waits";
    expect_silent(next.value(), "power-up");
}

TEST(CircuitFindings, AWindingTheWrongWayRoundIsTurned) {
    expect_cured(
        design({"battery B1 +=V -=0 cell=LR6", "core T1 1a=V 1b=C 2a=V 2b=F turns1=12 turns2=12 type=ring-10",
                "resistor R1 a=F b=B value=2700", "npn Q1 b=B c=C e=0 type=npn-medium",
                "led L1 a=C k=0 type=white-5mm"}),
        "booster-start", "T1", Severity::error);
}

TEST(CircuitFindings, AnLedBeyondItsReverseVoltageGetsADiode) {
    expect_cured(design({"vsource VS1 +=V -=0 wave=sine value=0 amplitude=12 frequency=50",
                         "resistor R1 a=V b=A value=1000", "led L1 a=A k=0"}),
                 "led-reverse", "L1", Severity::error);
}

TEST(CircuitFindings, APulsedLedIsJudgedByItsMeanAndPeak) {
    const std::vector<std::string> lines{
        "vsource VS1 +=V -=0 wave=pulse value=0 high=5 width=1e-3 period=1e-2",
        "resistor R1 a=V b=A value=10", "led L1 a=A k=0"};
    expect_cured(design(lines), "pulsed-led", "L1", Severity::error);
    auto gentle = lines;
    gentle[1] = "resistor R1 a=V b=A value=68";
    expect_silent(design(gentle), "pulsed-led");
}

TEST(CircuitFindings, LightsOfAFlasherAreJudgedWhileTheyAreOn) {
    std::vector<std::string> lines = flasher("type=timer-cmos");
    lines[5] = "resistor R3 a=OUT b=A value=22";
    Design slow = design(lines);
    slow.circuit.find("L1")->params["max_current"] = 0.010;  // 0.7 s at a time: as hot as for good
    expect_cured(slow, "pulsed-led", "L1", Severity::error);

    lines[5] = "resistor R3 a=OUT b=A value=330";
    lines[6] = "led L1 a=0 k=A";
    expect_cured(design(lines), "led-reversed", "L1", Severity::error);

    lines[6] = "led L1 a=A k=0 type=blue-5mm";
    lines[0] = "battery B1 +=V -=0 cell=LR6 count=2";
    lines[1] = "timer U1 gnd=0 trig=T out=G thr=T disch=D vcc=V reset=V";
    lines[5] = "nmos Q1 g=G d=K s=0";
    lines[6] = "led L1 a=A k=K type=blue-5mm";
    lines.push_back("resistor R3 a=V b=A value=33");
    expect_cured(design(lines), "headroom", "R3", Severity::warning);

    lines[0] = "battery B1 +=V -=0 cell=LR6 count=3";
    lines.back() = "jumper J1 a=V b=A";
    expect_cured(design(lines), "no-resistor", "L1", Severity::error);
}

TEST(CircuitFindings, ATimerThatOutlivesItsSupply) {
    const Design d = design(flasher("type=timer-bipolar reset=V"));
    const auto all = findings(d, "chip-supply");
    const Finding* f = find_at(all, "chip-supply", "U1");
    ASSERT_NE(f, nullptr);
    EXPECT_NE(f->title.find("4.50"), std::string::npos) << f->title;
    expect_cured(d, "chip-supply", "U1", Severity::warning);
    const auto high = findings(
        design({"supply PS1 +=V -=0 voltage=12", "prewired_led L1 a=V k=0 high=9 low=3"}), "chip-supply");
    ASSERT_NE(find_at(high, "chip-supply", "L1"), nullptr);
    EXPECT_EQ(find_at(high, "chip-supply", "L1")->severity, Severity::error);
}

TEST(CircuitFindings, AChipBehindAButtonIsJudgedWhileItHasItsSupply) {
    const auto behind_a_button = [](const std::string& chip) {
        return design({"battery B1 +=V -=0 cell=LR6 count=2", "button S1 a=V b=P", chip,
                       "resistor R1 a=P b=M value=10000", "resistor R2 a=M b=0 value=10000",
                       "resistor R3 a=V b=A value=330", "led L1 a=A k=0"});
    };
    EXPECT_EQ(find_at(findings(behind_a_button("comparator U1 vcc=P gnd=0 in+=M in-=0 out=Q"), "chip-supply"),
                      "chip-supply", "U1"),
              nullptr)
        << "it has none while nobody presses, and needs none";
    const auto low = findings(
        behind_a_button("timer U1 vcc=P gnd=0 trig=M thr=M out=Q reset=P disch=D type=timer-bipolar"),
        "chip-supply");
    ASSERT_NE(find_at(low, "chip-supply", "U1"), nullptr);
    EXPECT_NE(find_at(low, "chip-supply", "U1")->title.find("gets 3."), std::string::npos)
        << find_at(low, "chip-supply", "U1")->title;
}

TEST(CircuitFindings, WhatDrainsWithEverythingOff) {
    // the divider stays on the cells when the switch takes the light away
    const std::vector<std::string> lines{
        "battery B1 +=V -=0 count=3",      "switch S1 a=V b=X",
        "resistor R1 a=X b=A value=150",   "led L1 a=A k=0",
        "resistor R2 a=V b=M value=10000", "resistor R3 a=M b=0 value=10000"};
    const auto all = findings(design(lines), "standby-drain");
    const Finding* f = find(all, "standby-drain");
    ASSERT_NE(f, nullptr);
    EXPECT_NE(f->detail.find("R2"), std::string::npos) << f->detail;
    auto none = lines;
    none.resize(4);
    expect_silent(design(none), "standby-drain");
}

TEST(Standby, KnowsHowAGadgetIsOff) {
    const Circuit dark =
        circuit({"battery B1 +=V -=0", "ldr LDR1 a=V b=B", "npn Q1 c=C b=B e=0", "resistor R1 a=V b=C"});
    EXPECT_TRUE(can_be_off(dark));
    EXPECT_GT(switched_off(dark, {}).lux, 1000);
    EXPECT_NE(off_text(dark).find("daylight"), std::string::npos);
    EXPECT_EQ(off_text(pier_lantern().circuit), "every switch open");
    EXPECT_FALSE(switched_off(pier_lantern().circuit, {}).switches.at("S1"));
}

TEST(LongRun, AveragesAreThoseOfTheCycle) {
    const Circuit c =
        circuit({"vsource VS1 +=V -=0 wave=pulse value=0 high=5 width=1e-3 period=1e-2 edge=1e-6",
                 "resistor R1 a=V b=0 value=1000"});
    const auto run = long_run(c, known_catalogue(), {});
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_TRUE(run.value().moves());
    EXPECT_NEAR(run.value().mean().part("R1").current, 0.1 * 5e-3, 5e-6);
    EXPECT_NEAR(run.value().mean().voltage("V"), 0.5, 5e-3);
    EXPECT_NEAR(run.value().rms("R1", "a"), std::sqrt(0.1) * 5e-3, 2e-5);
    EXPECT_NEAR(run.value().peak("R1", "a"), 5e-3, 1e-6);
    EXPECT_NEAR(run.value().mean().part("R1").power(), 0.1 * 25e-3, 3e-5);
    EXPECT_NEAR(run.value().between("V", "0").second, 5, 1e-3);
}

TEST(LongRun, ARestingCircuitHasItsOperatingPoint) {
    const Circuit c = pier_lantern().circuit;
    const auto run = long_run(c, known_catalogue(), {});
    ASSERT_TRUE(run);
    EXPECT_FALSE(run.value().moves());
    EXPECT_EQ(run.value().mean().supply_current(), solve(c).supply_current());
    EXPECT_EQ(run.value().rms("R1", "a"), run.value().peak("R1", "a"));
}

TEST(Discharge, AMovingCircuitIsDischargedByItsAverage) {
    // a light that is on for a tenth of the time lasts about ten times as long
    const auto d = discharge(circuit(flasher("type=timer-cmos reset=V")), {}, 0.3);
    ASSERT_TRUE(d) << d.error().text();
    const auto run = long_run(circuit(flasher("type=timer-cmos reset=V")), known_catalogue(), {});
    ASSERT_TRUE(run);
    EXPECT_NEAR(d.value().samples.front().amps, run.value().mean().supply_current(), 1e-6);
    EXPECT_GT(run.value().peak("L1", "a"), 1.5 * run.value().mean().part("L1").current);
    EXPECT_GT(d.value().hours, 100);
}

}  // namespace
}  // namespace elkit::test
