#include "recipes/blocks.hpp"

#include <gtest/gtest.h>

#include "circuit/edit.hpp"
#include "command/command.hpp"
#include "design/file.hpp"
#include "light/strings.hpp"
#include "recipes/steady_light.hpp"
#include "recipes/variants.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::goals_of;

Design said(const Design& d, const std::string& words) {
    auto c = parse_command(words, d, {});
    EXPECT_TRUE(c) << words << ": " << (c ? "" : c.error().text());
    return c ? *c.value().design : d;
}

TEST(Recipe, MeetsItsTargetWithoutGoingOver) {
    for (const char* cell : {"LR6", "LR03", "NiMH-AA"})
        for (const char* led : {"red-5mm", "amber-5mm"})
            for (const double current : {0.002, 0.008, 0.015}) {
                const Design d = test::light({{"cell", std::string(cell)},
                                              {"led", std::string(led)},
                                              {"current", current},
                                              {"per_string", 1.0},
                                              {"count", 3.0}});
                const double fresh = test::solve(d.circuit).part("L1").current;
                EXPECT_LE(fresh, current * 1.0005) << cell << led << current;
                EXPECT_GT(fresh, current * 0.88) << cell << led << current;
            }
}

TEST(Recipe, CountsWhatAllStringsTogetherTakeFromTheCells) {
    // twenty strings pull the cells down by a third of a volt; values 1 % apart leave no room for that to be
    // forgotten
    const Design d = test::light({{"count", 20.0},
                                  {"per_string", 1.0},
                                  {"current", 0.02},
                                  {"led", "red-5mm"s},
                                  {"series", "E192"s},
                                  {"rounding", "nearest"s}});
    EXPECT_NEAR(test::solve(d.circuit).part("L1").current / 0.02, 1, 0.01);
}

TEST(Recipe, ExpectsItsCurrentOfStringsThatAreAlike) {
    const Recipe& r = *find_recipe("steady-light");
    const auto expected = [&](double count, const char* limiter) {
        Goals g = r.standard();
        g.values["count"] = count, g.values["per_string"] = 2.0, g.values["limiter"] = std::string(limiter);
        return r.size(g, {}).value().expected;
    };
    EXPECT_EQ(expected(4, "string").size(), 2u);
    EXPECT_EQ(expected(5, "string").size(), 3u);
    EXPECT_EQ(expected(4, "shared").size(), 2u) << "one resistor before two like strings";
    EXPECT_TRUE(expected(5, "shared").empty()) << "the shorter string takes what it can get";
    EXPECT_TRUE(expected(4, "none").empty()) << "the cell decides";
    EXPECT_EQ(expected(5, "string").back().probe, "part:L5");
    EXPECT_DOUBLE_EQ(expected(4, "string").front().target, r.standard().number("current"));
}

TEST(Recipe, SplitsTheRemainderIntoItsOwnString) {
    EXPECT_EQ(string_lengths(5, 2), (std::vector<int>{2, 2, 1}));
    EXPECT_EQ(string_lengths(3, 9), (std::vector<int>{3}));
    const Design d = test::light({{"count", 5.0}});
    EXPECT_GT(d.circuit.find("R3")->number("value"), d.circuit.find("R1")->number("value"))
        << "one LED leaves more for the resistor";
    EXPECT_EQ(led_strings(d.circuit).size(), 3u);
}

TEST(Recipe, ThatCannotBeMetSaysWhyAndLeavesTheDesignAlone) {
    const auto none = test::try_goals(test::pier_lantern(), {{"per_string", 4.0}});
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().expected.find("fewer LEDs"), std::string::npos);
    for (const auto& [key, value] :
         test::GoalValues{{"current", -1.0}, {"cells", 41.0}, {"limiter", "magic"s}}) {
        const auto refused = test::try_goals(test::pier_lantern(), {{key, value}});
        ASSERT_FALSE(refused) << key;
        EXPECT_EQ(refused.error().fault, Fault::usage);
        EXPECT_FALSE(refused.error().expected.empty());
    }
}

