// The one-cell booster against the engine and against its closed forms.
#include <gtest/gtest.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"
#include "power/plain_cells.hpp"
#include "review/findings.hpp"
#include "support/circuits.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::made;
using test::Said;
using test::sweep;

TEST(CellBooster, GivesTheLightAskedForOrSaysThatItCannot) {
    std::vector<Said> all;
    for (const auto& [led, count] :
         {std::pair("white-5mm", 1.0), std::pair("red-5mm", 1.0), std::pair("green-5mm", 3.0)})
        for (Said said :
             combined({{"current", {0.002, 0.012, 0.2}}, {"core", {"ring-10"s, "ring-6"s, "bobbin-8"s}}})) {
            said["led"] = std::string(led), said["count"] = said["per_string"] = count;
            all.push_back(said);
        }
    const auto swept = sweep("cell-booster", all);
    EXPECT_GT(swept.met, 9);
    EXPECT_GT(swept.refused.size(), 6u) << "no such core gives 200 mA";
}

TEST(CellBooster, PeakAndWireAreThoseOfTheClosedForms) {
    const Design d = made("cell-booster", {{"current", 0.008}, {"turns", 16.0}}).value();
    const auto sized = sized_block(d, 0).value();
    const Part& core = *d.circuit.find(d.blocks[0].parts.at("Tboost"));
    EXPECT_EQ(core.number("turns2"), 16);
    // by hand: I = ½ Ip V/Vl, a white LED of some 3 V at 1.6 V, 15 % lost: 2 × 8 mA × 3/1.6/0.85
    EXPECT_NEAR(sized.results[0].value, 0.0353, 0.002);
    EXPECT_NEAR(sized.results[1].value, 16 * 0.014 + 0.1, 1e-9);
    EXPECT_NEAR(core.number("wire_resistance"), 1.75e-8 * 0.014 / (M_PI * 0.00015 * 0.00015), 2e-5);
}

TEST(CellBooster, OfTwoCellsOrTwoStringsIsRefusedWithTheReason) {
    EXPECT_FALSE(made("cell-booster", {{"cells", 2.0}, {"led", "red-5mm"s}})) << "they light it without";
    const auto two = made("cell-booster", {{"count", 2.0}, {"per_string", 1.0}});
    ASSERT_FALSE(two);
    EXPECT_NE(two.error().found.find("unequally"), std::string::npos);
    const auto many = made("cell-booster", {{"turns", 100.0}, {"current", 0.01}, {"core", "ring-10"s}});
    ASSERT_FALSE(many);
    EXPECT_NE(many.error().found.find("saturates"), std::string::npos);
}

TEST(CellBooster, StartsAndStopsBetweenTheVoltsThatTheEngineFindsSteady) {
    const Design d = made("cell-booster", {}).value();
    const auto all = test::ask(MeasuredQuery(d, 0, {})).value();
    const auto found = [&](const std::string& label) {
        for (const Measured& m : all)
            if (m.asked.label == label) return m.found.value;
        return 0.0;
    };
    const auto lit_at = [&](double volts) {  // from a steady supply in place of the cell, by the long run
        Circuit circuit = d.circuit;
        Part& source = *circuit.find(circuit.source()->designator);
        const auto pins = source.pins;
        source = {source.designator, "supply", {{"voltage", volts}, {"resistance", 0.01}}, pins, {}};
        const auto run = long_run(circuit, known_catalogue(), lit(circuit, {}));
        return run && run.value().mean().part("L1").current > 1e-6;
    };
    EXPECT_TRUE(lit_at(found("starts from") + 0.05));
    EXPECT_FALSE(lit_at(found("stops at") - 0.05));
    EXPECT_GT(found("starts from"), found("stops at") - 0.02);
}

TEST(CellBooster, StandsBesideTwoAndThreeCells) {
    const Design d = made("cell-booster", {}).value();
    EXPECT_TRUE(boosts(d, 0));
    const auto rows = test::ask(PlainCellsQuery(d, 0, {})).value();
    ASSERT_EQ(rows.size(), 3u);
    EXPECT_TRUE(rows[0].present);
    EXPECT_NE(rows[0].name.find("boosted"), std::string::npos);
    const CellsRow &own = rows[0], &three = rows[2];
    ASSERT_EQ(three.reason, "");
    EXPECT_NEAR(three.light.value, own.light.value, 0.2 * own.light.value) << "the same light";
    EXPECT_GT(three.run_time.value, own.run_time.value) << "three cells hold three times as much";
    EXPECT_GT(own.per_cell.value, 0.9 * three.per_cell.value) << "a white LED's resistor burns a third";
    EXPECT_LT(own.left.value, 5) << "it runs its cell down";
    // closed form: a resistor's string gets n VLED/V of what the cells give
    EXPECT_NEAR(three.efficiency.value, 100 * 2.95 / 4.78, 4);
    EXPECT_GT(own.efficiency.value, 60);
    EXPECT_LT(own.efficiency.value, 100);
    for (const CellsRow& row : rows) EXPECT_FALSE(row.reason.empty() && row.efficiency.working.empty());
    const Design plain = made("steady-light", {}).value();
    EXPECT_FALSE(boosts(plain, 0));
    EXPECT_FALSE(test::ask(PlainCellsQuery(plain, 0, {})));
}

