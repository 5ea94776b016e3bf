// Situations: what a circuit suggests, what happened before, the day plan, and findings over all of them.
#include <gtest/gtest.h>

#include <algorithm>

#include "design/delta.hpp"
#include "design/file.hpp"
#include "drawer/drawer.hpp"
#include "drawer/import.hpp"
#include "light/light.hpp"
#include "power/life.hpp"
#include "situations/afterglow.hpp"
#include "situations/words.hpp"
#include "situations/worst.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

std::vector<Placed> proposals(const Circuit& c) {
    auto found = ask(ProposalsQuery{Keyed<Circuit>(c)});
    EXPECT_TRUE(found) << found.error().text();
    return found ? found.value() : std::vector<Placed>{};
}

std::vector<std::string> names(const std::vector<Placed>& list) {
    std::vector<std::string> out;
    for (const Placed& p : list) out.push_back(p.situation.name);
    return out;
}

Design design_of(Circuit c) {
    Design d;
    d.circuit = std::move(c);
    return d;
}

TEST(Situations, AButtonLightIsLitWhileItIsPressed) {
    const auto found = proposals(button_light());
    ASSERT_EQ(names(found), (std::vector<std::string>{"S1 pressed", "waiting"}));
    EXPECT_TRUE(found[0].lit);
    EXPECT_NEAR(found[0].current, 0.0244, 0.001);
    EXPECT_FALSE(found[1].lit);
    EXPECT_LT(found[1].current, 1e-9);
}

TEST(Situations, WhatGoesOnAfterAPressTellsHowLong) {
    // ln 3 R C and the chip's own; half as bright is a fifth of the light (CIE L*)
    const Keyed<Circuit> timed(circuit(
        {"battery B1 +=V -=0 cell=LR6 count=4", "resistor R1 a=V b=T value=10000", "button S1 a=T b=0",
         "timer U1 gnd=0 trig=T out=O reset=V cont=M thr=D disch=D vcc=V", "resistor R2 a=V b=D value=1e6",
         "capacitor C1 a=D b=0 value=1e-5", "resistor R3 a=O b=A value=330", "led L1 a=A k=0"}));
    const auto found = ask(ProposalsQuery{timed});
    ASSERT_TRUE(found);
    ASSERT_EQ(found.value().front().situation.name, "S1 pressed");
    const auto glow = ask(AfterglowQuery{timed, found.value().front().situation.conditions});
    ASSERT_TRUE(glow && glow.value());
    EXPECT_NEAR(*glow.value(), std::log(3) * 1e6 * 1e-5 - 1, 0.1) << "the second of the press is part of it";

    // charged while it is held, from its own end on: R C ln of the drive's fall through the LED's bend
    const Keyed<Circuit> fading(
        circuit({"battery B1 +=V -=0 cell=LR6 count=3", "button S1 a=V b=G",
                 "capacitor C1 a=G b=0 value=1e-5", "resistor R1 a=G b=0 value=1e6", "nmos Q1 g=G d=D s=0",
                 "resistor R2 a=V b=A value=150", "led L1 a=A k=D"}));
    Conditions held;
    held.switches["S1"] = true;
    const auto fade = ask(AfterglowQuery{fading, held});
    ASSERT_TRUE(fade && fade.value());
    EXPECT_GT(*fade.value(), 2);
    EXPECT_LT(*fade.value(), 20);

    const Keyed<Circuit> plain(button_light());
    const auto none = ask(AfterglowQuery{plain, held});
    ASSERT_TRUE(none && none.value());
    EXPECT_EQ(*none.value(), 0);
    EXPECT_FALSE(ask(AfterglowQuery{plain, Conditions{}}).value()) << "nobody holds it";
}

TEST(Situations, ALampThatWakesInTheDarkIsLitThere) {
    const auto found = proposals(dark_lamp());
    ASSERT_EQ(names(found), (std::vector<std::string>{"dark, lit", "waiting", "S1 off"}));
    EXPECT_LT(found[0].situation.conditions.lux, 1);
    EXPECT_GT(found[0].current, 100 * found[1].current);
}