TEST(Recipe, DeclaresEveryGoalInFull) {
    for (const Recipe& r : recipes()) {
        EXPECT_FALSE(r.name.empty() || r.intent.empty() || r.station.empty());
        const auto sized = r.size(planned(r, {}), {});
        ASSERT_TRUE(sized) << r.id << ": " << sized.error().text();
        for (const GoalInfo& g : r.goals) {
            EXPECT_FALSE(g.info.label.empty() || g.info.meaning.empty()) << g.info.key;
            if (!g.labels.empty()) {
                EXPECT_EQ(g.labels.size(), g.info.choices.size()) << g.info.key;
            }
            if (!g.mirrored()) continue;
            bool said = false;
            for (const Part& p : sized.value().parts)
                said =
                    said || (p.designator.starts_with(g.mirror_parts) && p.params.contains(g.mirror_param));
            EXPECT_TRUE(said) << g.info.key << ": no part says it";
        }
        for (const GoalRemedy& m : r.remedies) {
            for (const auto& [key, value] : m.set) EXPECT_NE(r.goal(key), nullptr) << m.label;
            for (const auto& [key, value] : m.add) EXPECT_NE(r.goal(key), nullptr) << m.label;
            for (const std::string& rule : m.rules)
                EXPECT_TRUE(std::any_of(rules().begin(), rules().end(), [&](const Rule& x) {
                    return x.id == rule;
                })) << rule;
        }
        EXPECT_TRUE(r.effort.empty() || r.goal(r.effort));
    }
}

TEST(OneTruth, CellsAreCountedInOnePlace) {
    const Design before = test::pier_lantern();
    const Design four = said(before, "b1 count 4");
    EXPECT_EQ(goals_of(four).number("cells"), 4);
    EXPECT_FALSE(four.blocks[0].goals.contains("cells")) << "the battery alone says it";
    EXPECT_GT(four.circuit.find("R1")->number("value"), 2 * before.circuit.find("R1")->number("value"));
    // the table's own row and the hero are one number
    const double hero = test::power(four).value().run_time.value;
    const auto rows = test::supplies(four, SupplyPolicy::sized_anew);
    EXPECT_EQ(rows.front().name, "4 × LR6");
    EXPECT_DOUBLE_EQ(rows.front().run_time.value, hero);
    // another goal keeps it
    const Design dimmer = said(four, "current = 8 mA");
    EXPECT_EQ(dimmer.circuit.find("B1")->number("count"), 4);
    EXPECT_EQ(said(four, "cells = 3").circuit, before.circuit);
}

TEST(OneTruth, ACellChangedAnywhereIsChangedEverywhere) {
    const Design d = said(test::pier_lantern(), "b1 = LR03");
    EXPECT_EQ(goals_of(d).text("cell"), "LR03");
    EXPECT_TRUE(differences(d).empty());
    const Design back = said(d, "cell = LR6");
    EXPECT_EQ(back.circuit, test::pier_lantern().circuit);
}

TEST(OneTruth, OneLedOfFourIsKnownAsSetByHand) {
    const Design d = said(test::pier_lantern(), "l3 = red-5mm");
    EXPECT_EQ(goals_of(d).text("led"), "amber-5mm");
    const auto all = differences(d);
    ASSERT_EQ(all.size(), 1u);
    EXPECT_TRUE(all[0].by_hand);
    EXPECT_EQ(all[0].designator, "L3");
    const auto found = test::findings(d);
    const Finding* f = test::find(found, "by-hand");
    ASSERT_NE(f, nullptr);
    ASSERT_EQ(f->remedies.size(), 2u) << "both ways to settle it";
    EXPECT_EQ(f->remedies[0].apply(d).value().circuit, test::pier_lantern().circuit);
    const Design red = f->remedies[1].apply(d).value();
    EXPECT_EQ(goals_of(red).text("led"), "red-5mm");
    for (const char* l : {"L1", "L2", "L3", "L4"}) EXPECT_EQ(red.circuit.find(l)->text("type"), "red-5mm");
    // running the recipe again keeps the one
    EXPECT_EQ(said(d, "current = 8 mA").circuit.find("L3")->text("type"), "red-5mm");
}

TEST(OneTruth, AResistorSetByHandStaysUntilItIsGivenBack) {
    const Design d = said(test::pier_lantern(), "r1 = 82");
    EXPECT_TRUE(d.blocks[0].by_hand.contains("R1.value"));
    EXPECT_EQ(d.circuit.find("R2")->number("value"), 62) << "one string's resistor is one string's";
    const Design slower = said(d, "current = 5 mA");
    EXPECT_EQ(slower.circuit.find("R1")->number("value"), 82);
    EXPECT_GT(slower.circuit.find("R2")->number("value"), 100);
    const auto all = differences(slower);
    ASSERT_EQ(all.size(), 1u);
    const Design settled = settle_to_goals(slower, all[0]).value();
    EXPECT_EQ(settled.circuit.find("R1")->number("value"), settled.circuit.find("R2")->number("value"));
    EXPECT_TRUE(settled.blocks[0].by_hand.empty());
}

