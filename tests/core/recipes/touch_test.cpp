// The touch light against the engine.
#include <gtest/gtest.h>

#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::made;
using test::sweep;

TEST(TouchLight, ShinesAtATouchOrSaysThatItCannot) {
    const auto swept = sweep("touch-light", combined({{"mode", {"momentary"s, "latched"s}},
                                                      {"active", {"high"s, "low"s}},
                                                      {"drives", {"direct"s, "transistor"s}},
                                                      {"current", {0.002, 0.02}},
                                                      {"cells", {1.0, 3.0, 4.0}}}));
    EXPECT_GE(swept.met, 12);
    EXPECT_GE(swept.refused.size(), 16u) << "one cell is too little for the module, four too much";
}

TEST(TouchLight, AnOutputThatWouldBeOverloadedGetsATransistor) {
    const auto refused = made("touch-light", {{"drives", "direct"s}, {"current", 0.02}});
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().found.find("would carry"), std::string::npos) << refused.error().text();
    const Design planned = made("touch-light", {{"current", 0.02}}).value();
    EXPECT_EQ(goals_of(planned, planned.blocks[0]).text("drives"), "transistor");
    EXPECT_TRUE(test::findings(planned, "part-rating").empty());
}

TEST(TouchLight, WaitsOnAFewMicroamperes) {
    for (const char* active : {"high", "low"}) {
        const Design d =
            made("touch-light", {{"mode", "momentary"s}, {"active", std::string(active)}}).value();
        const auto run = long_run(d.circuit, known_catalogue(), lit(d.circuit, {})).value();
        EXPECT_NEAR(run.mean().supply_current(), 3e-6, 1.5e-6) << active;
    }
}

TEST(TouchLight, GivesItsOutputToAnother) {
    const Design touch = made("touch-light", {{"drives", "nothing"s}}).value();
    const auto offered = offered_nets(touch);
    ASSERT_EQ(offered.size(), 1u);
    const Recipe& recipe = *find_recipe("load-switch");
    const auto both = with_block(touch, recipe.id, planned_in(touch, recipe, {{"input", "joined"s}}),
                                 {{"IN", offered[0].net}});
    ASSERT_TRUE(both) << both.error().text();
    const Circuit& circuit = both.value().circuit;
    const std::string light = both.value().blocks[1].parts.at("L1");
    Conditions on = lit(circuit, {});
    on.switches[both.value().blocks[0].parts.at("Utouch")] = true;
    EXPECT_NEAR(long_run(circuit, known_catalogue(), on).value().mean().part(light).current, 0.006, 0.0015);
}

}  // namespace
}  // namespace elkit
