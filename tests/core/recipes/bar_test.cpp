// The battery bar against the engine.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"
#include "engine/models.hpp"
#include "light/strings.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::expect_met;
using test::made;
using test::Said;
using test::sweep;
using test::told;

TEST(BatteryBar, ComesOnWhereItSaysOrSaysThatItCannot) {
    const auto swept = sweep("battery-bar", combined({{"cells", {2.0, 4.0, 12.0, 30.0}},
                                                      {"steps", {3.0, 6.0}},
                                                      {"ladder", {"e96"s, "e24"s}},
                                                      {"colours", {"graded"s, "one"s}}}));
    EXPECT_GT(swept.met, 12);
    EXPECT_GT(swept.refused.size(), 4u) << "two cells light no green LED, thirty are more than a chip bears";
    EXPECT_EQ(sweep("battery-bar", combined({{"show", {"press"s, "always"s}}, {"steps", {2.0, 8.0}}})).met,
              4);
    const auto cells =
        sweep("battery-bar", combined({{"cell", {"LR6"s, "NiMH-AA"s, "Li-ion-1S"s, "6LR61"s}}}));
    EXPECT_GE(cells.met, 2);
}

TEST(BatteryBar, ByAChipOrAsADotComesOnWhereItSays) {
    const auto swept = sweep("battery-bar", combined({{"by", {"driver"s, "comparators"s}},
                                                      {"shape", {"bar"s, "dot"s}},
                                                      {"cells", {3.0, 6.0, 14.0}},
                                                      {"steps", {2.0, 10.0}}}));
    EXPECT_GT(swept.met, 12);
    EXPECT_GE(swept.refused.size(), 4u) << "a dot by comparators from six cells; 14 cells at a chip";
}

TEST(BatteryBar, AsADotHasOneLightAtATime) {
    for (const Said& said :
         {Said{{"by", "driver"s}, {"cells", 4.0}}, Said{{"by", "comparators"s}, {"cells", 3.0}}}) {
        Said goals = said;
        goals["shape"] = "dot"s, goals["show"] = "always"s;
        const Design d = made("battery-bar", goals).value();
        int before = 4;
        std::set<int> seen;
        for (double charge = 1.0; charge > 0.02; charge -= 0.07) {
            Conditions at = lit(d.circuit, {});
            at.battery = charge;
            const auto run = long_run(d.circuit, known_catalogue(), at).value();
            int on = 0, which = 0;
            for (int k = 1; k <= 4; ++k)
                if (run.mean().part(d.blocks[0].parts.at("L" + std::to_string(k))).current > 3e-4)
                    ++on, which = k;
            EXPECT_LE(on, 1) << told(goals) << charge;
            EXPECT_LE(which, before) << told(goals) << charge;
            before = which, seen.insert(which);
        }
        EXPECT_EQ(seen, (std::set<int>{0, 1, 2, 3, 4})) << told(goals);
    }
}

TEST(BatteryBar, ByAChipGivesAllLightsOneCurrent) {
    const Design d =
        made("battery-bar", {{"by", "driver"s}, {"show", "always"s}, {"current", 0.006}}).value();
    const auto run = long_run(d.circuit, known_catalogue(), lit(d.circuit, {})).value();
    for (int k = 1; k <= 4; ++k)
        EXPECT_NEAR(run.mean().part(d.blocks[0].parts.at("L" + std::to_string(k))).current, 0.006, 0.0006);
}

TEST(BatteryBar, PlannedAsADotOfManyCellsTakesTheChipAndLightsThatLookAlike) {
    const Design d = made("battery-bar", {{"shape", "dot"s}}).value();
    EXPECT_EQ(std::get<std::string>(d.blocks[0].goals.at("by")), "driver");
    EXPECT_EQ(std::get<std::string>(d.blocks[0].goals.at("colours")), "one") << "chosen anew for the chip";
}

TEST(BatteryBar, ShowsByTheEngineHowManyAreOnAtEachCharge) {
    const Design d = made("battery-bar", {{"show", "always"s}}).value();
    int before = 5;
    for (const double charge : {1.0, 0.7, 0.45, 0.25, 0.05}) {
        Conditions at = lit(d.circuit, {});
        at.battery = charge;
        const auto run = long_run(d.circuit, known_catalogue(), at).value();
        int on = 0;
        for (int k = 1; k <= 4; ++k)
            on += run.mean().part(d.blocks[0].parts.at("L" + std::to_string(k))).current > 5e-4;
        EXPECT_LE(on, before) << charge;
        before = on;
        if (charge == 1.0) {
            EXPECT_EQ(on, 4);
        }
    }
    EXPECT_EQ(before, 0) << "nearly empty";
}

TEST(BatteryBar, LadderIsThatOfTheClosedForm) {
    const Design d = made("battery-bar", {{"empty", 4.4}, {"full", 5.6}}).value();
    const auto ohms = [&](int k) {
        return d.circuit.find(d.blocks[0].parts.at("Rstep" + std::to_string(k)))->number("value");
    };
    double all = 0;
    for (int k = 1; k <= 5; ++k) all += ohms(k);
    // by hand: at its threshold each tap has the reference, 3.2 to 3.3 V of the Zener at 1 mA
    for (int k = 1; k <= 4; ++k) {
        double under = 0;
        for (int j = k + 1; j <= 5; ++j) under += ohms(j);
        EXPECT_NEAR(under / all * (4.4 + 0.4 * (k - 1)), 3.2, 0.1) << k;
    }
}

TEST(BatteryBar, ColoursLookAlikeBright) {
    const Design d = made("battery-bar", {{"show", "always"s}, {"steps", 4.0}}).value();
    Conditions at = lit(d.circuit, {});
    at.battery = 0.9;
    const auto run = long_run(d.circuit, known_catalogue(), at).value();
    std::vector<double> candelas;
    for (int k = 1; k <= 4; ++k) {
        const Part& led = *d.circuit.find(d.blocks[0].parts.at("L" + std::to_string(k)));
        const LedType& type = *known_catalogue().led(led.text("type"));
        candelas.push_back(run.mean().part(led.designator).current * type.intensity / type.test_current);
    }
    const auto [least, most] = std::minmax_element(candelas.begin(), candelas.end());
    EXPECT_GT(*least, 0.7 * *most);
}

TEST(BatteryBar, TakesNothingWhileNobodyPresses) {
    const Design d = made("battery-bar", {}).value();
    EXPECT_LT(long_run(d.circuit, known_catalogue(), lit(d.circuit, {})).value().mean().supply_current(),
              1e-6);
}

TEST(BatteryBar, OfDrawerValuesOnlyUsesThose) {
    Environment drawer;
    drawer.owned = {470, 820, 1000, 2700, 1500, 2200, 3300, 4700, 10e3, 12e3, 22e3, 100e3, 120e3};
    const auto d = made("battery-bar", {{"by", "comparators"s}}, drawer);
    ASSERT_TRUE(d) << d.error().text();
    for (const Part& part : d.value().circuit.parts)
        if (part.kind == "resistor" && part.designator != d.value().blocks[0].parts.at("Rref")) {
            EXPECT_EQ(std::count(drawer.owned.begin(), drawer.owned.end(), part.number("value")), 1)
                << part.designator;
        }
}

}  // namespace
}  // namespace elkit
