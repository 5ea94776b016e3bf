// A timer and a controller that do the same, side by side.
#include "kit/timer_or_controller.hpp"

#include <gtest/gtest.h>

#include <cmath>

#include "circuit/part_kind.hpp"
#include "recipes/blocks.hpp"
#include "recipes/measured.hpp"
#include "support/designs.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::made;

std::vector<MadeBy> ways(const Design& d) {
    Store store;
    const auto all = Ask(store)(MadeByQuery(d, 0, std::vector<DrawerItem>{}));
    EXPECT_TRUE(all) << (all ? "" : all.error().text());
    return all ? *all : std::vector<MadeBy>{};
}

const MadeBy& named(const std::vector<MadeBy>& all, const std::string& part) {
    for (const MadeBy& way : all)
        if (way.name.find(part) != std::string::npos) return way;
    ADD_FAILURE() << part;
    return all.front();
}

TEST(TimerOrController, BlinksByEitherWithTheNumbersOfEach) {
    const auto all =
        ways(made("timer-flasher", {{"rate", 1.5}, {"share", 50.0}, {"current", 0.008}}).value());
    ASSERT_EQ(all.size(), 3u);
    const MadeBy &cmos = named(all, "CMOS"), &bipolar = named(all, "bipolar"),
                 &controller = named(all, "8 pins");
    EXPECT_TRUE(cmos.present);
    EXPECT_TRUE(controller.programmed);
    EXPECT_FALSE(cmos.programmed);
    for (const MadeBy* way : {&cmos, &controller}) {
        ASSERT_EQ(way->reason, "") << way->name;
        EXPECT_NEAR(way->pace.value, 1.5, 0.15) << way->name;
        EXPECT_NEAR(way->lit.value, 0.004 + (way->programmed ? 0.0045 : 0), 0.002) << way->name;
        EXPECT_GT(way->area.value, 100) << way->name;
        EXPECT_GT(way->lasts.value, 50) << way->name;
    }
    // its clock is within 3 %, a capacitor is not
    EXPECT_NEAR(*controller.pace.high / *controller.pace.low, 1.03 / 0.97, 5e-3);
    EXPECT_GT(*cmos.pace.high / *cmos.pace.low, 1.2);
    EXPECT_LT(controller.parts.value, cmos.parts.value) << "no resistors and capacitor that time it";
    EXPECT_LT(controller.lasts.value, cmos.lasts.value) << "awake it takes 4.5 mA itself";
    ASSERT_EQ(bipolar.reason, "");
    EXPECT_GT(bipolar.lit.value, cmos.lit.value + 0.002) << "it takes some milliamperes itself";
}

TEST(TimerOrController, ShinesForATimeByEither) {
    const auto all =
        ways(made("pattern-lights", {{"effect", "on"s}, {"begins", "press"s}, {"lasts", 5.0}}).value());
    const MadeBy &cmos = named(all, "CMOS"), &controller = named(all, "8 pins");
    EXPECT_TRUE(controller.present);
    ASSERT_EQ(cmos.reason, "");
    EXPECT_NEAR(cmos.pace.value, 5, 0.7);
    EXPECT_NEAR(controller.pace.value, 5, 0.05);
    EXPECT_LT(controller.waits.value, 2e-6) << "it sleeps";
    EXPECT_GT(cmos.waits.value, 20e-6);
    EXPECT_EQ(controller.lasts.value, 10) << "no longer than cells keep";
    EXPECT_NEAR(cmos.lasts.value, 1 / (0.03 + cmos.waits.value * 8766 / 2.7), 0.5);
}

TEST(TimerOrController, SaysWhatCannotBe) {
    const auto in_rows =
        ways(made("timer-flasher", {{"count", 4.0}, {"per_string", 2.0}, {"cells", 4.0}}).value());
    EXPECT_NE(named(in_rows, "8 pins").reason, "") << "its lights have a pin each";
    EXPECT_EQ(named(in_rows, "CMOS").reason, "");
    const auto fast = ways(made("timer-flasher", {{"rate", 2000.0}}).value());
    EXPECT_NE(named(fast, "8 pins").reason, "") << "its table goes by hundredths of a second";
    for (const auto& [recipe, said] : {std::pair("timer-dimmer", test::Said{}),
                                       {"pattern-lights", {{"effect", "breathe"s}}},
                                       {"steady-light", {}}})
        EXPECT_FALSE(both_can(made(recipe, said).value(), 0)) << recipe;
    EXPECT_FALSE(both_can({}, 0));
}

TEST(TimerOrController, TakesThePlaceOfTheOtherOnTheSameCells) {
    const Design d =
        made("timer-flasher", {{"rate", 2.0}, {"cell", "LR03"s}, {"cells", 2.0}, {"led", "red-5mm"s}})
            .value();
    const auto all = ways(d);
    const auto next = made_by(d, 0, named(all, "8 pins"));
    ASSERT_TRUE(next) << next.error().text();
    ASSERT_EQ(next.value().blocks.size(), 1u);
    EXPECT_EQ(next.value().blocks[0].recipe, "pattern-lights");
    EXPECT_EQ(next.value().circuit.source()->text("cell"), "LR03");
    EXPECT_EQ(next.value().circuit.source()->number("count"), 2);
    test::expect_met(next.value(), "by a controller");
    const auto back = made_by(next.value(), 0, named(ways(next.value()), "CMOS"));
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(goals_of(back.value(), back.value().blocks[0]).number("rate"), 2);
}

TEST(TimerOrController, LeavesABlockThatOthersHangOn) {
    const Design d = made("timer-flasher", {{"drives", "output"s}}).value();
    const Recipe& other = *find_recipe("load-switch");
    auto hung = with_block(d, other.id, planned_in(d, other, {{"input", "joined"s}}), {{"IN", "OUT"}});
    ASSERT_TRUE(hung) << hung.error().text();
    const auto refused = made_by(hung.value(), 0, ways(d).back());
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().place, "/blocks/1");
}

TEST(TimerOrController, ComparesEveryDemoThatItCan) {
    int compared = 0;
    for (const char* id : {"harbour-beacon", "twin-blinker", "compost-pulse", "page-lamp", "moth-jar"}) {
        const Design d = test::demo(id);
        for (std::size_t k = 0; k < d.blocks.size(); ++k) {
            if (!both_can(d, k)) continue;
            ++compared;
            for (const MadeBy& way : ways(d)) EXPECT_TRUE(!way.reason.empty() || way.parts.value > 2) << id;
        }
    }
    EXPECT_GE(compared, 1);
}

}  // namespace
}  // namespace elkit