TEST(Situations, DaylightIsInfraredToo) {
    const auto found = proposals(circuit({"battery B1 +=V -=0 cell=LR6 count=3",
                                          "phototransistor Q1 c=V e=B type=phototransistor-infrared",
                                          "resistor R1 a=B b=0 value=10000", "npn Q2 b=B c=C e=0",
                                          "resistor R2 a=V b=A value=100", "led L1 a=A k=C"}));
    const auto day = std::find_if(found.begin(), found.end(),
                                  [](const Placed& p) { return p.situation.name == "daylight, lit"; });
    ASSERT_NE(day, found.end());
    EXPECT_GT(day->situation.conditions.infrared, 1);
}

TEST(Situations, ALatchHasBothItsStates) {
    const auto found = proposals(held_pair());
    ASSERT_EQ(names(found), (std::vector<std::string>{"after S1", "waiting"}));
    const Circuit c = held_pair();
    Conditions on = found[0].situation.under({});
    EXPECT_GT(solve(c, on).part("L1").current, 0.005) << "it holds itself";
    on.events.push_back({2, "S2", true}), on.events.push_back({2.3, "S2", false});
    EXPECT_LT(solve(c, on).part("L1").current, 1e-6) << "and lets go when its base is shorted";
}

TEST(Situations, EverySwitchOfAGridCountsAndTheWorstIsNamed) {
    std::vector<std::string> lines{"battery B1 +=V -=0 cell=LR6 count=3"};
    const std::vector<std::string> rows{"1", "2"}, columns{"1", "2"};
    for (const auto& r : rows) {
        lines.push_back("switch S" + r + " a=V b=W" + r + " on=0");
        lines.push_back("resistor R" + r + " a=W" + r + " b=X" + r + " value=68");
        for (const auto& k : columns) lines.push_back("led L" + r + k + " a=X" + r + " k=Y" + k);
    }
    for (const auto& k : columns) lines.push_back("switch S3" + k + " a=Y" + k + " b=0 on=0");
    const Keyed<Circuit> c(circuit(lines));
    const auto found = ask(ProposalsQuery{c}).value();
    ASSERT_FALSE(found.empty());
    EXPECT_TRUE(found.front().lit) << "two switches together";
    std::vector<Situation> all;
    for (const Placed& p : found) all.push_back(p.situation);
    const auto worst = ask(WorstQuery{c, all}).value();
    ASSERT_FALSE(worst.empty());
    EXPECT_NE(worst.front().name.find("worst for"), std::string::npos);
    const std::string led = worst.front().name.substr(std::string("worst for ").size()).substr(0, 3);
    double known = 0;
    for (const Situation& s : all) known = std::max(known, solve(*c, s.under({})).part(led).taken);
    EXPECT_GT(solve(*c, worst.front().under({})).part(led).taken, 1.05 * known) << led;
}

TEST(Situations, AKnobHasTwoEnds) {
    const auto found = proposals(circuit({"battery B1 +=V -=0 cell=LR6 count=3", "switch S1 a=V b=P",
                                          "potentiometer RV1 a=P wiper=W b=W value=1000", "led L1 a=W k=0"}));
    const auto list = names(found);
    for (const char* name : {"lit", "RV1 at 0 %", "RV1 at 100 %", "S1 off"})
        EXPECT_NE(std::find(list.begin(), list.end(), name), list.end()) << name;
}

TEST(Events, AreReadAndWritten) {
    const Circuit c = held_pair();
    const auto events = read_events("1.3s release S1; 1 s press S1", c).value();
    ASSERT_EQ(events.size(), 2u);
    EXPECT_EQ(events_text(events), "1 s S1 on; 1.3 s S1 off") << "in order of time";
    EXPECT_TRUE(read_events("", c).value().empty());
    for (const char* bad :
         {"press S1", "1s press S9", "1s press R1", "-1s press S1", "1s wiggle S1", "1e9s press S1"})
        EXPECT_FALSE(read_event(bad, c)) << bad;
}

TEST(Events, AreNothingWhereNothingRemembers) {
    Conditions c;
    c.events = {{1, "S1", true}};
    const Circuit plain = button_light();
    EXPECT_TRUE(as_seen(plain, c).events.empty());
    EXPECT_TRUE(as_seen(plain, c).switches.at("S1"));
    EXPECT_GT(solve(plain, c).part("L1").current, 0.01);
}

