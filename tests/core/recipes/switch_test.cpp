// Transistor and relay switches, against the engine.
#include <gtest/gtest.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::expect_met;
using test::made;
using test::Said;
using test::sweep;

TEST(LoadSwitch, SwitchesEveryLoadOnEitherSideOrSaysThatItCannot) {
    const auto swept = sweep("load-switch", combined({{"load", {"lights"s, "strip"s, "motor"s, "buzzer"s}},
                                                      {"side", {"minus"s, "plus"s}},
                                                      {"by", {"mosfet"s, "bipolar"s}},
                                                      {"cells", {1.0, 2.0, 3.0, 8.0}}}));
    EXPECT_GT(swept.met, 16);
    EXPECT_GT(swept.refused.size(), 8u) << "one cell opens no MOSFET, eight burn a motor";
    const auto bright = sweep("load-switch", combined({{"count", {1.0, 12.0}},
                                                       {"per_string", {1.0}},
                                                       {"current", {0.001, 0.02}},
                                                       {"by", {"mosfet"s, "bipolar"s}},
                                                       {"side", {"minus"s, "plus"s}}}));
    EXPECT_GT(bright.met, 10);
}

TEST(LoadSwitch, BaseResistorIsThatOfTheClosedForm) {
    const Design d = made("load-switch", {{"load", "buzzer"s}, {"by", "bipolar"s}}).value();
    // by hand: 4.8 V over 200 Ω is 24 mA; a twentieth of it from three quarters of 4.8 V less 0.75 V
    const double exact = (0.75 * 4.8 - 0.75) / (4.8 / 200 / 20);
    EXPECT_NEAR(d.circuit.find(d.blocks[0].parts.at("Rbase"))->number("value"), exact, 0.05 * exact);
}

TEST(LoadSwitch, OfACoilHasItsDiode) {
    for (const char* side : {"minus", "plus"}) {
        const Design d = made("load-switch", {{"load", "motor"s}, {"side", std::string(side)}}).value();
        const Part& diode = *d.circuit.find(d.blocks[0].parts.at("Dcoil"));
        const Part& motor = *d.circuit.find(d.blocks[0].parts.at("M1"));
        EXPECT_EQ(diode.net("k"), motor.net("+"));
        EXPECT_EQ(diode.net("a"), motor.net("-"));
        EXPECT_TRUE(test::findings(d, "coil-diode").empty());
        EXPECT_TRUE(test::findings(d, "gate-floats").empty());
    }
}

TEST(LoadSwitch, IsDrivenByAFlasher) {
    for (const char* side : {"minus", "plus"})
        for (const char* by : {"mosfet", "bipolar"}) {
            const Design flasher = made("timer-flasher", {{"drives", "nothing"s}, {"rate", 2.0}}).value();
            const auto offered = offered_nets(flasher);
            ASSERT_EQ(offered.size(), 1u);
            const Recipe& recipe = *find_recipe("load-switch");
            const Goals goals =
                planned_in(flasher, recipe,
                           {{"side", std::string(side)}, {"by", std::string(by)}, {"input", "joined"s}});
            const auto both = with_block(flasher, recipe.id, goals, {{"IN", offered[0].net}});
            ASSERT_TRUE(both) << both.error().text();
            const auto run = long_run(both.value().circuit, known_catalogue(), lit(both.value().circuit, {}));
            ASSERT_TRUE(run && run.value().moves()) << side << by;
            const std::string light = both.value().blocks[1].parts.at("L1");
            EXPECT_NEAR(1 / run.value().steady().period, 2, 0.5) << side << by;
            EXPECT_NEAR(run.value().while_on(both.value().circuit, light).part(light).current, 0.006, 0.0015);
        }
}

TEST(LoadSwitch, MosfetThatIsNotFullyOnIsRefusedWithTheReason) {
    const auto refused = made("load-switch", {{"cells", 1.0}, {"load", "motor"s}, {"by", "mosfet"s}});
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().found.find("fully on"), std::string::npos) << refused.error().text();
    const Design flasher = made("timer-flasher", {{"drives", "nothing"s}}).value();
    const Recipe& recipe = *find_recipe("load-switch");
    Goals goals = planned_in(flasher, recipe, {{"input", "joined"s}});
    goals.values["by"] = "bipolar"s, goals.values["count"] = 12.0, goals.values["per_string"] = 1.0,
    goals.values["current"] = 0.02;
    const auto greedy = with_block(flasher, recipe.id, goals, {{"IN", offered_nets(flasher)[0].net}});
    ASSERT_FALSE(greedy);
    EXPECT_NE(greedy.error().found.find("base would take"), std::string::npos) << greedy.error().text();
}

TEST(RelaySwitch, DoesWithoutPowerWhatWasAskedFor) {
    const auto swept =
        sweep("relay-switch", combined({{"relay", {"bare"s, "module"s}}, {"idle", {"off"s, "on"s}}}));
    EXPECT_EQ(swept.met, 4);
    for (const char* relay : {"bare", "module"}) {
        const Design d = made("relay-switch", {{"relay", std::string(relay)}, {"idle", "on"s}}).value();
        const Part& k = *d.circuit.find(d.blocks[0].parts.at("Krelay"));
        EXPECT_TRUE(k.net("no").empty());
        EXPECT_FALSE(k.net("nc").empty());
        EXPECT_TRUE(test::findings(d, "coil-held").empty());
    }
    const auto weak = made("relay-switch", {{"relay", "bare"s}, {"cells", 2.0}});
    ASSERT_FALSE(weak);
    EXPECT_NE(weak.error().found.find("pulls in"), std::string::npos);
}

}  // namespace
}  // namespace elkit