TEST(OneTruth, AFileThatSaysTwoThingsIsShownSo) {
    Design d = test::pier_lantern();
    d.circuit.find("B1")->params["count"] = 4.0;  // as if by another program
    const auto all = differences(d);
    ASSERT_EQ(all.size(), 2u) << "the battery is the truth; the resistors do not follow it";
    for (const auto& x : all) {
        EXPECT_EQ(x.param, "value");
        EXPECT_FALSE(x.by_hand);
    }
    const auto found = test::findings(d);
    ASSERT_NE(test::find(found, "by-hand"), nullptr);
    EXPECT_EQ(test::find(found, "by-hand")->severity, Severity::warning);
}

TEST(Blocks, KeepWhatTheUserAddedAndSaidAboutAPart) {
    Design d = test::pier_lantern();
    d = said(d, "r9 10k from v+ to gnd");
    d = said(d, "b1 lead_length 500mm");
    d = said(d, "r1 tolerance 1%");
    d = said(d, "l1 points 10mA 2.0V");
    const Design again = said(d, "current = 8 mA");
    ASSERT_NE(again.circuit.find("R9"), nullptr) << "a resistor beside the light is the user's";
    EXPECT_EQ(again.circuit.find("B1")->number("lead_length"), 0.5);
    EXPECT_EQ(again.circuit.find("R1")->number("tolerance"), 0.01);
    EXPECT_NE(again.circuit.find("L1")->points("points"), nullptr);
    const Design red = said(again, "led = red");
    EXPECT_EQ(red.circuit.find("L1")->points("points"), nullptr) << "another LED has another curve";
    const Design six = said(again, "leds = 6");
    EXPECT_EQ(six.circuit.parts.size(), again.circuit.parts.size() + 3);
    EXPECT_NE(six.circuit.find("R9"), nullptr);
    const Design two = said(six, "leds = 2");
    EXPECT_EQ(two.circuit.find("L3"), nullptr);
    EXPECT_NE(two.circuit.find("R9"), nullptr);
}

TEST(Blocks, FollowRenamedPartsAndNets) {
    Design d = said(test::pier_lantern(), "rename r1 to r7");
    d = said(d, "rename net LAMP to FEED");
    EXPECT_EQ(d.blocks[0].parts.at("R1"), "R7");
    const Design six = said(d, "leds = 6");
    ASSERT_NE(six.circuit.find("R7"), nullptr);
    EXPECT_EQ(six.circuit.find("R7")->net("a"), "FEED");
    EXPECT_EQ(led_strings(six.circuit).size(), 3u);
    for (const auto& s : led_strings(six.circuit)) EXPECT_EQ(s.from, "FEED");
    const auto nets = six.circuit.nets();
    EXPECT_EQ(std::count(nets.begin(), nets.end(), "LAMP"), 0);
}

TEST(Blocks, KeepAPinThatAHandMoved) {
    Design d = said(test::pier_lantern(), "r9 10 from LAMP to EXTRA");
    d = said(d, "r1.a to EXTRA");
    EXPECT_TRUE(d.blocks[0].by_hand.contains("R1:a"));
    EXPECT_EQ(said(d, "current = 8 mA").circuit.find("R1")->net("a"), "EXTRA");
}

TEST(Blocks, GiveUpAPartThatIsDeleted) {
    const Design d = said(test::pier_lantern(), "delete r1");
    EXPECT_FALSE(d.blocks[0].parts.contains("R1"));
    EXPECT_NE(said(d, "current = 8 mA").circuit.find("R1"), nullptr) << "the goals ask for it again";
}