TEST(Warmth, OfOnePartIsItsOwn) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=5", "thermistor TH1 a=V b=M value=10000",
                               "thermistor TH2 a=M b=0 value=10000"});
    Conditions finger;
    finger.celsius = 25;
    EXPECT_NEAR(solve(c, finger).voltage("M"), 2.5, 0.01);
    finger.warmth["TH1"] = 60;
    EXPECT_NEAR(solve(c, finger).voltage("M"), 4.0, 0.1);
}

TEST(SituationFile, KeepsAllThatASituationHas) {
    Design d = design_of(held_pair());
    Situation s;
    s.name = "cold, after S1", s.battery = 0.2;
    s.conditions.as_set = true;
    s.conditions.celsius = -10, s.conditions.lux = 5, s.conditions.infrared = 0.5;
    s.conditions.switches["S2"] = false, s.conditions.warmth["Q1"] = 60;
    s.conditions.events = {{1, "S1", true}, {1.25, "S1", false}};
    s.conditions.moment = 0.5;
    d.situations = {s};
    d.use = {{"cold, after S1", 4, 0, 0, {}}, {"waiting", 0, 0, 0, {}}, {"x", 0, 30, 20, {}}};
    const auto back = read_design(write_design(d));
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(back.value(), d);
    EXPECT_TRUE(schema_errors(write_design(d)).empty());
    EXPECT_EQ(with_delta(design_of(held_pair()), delta_between(design_of(held_pair()), d)).value(), d)
        << "undo keeps them";
}

TEST(SituationFile, NamesWhatIsWrong) {
    const std::string start = R"({"elkit":2,"circuit":{"parts":[]},"situations":[)";
    for (
        const auto& [text, place] : std::vector<std::pair<std::string, std::string>>{
            {R"({"name":"a"},{"name":"a"}])", "/situations/1/name"},
            {R"({"name":"a","battery":2}])", "/situations/0/battery"},
            {R"({"name":"a","events":[{"at_s":2,"part":"S1","on":true},{"at_s":1,"part":"S1","on":false}]}])",
             "/situations/0/events/1/at_s"},
            {R"({"name":"a","warmth":{"TH1":900}}])", "/situations/0/warmth/TH1"}}) {
        const auto read = read_design(start + text + "}");
        ASSERT_FALSE(read) << text;
        EXPECT_EQ(read.error().place, place);
    }
}

TEST(DayPlan, AddsUpWhatADayTakes) {
    Design d = design_of(button_light());
    const double always = ask(LifeQuery(d, d.circuit, {})).value().run_time.value;
    d.use = {{"S1 pressed", 4, 0, 0, {}}};
    const auto evenings = ask(LifeQuery(d, d.circuit, {})).value();
    EXPECT_NEAR(evenings.run_time.value / always, 6, 0.05) << "a sixth of the day";
    d.use = {{"S1 pressed", 0, 30, 20, {}}, {"waiting", 0, 0, 0, {}}};
    const auto presses = ask(LifeQuery(d, d.circuit, {})).value();
    const double self = known_catalogue().cell("LR6")->self_discharge_per_year / 8766;
    const double expected = 1 / (600 / 86400.0 / always + self);
    EXPECT_NEAR(presses.run_time.value / expected, 1, 0.03) << "self-discharge takes its share";
    EXPECT_EQ(presses.standby_current.working.front(), "waiting, fresh cells");
    d.use = {{"S1 pressed", 20, 0, 0, {}}, {"waiting", 5, 0, 0, {}}};
    EXPECT_EQ(ask(LifeQuery(d, d.circuit, {})).error().place, "/use");
    d.use = {{"nowhere", 2, 0, 0, {}}};
    EXPECT_NE(ask(LifeQuery(d, d.circuit, {})).error().found.find("nowhere"), std::string::npos);
}

TEST(DayPlan, NothingLastsForEver) {
    Design d = design_of(button_light());
    d.use = {{"waiting", 0, 0, 0, {}}};
    const double hours = ask(LifeQuery(d, d.circuit, {})).value().run_time.value;
    EXPECT_LT(hours, 40 * 8766) << "the cells empty themselves";
    EXPECT_GT(hours, 5 * 8766);
    EXPECT_EQ(ask(LifeQuery(d, d.circuit, {})).value().average_brightness.value, 0) << "it is dark";
}

