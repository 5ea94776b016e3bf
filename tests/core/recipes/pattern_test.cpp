// Lights at the pins of a small controller, against the engine and what its pins bear.
#include <gtest/gtest.h>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/long_run.hpp"
#include "engine/pictures.hpp"
#include "engine/queries.hpp"
#include "power/life.hpp"
#include "recipes/pin_plan.hpp"
#include "situations/propose.hpp"
#include "support/circuits.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::made;
using test::sweep;

TEST(PatternLights, PlayWhatIsAskedOrSayThatTheyCannot) {
    const auto swept =
        sweep("pattern-lights", combined({{"effect", {"breathe"s, "blink"s, "chase"s, "on"s, "colours"s}},
                                          {"begins", {"power"s, "press"s}},
                                          {"drives", {"direct"s, "transistor"s}},
                                          {"every", {0.4}},
                                          {"count", {1.0, 3.0}}}));
    EXPECT_GE(swept.met, 34);
    for (const auto& said : swept.refused)
        EXPECT_EQ(std::get<std::string>(said.at("effect")), "chase") << test::told(said);
    for (const auto& [said, place] :
         {std::pair(test::Said{{"cells", 4.0}}, "cells"),
          {{{"cells", 1.0}}, "cells"},
          {{{"current", 0.03}, {"drives", "direct"s}}, "controller"},
          {{{"count", 18.0}, {"effect", "breathe"s}, {"controller", "controller_8"s}}, "controller"}}) {
        const auto refused = made("pattern-lights", said);
        ASSERT_FALSE(refused) << place;
        EXPECT_EQ(refused.error().place, place) << refused.error().text();
    }
}

TEST(PatternLights, TheSmallestControllerThatHasThePins) {
    for (const auto& [count, effect, wanted] : {std::tuple{1.0, "on", "controller_8"},
                                                {5.0, "on", "controller_8"},
                                                {8.0, "on", "controller_14"},
                                                {16.0, "blink", "controller_20"},
                                                {4.0, "breathe", "controller_14"}}) {
        const Design d =
            made("pattern-lights", {{"count", count}, {"effect", std::string(effect)}, {"current", 0.003}})
                .value();
        EXPECT_EQ(d.circuit.find(d.blocks[0].parts.at("Ucontroller"))->kind, wanted) << count << effect;
        EXPECT_TRUE(test::findings(d, "part-rating").empty());
        EXPECT_TRUE(test::findings(d, "controller-pin").empty());
    }
    const Design strong =
        made("pattern-lights", {{"current", 0.05}, {"count", 2.0}, {"effect", "on"s}}).value();
    EXPECT_EQ(goals_of(strong, strong.blocks[0]).text("drives"), "transistor");
    EXPECT_TRUE(test::findings(strong, "part-rating").empty());
}

TEST(PatternLights, WhatAPressBeginsTakesAndLastsAsWhatPowerBegins) {
    for (const auto& [effect, every] : {std::pair("breathe"s, 0.4), {"blink"s, 0.5}, {"colours"s, 0.1}}) {
        const test::Said said{{"effect", effect}, {"every", every}, {"share", 40.0}};
        test::Said pressed = said;
        pressed["begins"] = "press"s, pressed["lasts"] = 60.0;
        const Design by_power = made("pattern-lights", said).value(),
                     by_press = made("pattern-lights", pressed).value();
        Store store;
        const Ask ask(store);
        const auto begun = long_run(by_press.circuit, known_catalogue(),
                                    lit_conditions(ask, by_press, by_press.circuit, {}));
        const auto steady = long_run(by_power.circuit, known_catalogue(), fresh(by_power.circuit, {}));
        ASSERT_TRUE(begun && steady) << effect;
        EXPECT_TRUE(begun.value().moves()) << effect;
        const double taken = steady.value().mean().supply_current();
        EXPECT_NEAR(begun.value().mean().supply_current(), taken, 0.02 * taken) << effect;
        if (effect == "colours") continue;  // its life is as many of these, and takes long
        const auto life = ask(LifeQuery(by_press, by_press.circuit, {})),
                   other = ask(LifeQuery(by_power, by_power.circuit, {}));
        ASSERT_TRUE(life && other) << effect;
        EXPECT_NEAR(life->run_time.value, other->run_time.value, 0.03 * other->run_time.value) << effect;
        EXPECT_EQ(life->typical.ended_by, other->typical.ended_by) << effect;
    }
}