TEST(CellBooster, IsDrawnToBeWoundBy) {
    const Recipe& recipe = *find_recipe("cell-booster");
    for (const char* core : {"ring-10", "ring-6", "bobbin-8"})
        for (const double turns : {3.0, 20.0, 80.0}) {
            Goals goals = recipe.standard();
            goals.values["core"] = std::string(core), goals.values["turns"] = turns;
            const Drawing d = recipe.picture(goals, {}).value();
            int first = 0, second = 0;
            std::string words;
            for (const Item& item : d.items) {
                first += item.ref == "wire:1", second += item.ref == "wire:2";
                if (const auto* text = std::get_if<Text>(&item.shape)) words += text->text + "\n";
                const Box box = bounds(item.shape);
                EXPECT_TRUE(box.x0 >= 0 && box.x1 <= d.width && box.y1 <= d.height) << item.ref << words;
            }
            EXPECT_EQ(first, second);
            EXPECT_EQ(first, std::min(turns, 30.0) + 4) << "each turn, and two ends in two pieces";
            for (const char* part : {"collector", "base resistor", "joined: plus"})
                EXPECT_NE(words.find(part), std::string::npos) << part;
        }
}

TEST(CellBooster, ThatDoesNotStartIsDiagnosed) {
    const Design sound = made("cell-booster", {}).value();
    const auto name = [&](const char* local) { return sound.blocks[0].parts.at(local); };
    const auto diagnosed = [&](const Design& broken) -> std::string {
        const auto all = test::findings(broken, "booster-start");
        if (all.empty()) return {};
        for (const Remedy& remedy : all.front().remedies) {
            const auto next = remedy.apply(broken);
            EXPECT_TRUE(next && test::findings(next.value(), "booster-start").empty()) << remedy.label;
        }
        return all.front().title;
    };
    EXPECT_EQ(diagnosed(sound), "");
    Design turned = sound;
    for (Pin& pin : turned.circuit.find(name("Tboost"))->pins)
        if (pin.name[0] == '2')
            pin.net = pin.net == "DRIVE" ? turned.circuit.find(name("Tboost"))->net("1a") : "DRIVE";
    EXPECT_NE(diagnosed(turned).find("winding"), std::string::npos) << diagnosed(turned);
    Design starved = sound;
    starved.circuit.find(name("Rbase"))->params["value"] = 10e6;
    EXPECT_NE(diagnosed(starved).find("drives the base too little"), std::string::npos) << diagnosed(starved);
    Design lossy = sound;
    lossy.circuit.find(name("Tboost"))->params["turns1"] = 1.0;
    lossy.circuit.find(name("Tboost"))->params["turns2"] = 1.0;
    EXPECT_NE(diagnosed(lossy).find(name("Tboost")), std::string::npos) << diagnosed(lossy);
}

TEST(CellBooster, WhoseCoreIsFullIsTold) {
    Design d = made("cell-booster", {{"core", "ring-10"s}}).value();
    EXPECT_TRUE(test::findings(d, "core-full").empty());
    Part& base = *d.circuit.find(d.blocks[0].parts.at("Rbase"));
    base.params["value"] = base.number("value") / 8;
    const auto all = test::findings(d, "core-full");
    ASSERT_EQ(all.size(), 1u);
    ASSERT_GE(all.front().remedies.size(), 2u);
    const auto larger = all.front().remedies.back().apply(d);
    ASSERT_TRUE(larger) << larger.error().text();
    EXPECT_TRUE(test::findings(larger.value(), "core-full").empty());
}

/// What is slow beside it is not brought to where it never was by looking ahead.
TEST(CellBooster, BesideAConverterLeavesItsVolts) {
    const Design alone =
        with_block(Design{}, "cell-booster", planned(*find_recipe("cell-booster"), {})).value();
    Circuit c = alone.circuit;
    const Circuit more =
        test::circuit({"step_up M1 in=ON gnd=GND out=FIVE", "resistor RL a=FIVE b=GND value=1000",
                       "electrolytic CX +=FIVE -=GND value=1e-4 rating=16"});
    c.parts.insert(c.parts.end(), more.parts.begin(), more.parts.end());
    const auto run = long_run(c, known_catalogue(), {});
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_NEAR(run.value().mean().voltage("FIVE"), 5, 0.1);
}

}  // namespace
}  // namespace elkit