TEST(Judged, APushButtonLightIsJudgedWhileItIsPressed) {
    const auto all = findings(design_of(button_light("10")), "led-current");
    ASSERT_NE(find(all, "led-current"), nullptr) << "80 mA through a small LED";
    EXPECT_EQ(find(all, "led-current")->situation, "S1 pressed");
    EXPECT_EQ(find(findings(design_of(button_light()), "headroom"), "headroom"), nullptr);
}

TEST(Judged, AKnobIsJudgedAtItsEnds) {
    const auto all =
        findings(design_of(circuit({"battery B1 +=V -=0 cell=LR6 count=3",
                                    "potentiometer RV1 a=V wiper=W b=W value=1000", "led L1 a=W k=0"})));
    ASSERT_NE(find(all, "led-current"), nullptr);
    EXPECT_EQ(find(all, "led-current")->situation, "RV1 at 0 %");
    EXPECT_EQ(find(all, "no-resistor"), nullptr) << "the knob limits it, where it stands";
}

TEST(Judged, LightsThatAreNeverTogetherAreNoFault) {
    const auto all =
        findings(design_of(circuit({"battery B1 +=V -=0 cell=LR6 count=3", "changeover S1 common=A a=V b=0",
                                    "changeover S2 common=B a=0 b=V", "resistor R1 a=A b=C value=150",
                                    "led L1 a=C k=B", "led L2 a=B k=C type=green-5mm"})));
    for (const char* rule : {"led-reversed", "shared-resistor", "no-resistor"})
        EXPECT_EQ(find(all, rule), nullptr) << rule;
}

TEST(Judged, APlanThatCannotBeFollowedIsAFinding) {
    Design d = design_of(button_light());
    d.use = {{"nowhere", 2, 0, 0, {}}};
    const auto all = findings(d, "day-plan");
    ASSERT_NE(find(all, "day-plan"), nullptr);
    EXPECT_NE(find(all, "day-plan")->title.find("nowhere"), std::string::npos)
        << find(all, "day-plan")->title;
    d.use.clear();
    EXPECT_EQ(find(findings(d, "day-plan"), "day-plan"), nullptr);
    Situation s;
    s.name = "odd", s.conditions.as_set = true, s.conditions.switches["S9"] = true;
    d.situations = {s};
    EXPECT_NE(find(findings(d, "day-plan"), "day-plan")->title.find("S9"), std::string::npos);
}

TEST(Judged, AnotherPlanIsJudgedAnew) {
    Design d = design_of(button_light());
    d.brief.run_time = 500;
    Store store;
    const auto too_short = [&] {
        return find(review(Ask(store), d, {}, demo_stock()), "run-time") != nullptr;
    };
    EXPECT_TRUE(too_short()) << "held without a pause";
    d.use = {{"S1 pressed", 1, 0, 0, {}}};
    EXPECT_FALSE(too_short()) << "an hour a day, asked on the same store";
}

TEST(Situations, FollowAPartThatIsRenamed) {
    Design d = design_of(button_light());
    Situation s;
    s.name = "held", s.conditions.as_set = true;
    s.conditions.switches["S1"] = true, s.conditions.events = {{1, "S1", false}};
    d.situations = {s};
    Circuit next = d.circuit;
    next.find("S1")->designator = "S7";
    const Design after = with_circuit(d, next);
    EXPECT_TRUE(after.situations[0].conditions.switches.contains("S7"));
    EXPECT_EQ(after.situations[0].conditions.switches.size(), 1u);
    EXPECT_EQ(after.situations[0].conditions.events[0].part, "S7");
}

TEST(Situations, GiveLightFirstForEveryStation) {
    const Keyed<Circuit> c(button_light());
    Store store;
    const Ask ask(store);
    const Conditions lit = lit_conditions(ask, design_of(*c), c, {});
    EXPECT_GT(ask(LightQuery(c, lit))->strings.at(0).fresh_current.value, 0.02);
    const auto dark = ask(LightQuery(c, {}));
    EXPECT_EQ(dark->brightness.value, 0) << "not all of nothing";
    EXPECT_EQ(dark->total.text(), "0.00\u00a0A");
    Conditions cold;
    cold.celsius = -10;
    EXPECT_EQ(lit_conditions(ask, design_of(*c), c, cold).celsius, -10) << "what the strip says goes first";
}

}  // namespace
}  // namespace elkit::test