TEST(Blocks, TwoShareOneBattery) {
    Goals more = recipes().front().standard();
    more.values["led"] = "red-5mm"s, more.values["count"] = 2.0, more.values["switch"] = "no"s;
    const auto both = with_block(test::pier_lantern(), "steady-light", more);
    ASSERT_TRUE(both) << both.error().text();
    const Design& d = both.value();
    int cells = 0, lights = 0;
    for (const Part& p : d.circuit.parts) cells += is(p, Role::cells), lights += is(p, Role::light);
    EXPECT_EQ(cells, 1) << "the supply is used, not doubled";
    EXPECT_EQ(lights, 6);
    EXPECT_EQ(d.blocks[1].uses.at("B1"), "B1");
    const auto op = test::solve(d.circuit);
    EXPECT_NEAR(op.part("L1").current, 0.0117, 4e-4);
    EXPECT_NEAR(op.part("L5").current, 0.0117, 8e-4);
    const Design four = said(d, "b1 count 4");
    EXPECT_GT(four.circuit.find("R1")->number("value"), 150) << "the first follows";
    EXPECT_GT(four.circuit.find("R3")->number("value"), 150) << "and the second";
    const Design more_light = with_goal(d, 1, "count", 4.0).value();
    for (const Part& p : d.circuit.parts)
        if (!d.blocks[1].parts.contains(p.designator) && block_of(d, p.designator) == 0) {
            EXPECT_EQ(*more_light.circuit.find(p.designator), p) << "the other block is left alone";
        }
}

TEST(Blocks, HangBehindAMainSwitchAndNotBehindAButton) {
    const Design bar = with_block(Design{}, "battery-bar", planned(*find_recipe("battery-bar"), {})).value();
    ASSERT_EQ(bar.circuit.find("S1")->kind, "button") << "pressed to look at the cells";
    const Design both =
        with_block(bar, "timer-one-shot", planned(*find_recipe("timer-one-shot"), {})).value();
    const std::string fed = both.circuit.find(both.blocks[1].parts.at("U1"))->net("vcc");
    EXPECT_NE(fed, both.circuit.find("S1")->net("b"));
    const Design lamp = test::pier_lantern();
    const Design more =
        with_block(lamp, "timer-one-shot", planned(*find_recipe("timer-one-shot"), {})).value();
    EXPECT_EQ(more.circuit.find(more.blocks[1].parts.at("U1"))->net("vcc"),
              lamp.circuit.find("S1")->net("b"));
}

TEST(Blocks, GoThroughAFileAndBack) {
    Design d = said(test::pier_lantern(), "r1 = 82");
    d = said(d, "rename net LAMP to FEED");
    const auto back = read_design(write_design(d));
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(back.value().blocks, d.blocks);
    EXPECT_TRUE(schema_errors(write_design(d)).empty()) << schema_errors(write_design(d)).front().text();
}

TEST(Blocks, OfAnUnknownRecipeStayAsTheyAre) {
    Design d = test::pier_lantern();
    d.blocks[0].recipe = "perpetual-motion";
    EXPECT_FALSE(with_goal(d, 0, "current", 0.01));
    const Design edited = said(d, "r1 = 82");
    EXPECT_EQ(edited.blocks[0].recipe, "perpetual-motion");
    const auto found = test::findings(d);
    EXPECT_NE(test::find(found, "goals"), nullptr);
}

TEST(Blocks, ThatSayWhatCannotBeAreToldWhere) {
    EXPECT_TRUE(block_errors(test::pier_lantern()).empty());
    using Change = std::function<void(Design&)>;
    const std::vector<std::pair<Change, std::string>> wrong{
        {[](Design& d) { d.blocks[0].goals["count"] = "many"s; }, "/blocks/0/goals/count"},
        {[](Design& d) { d.blocks[0].goals["count"] = 1e9; }, "/blocks/0/goals/count"},
        {[](Design& d) { d.blocks[0].goals["per_string"] = 2.5; }, "/blocks/0/goals/per_string"},
        {[](Design& d) { d.blocks[0].goals["series"] = "E7"s; }, "/blocks/0/goals/series"},
        {[](Design& d) { d.blocks[0].goals["series"] = 24.0; }, "/blocks/0/goals/series"},
        {[](Design& d) { d.blocks[0].parts["R1"] = "R99"; }, "/blocks/0/parts/R1"},
        {[](Design& d) { d.blocks[0].parts["R1"] = "L1"; }, "/blocks/0/parts/R1"},
        {[](Design& d) { d.blocks.push_back(d.blocks[0]); }, "/blocks/1/parts/B1"}};
    for (const auto& [change, place] : wrong) {
        Design d = test::pier_lantern();
        change(d);
        const auto errors = block_errors(d);
        ASSERT_FALSE(errors.empty()) << place;
        EXPECT_EQ(errors.front().place, place);
        const auto found = test::findings(d);
        const Finding* f = test::find(found, "goals");
        ASSERT_NE(f, nullptr) << place;
        EXPECT_EQ(f->severity, Severity::error);
        EXPECT_NE(f->title.find(place), std::string::npos) << f->title;
        EXPECT_EQ(read_design(write_design(d)).value(), d) << "and nothing is lost";
    }
    EXPECT_FALSE(with_goal(test::pier_lantern(), 0, "count", 4.5));
}

