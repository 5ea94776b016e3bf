#include "review/survey.hpp"

#include <gtest/gtest.h>

#include <thread>

#include "recipes/steady_light.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

TEST(Survey, EveryStationTellsTheSameStory) {
    const Design d = test::pier_lantern();
    const LiveSurvey live = live_survey(d, {}, stave_layout(d.circuit), {});
    const DeepSurvey deep = deep_survey(d, {}, demo_stock());
    ASSERT_FALSE(live.error);
    ASSERT_TRUE(deep.power && deep.layout);
    // the discharge starts where the light stands, the leaflet's reading lies around the operating point
    EXPECT_NEAR(deep.power->typical.samples.front().amps, live.light.total.value, 1e-9);
    EXPECT_NEAR(live.light.total.value, live.op.supply_current(), 1e-12);
    for (const auto& step : deep.steps)
        if (step.id == "amps.supply") {
            EXPECT_GT(live.op.supply_current(), *step.check->expected->low);
            EXPECT_LT(live.op.supply_current(), *step.check->expected->high);
        }
    EXPECT_TRUE(deep.layout_differences.empty());
    double leds = 0;
    for (const auto& line : deep.parts.lines)
        if (line.key.starts_with("led/")) leds += line.per_kit.value;
    EXPECT_EQ(leds, 4);
}

TEST(Survey, IsReentrant) {
    const Design a = test::pier_lantern(), b = test::coat_badge();
    const DeepSurvey alone = deep_survey(a, {}, demo_stock());
    DeepSurvey first, second;
    std::thread one([&] { first = deep_survey(a, {}, demo_stock()); });
    std::thread two([&] { second = deep_survey(b, {}, demo_stock()); });
    one.join();
    two.join();
    EXPECT_EQ(first.power->run_time.value, alone.power->run_time.value);
    EXPECT_EQ(first.layout->placements, alone.layout->placements);
    EXPECT_NE(second.power->run_time.value, alone.power->run_time.value);
}

TEST(Survey, StopsWhenItIsCancelled) {
    int asked = 0;
    double last = -1;
    const DeepSurvey deep =
        deep_survey(test::pier_lantern(), {}, demo_stock(), [&](std::string_view stage, double fraction) {
            EXPECT_FALSE(stage.empty());
            EXPECT_GE(fraction, last);
            last = fraction;
            return ++asked <= 3;
        });
    EXPECT_TRUE(deep.power.has_value());
    EXPECT_FALSE(deep.complete);
    EXPECT_EQ(asked, 4) << "nothing asks again after a stop";
    EXPECT_TRUE(deep.supplies.empty()) << "what came after the cancellation was left out";
}

TEST(Survey, SaysWhyThereIsNothing) {
    Design d = test::pier_lantern();
    d.circuit.parts.clear();
    const LiveSurvey live = live_survey(d, {}, stave_layout(d.circuit), {});
    ASSERT_TRUE(live.error);
    EXPECT_EQ(live.error->place, "circuit");
    const DeepSurvey deep = deep_survey(d, {}, demo_stock());
    EXPECT_TRUE(deep.error && deep.layout_error);
}

class Temperatures : public ::testing::TestWithParam<double> {};

TEST_P(Temperatures, AllStationsComputeFromFrostToHeat) {
    const Conditions c{0.7, GetParam(), {}};
    for (const Design& d : {test::pier_lantern(), test::coat_badge()}) {
        const LiveSurvey live = live_survey(d, c, stave_layout(d.circuit), {});
        ASSERT_FALSE(live.error) << d.name << ": " << live.error->text();
        EXPECT_GT(live.light.total.value, 0);
        const auto power = analyse_power(d, c);
        ASSERT_TRUE(power) << d.name;
        EXPECT_GT(power.value().run_time.value, 0);
        EXPECT_LE(*power.value().run_time.low, *power.value().run_time.high);
    }
}

INSTANTIATE_TEST_SUITE_P(Degrees, Temperatures, ::testing::Values(-20, -5, 0, 10, 21, 35, 60));

/// Whatever goals a person sets, the result is a working circuit or an error that says why not.
struct Goals {
    const char *cell, *led;
    int cells, count, per_string;
    double current;
};
class AnyGoals : public ::testing::TestWithParam<Goals> {};

TEST_P(AnyGoals, GiveAWorkingCircuitOrAReason) {
    const Goals& p = GetParam();
    LightGoals g;
    g.cell = p.cell, g.led = p.led, g.cells = p.cells, g.count = p.count, g.per_string = p.per_string,
    g.current = p.current;
    const auto design = apply_steady_light({}, g);
    if (!design) {
        EXPECT_FALSE(design.error().found.empty() || design.error().expected.empty());
        return;
    }
    const auto light = analyse_light(design.value(), {});
    ASSERT_TRUE(light) << light.error().text();
    for (const auto& s : light.value().strings) {
        EXPECT_LE(s.fresh_current.value, p.current * 1.001);
        EXPECT_LE(*s.fresh_current.low, s.fresh_current.value);
        EXPECT_GE(*s.fresh_current.high, s.fresh_current.value);
        EXPECT_FALSE(s.resistance.working.empty());
    }
    int leds = 0;
    for (const Part& part : design.value().circuit.parts) leds += part.kind == "led";
    EXPECT_EQ(leds, p.count);
}

INSTANTIATE_TEST_SUITE_P(
    Wishes, AnyGoals,
    ::testing::Values(Goals{"LR6", "red-5mm", 2, 1, 1, 0.005}, Goals{"LR6", "white-5mm", 2, 1, 1, 0.005},
                      Goals{"LR6", "white-5mm", 4, 6, 1, 0.02}, Goals{"6LR61", "blue-5mm", 1, 5, 2, 0.01},
                      Goals{"6LR61", "red-3mm", 1, 8, 4, 0.008}, Goals{"CR2032", "red-3mm", 1, 1, 1, 0.001},
                      Goals{"CR2032", "blue-5mm", 1, 2, 2, 0.001},
                      Goals{"Li-ion-1S", "green-5mm", 1, 3, 1, 0.015},
                      Goals{"Lead-12V", "white-5mm", 1, 30, 3, 0.02},
                      Goals{"USB", "violet-5mm", 1, 2, 1, 0.01},
                      Goals{"NiMH-AA", "amber-5mm", 4, 7, 2, 0.012}, Goals{"LR44", "red-5mm", 3, 1, 1, 0.002},
                      Goals{"LR03", "yellow-green-5mm", 3, 2, 1, 0.0005}));

}  // namespace
}  // namespace elkit