TEST(PinPlan, NoGroupGetsMoreThanItsShare) {
    const PartKind& kind = *part_kind("controller_14");
    const std::vector<PinPlan::Use> ten(8, {"", "a light", 0.015});
    const auto plan = plan_pins(kind, ten, false, true);
    ASSERT_TRUE(plan) << plan.error().text();
    std::map<std::string, double> group;
    for (const PinPlan::Use& use : plan.value().lights)
        group[std::stoi(use.pin.substr(1)) < 6 ? "low" : "high"] += use.amps;
    for (const auto& [name, amps] : group) EXPECT_LE(amps, taken_of(kind, "max_group") + 1e-12) << name;
    EXPECT_FALSE(plan_pins(kind, std::vector<PinPlan::Use>(10, {"", "a light", 0.015}), false, true));
    bool told = false;
    for (const std::string& line : plan.value().figure().working)
        told |= line.find("together: ") != std::string::npos;
    EXPECT_TRUE(told);
}

TEST(PinPlan, PinsThatShareAPathAreJudgedTogether) {
    Circuit c = test::circuit({"supply PS1 +=V -=0 voltage=5", "capacitor C1 a=V b=0 value=1e-7",
                               "controller_8 U1 vcc=V gnd=0 P0=A P1=B P2=C P5=D"});
    std::string table = "state a";
    for (const auto& [pin, net] : {std::pair{"P0", "A"}, {"P1", "B"}, {"P2", "C"}, {"P5", "D"}}) {
        const std::string n = net;
        for (const Part& part : test::circuit({"resistor R" + n + " a=" + n + " b=L" + n + " value=82",
                                               "led L" + n + " a=L" + n + " k=0 type=red-5mm"})
                                    .parts)
            c.parts.push_back(part);
        table += "; "s + pin + " on";
    }
    c.find("U1")->params["behaviour"] = table;
    Design d;
    d.circuit = c;
    std::set<std::string> titles;
    for (const Finding& f : test::findings(d, "part-rating"))
        titles.insert(f.title.substr(0, f.title.find(" 2")));
    std::string all;
    for (const std::string& title : titles) all += title + "\n";
    for (const char* wanted : {"U1: P1", "U1: P5", "U1: P0 to P2 together"})
        EXPECT_NE(all.find(wanted), std::string::npos) << wanted << " in\n" << all;
    EXPECT_EQ(all.find("P3 to P5"), std::string::npos) << "one light is not too much for the others\n" << all;
}

TEST(Pictures, ShowDimmedLightsAsTheEyeSeesThem) {
    const Design d = made("pattern-lights", {{"effect", "breathe"s}, {"every", 2.0}}).value();
    const auto pictures = pictures_of(d.circuit, known_catalogue(), lit(d.circuit, {}), 0.05, 40);
    ASSERT_TRUE(pictures) << pictures.error().text();
    const std::string light = d.blocks[0].parts.at("L1");
    std::vector<double> amps;
    for (const OperatingPoint& op : pictures.value().all) amps.push_back(op.part(light).current);
    ASSERT_EQ(amps.size(), 40u);
    const double most = *std::max_element(amps.begin(), amps.end());
    EXPECT_NEAR(most, 5e-3, 1e-3);
    EXPECT_LT(amps[0], 0.05 * most);
    for (std::size_t k = 2; k < 20; ++k) EXPECT_GT(amps[k], amps[k - 1]) << "no pulse is to be seen: " << k;
    EXPECT_LT(amps[39], 0.1 * most);
}

}  // namespace
}  // namespace elkit