TEST(Blocks, TheEngineChecksTheGoals) {
    Design d = test::pier_lantern();
    EXPECT_EQ(test::find(test::findings(d, "goals"), "goals"), nullptr);
    d = said(d, "r9 100 from A1 to gnd");  // steals the first string's current
    const auto found = test::findings(d);
    const Finding* f = test::find(found, "goals");
    ASSERT_NE(f, nullptr);
    EXPECT_NE(f->title.find("12.0\u00a0mA"), std::string::npos) << f->title;
}

TEST(Variants, ShowBothSchoolsAndTheDrawer) {
    const auto rows = test::ask(VariantsQuery(test::pier_lantern(), 0, {}, {{62, 82}, {}, {}})).value();
    ASSERT_EQ(rows.size(), 3u);
    int chosen = 0;
    for (const auto& r : rows) {
        chosen += r.chosen;
        EXPECT_FALSE(r.value.working.empty()) << r.variant.label;
        EXPECT_FALSE(r.found.working.empty()) << r.variant.label;
        EXPECT_EQ(r.note, "on target");
    }
    EXPECT_EQ(chosen, 1);
    EXPECT_TRUE(rows[1].chosen) << "never above is the demo's";
}

TEST(Variants, TakingTheDrawersIsKnownAsSetByHand) {
    const Design d = test::pier_lantern();
    const Environment owned{{82, 100}, {}, {}};
    const auto rows = test::ask(VariantsQuery(d, 0, {}, owned)).value();
    const Design taken = with_variant(d, 0, rows[2].variant, owned).value();
    EXPECT_EQ(taken.circuit.find("R1")->number("value"), 82);
    EXPECT_TRUE(taken.blocks[0].by_hand.contains("R2.value"));
    const Design given_back = with_variant(taken, 0, rows[1].variant, {}).value();
    EXPECT_EQ(given_back.circuit, d.circuit);
    EXPECT_TRUE(given_back.blocks[0].by_hand.empty());
    EXPECT_EQ(test::ask(VariantsQuery(taken, 0, {}, owned)).value()[2].chosen, true);
}

TEST(Migration, AFileOfVersionOneBecomesABlock) {
    const char* old =
        R"({"elkit": 1, "name": "old", "recipe": {"name": "steady-light", "cell": "LR6", "cells": 3,
      "led": "amber-5mm", "count": 2, "per_string": 2, "current": 0.012, "rounding": "nearest", "series": "E12",
      "one_resistor": false, "resistor": true, "switch": true, "mood": 7},
      "circuit": {"parts": [
        {"designator": "B1", "kind": "battery", "params": {"cell": "LR6", "count": 4}, "pins": {"+": "V+", "-": "GND"}},
        {"designator": "S1", "kind": "switch", "pins": {"a": "V+", "b": "LAMP"}},
        {"designator": "R1", "kind": "resistor", "params": {"value": 68}, "pins": {"a": "LAMP", "b": "A1"}},
        {"designator": "L1", "kind": "led", "params": {"type": "amber-5mm"}, "pins": {"a": "A1", "k": "M1"}},
        {"designator": "L2", "kind": "led", "params": {"type": "amber-5mm"}, "pins": {"a": "M1", "k": "GND"}},
        {"designator": "R9", "kind": "resistor", "params": {"value": 1000}, "pins": {"a": "V+", "b": "GND"}}]}})";
    EXPECT_TRUE(schema_errors(old).empty());
    const auto d = read_design(old);
    ASSERT_TRUE(d) << d.error().text();
    EXPECT_EQ(d.value().version, 2);
    ASSERT_EQ(d.value().blocks.size(), 1u);
    const Goals goals = goals_of(d.value());
    EXPECT_EQ(goals.text("rounding"), "nearest");
    EXPECT_EQ(goals.text("limiter"), "string");
    EXPECT_EQ(goals.number("cells"), 4) << "the part says it";
    EXPECT_EQ(d.value().blocks[0].parts.size(), 5u);
    EXPECT_FALSE(block_of(d.value(), "R9")) << "a resistor of no string is the user's own";
    EXPECT_NE(write_design(d.value()).find("\"mood\": 7"), std::string::npos);
    EXPECT_NE(test::with_goals(d.value(), {{"count", 4.0}}).circuit.find("R9"), nullptr);
}

}  // namespace
}  // namespace elkit
