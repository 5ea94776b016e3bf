#include "light/light.hpp"

#include <gtest/gtest.h>

#include "catalogue/catalogue.hpp"
#include "light/brightness.hpp"
#include "recipes/series_resistor.hpp"
#include "recipes/steady_light.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

TEST(Brightness, FollowsCieLightness) {
    EXPECT_NEAR(perceived(1), 1, 1e-12);
    EXPECT_NEAR(perceived(0.1842), 0.5, 1e-3) << "L* 50 is reached at 18.4 % luminance";
    EXPECT_EQ(perceived(0), 0);
    for (double l = 0.01; l < 1.5; l += 0.07) EXPECT_NEAR(perceived(luminance_for(l)), l, 1e-12);
}

TEST(Resistor, FollowsTheFormulaAndBothSchools) {
    ResistorQuestion q{4.8, 3.92, 0, 0.012, Series::e24, Rounding::under, {}};
    auto under = choose_resistor(q);
    ASSERT_TRUE(under);
    EXPECT_NEAR(under.value().exact, 73.33, 0.01);
    EXPECT_DOUBLE_EQ(under.value().value, 75);
    EXPECT_LE(under.value().current, 0.012);
    q.series = Series::e12;
    q.rounding = Rounding::nearest;
    EXPECT_DOUBLE_EQ(choose_resistor(q).value().value, 68);
    EXPECT_GT(choose_resistor(q).value().current, 0.012);
    q.rounding = Rounding::under;
    EXPECT_DOUBLE_EQ(choose_resistor(q).value().value, 82);
}

TEST(Resistor, TakesOnlyWhatLiesInTheDrawer) {
    ResistorQuestion q{4.8, 3.92, 0, 0.012, Series::e24, Rounding::under, {47, 68, 100}};
    EXPECT_DOUBLE_EQ(choose_resistor(q).value().value, 100);
    q.rounding = Rounding::nearest;
    EXPECT_DOUBLE_EQ(choose_resistor(q).value().value, 68);
    q.rounding = Rounding::under;
    q.owned = {10, 22};
    EXPECT_FALSE(choose_resistor(q));
}

TEST(Resistor, RatesForTwiceThePower) {
    ResistorQuestion q{12, 2, 0, 0.05, Series::e24, Rounding::under, {}};
    const auto a = choose_resistor(q).value();
    EXPECT_NEAR(a.power, 10 * a.current, 1e-9);
    EXPECT_GE(a.rating, 2 * a.power);
    EXPECT_DOUBLE_EQ(a.rating, 1);
}

TEST(Resistor, SaysWhyThereIsNone) {
    const auto none = choose_resistor({3, 4, 0, 0.01, Series::e24, Rounding::under, {}});
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().fault, Fault::design);
    EXPECT_EQ(choose_resistor({5, 2, 0, 0, Series::e24, Rounding::under, {}}).error().fault, Fault::usage);
}

TEST(Strings, AreFoundHoweverTheyWereMade) {
    const Design lantern = test::pier_lantern();
    const auto strings = led_strings(lantern.circuit);
    ASSERT_EQ(strings.size(), 2u);
    EXPECT_EQ(strings[0].leds.size(), 2u);
    EXPECT_EQ(strings[0].resistor->designator, "R1");
    LightGoals shared = *lantern.light;
    shared.one_resistor = true;
    const auto joined = apply_steady_light(lantern, shared).value();
    for (const auto& s : led_strings(joined.circuit)) {
        EXPECT_EQ(s.resistor, nullptr);
        ASSERT_NE(s.shared, nullptr);
        EXPECT_EQ(s.shared->designator, "R1");
    }
}

TEST(Recipe, MeetsItsTargetWithoutGoingOver) {
    for (const char* cell : {"LR6", "LR03", "NiMH-AA"})
        for (const char* led : {"red-5mm", "amber-5mm"})
            for (const double current : {0.002, 0.008, 0.015}) {
                LightGoals goals;
                goals.cell = cell, goals.led = led, goals.current = current, goals.per_string = 1,
                goals.count = 3;
                const auto design = apply_steady_light({}, goals);
                ASSERT_TRUE(design) << design.error().text();
                const double fresh = test::solve(design.value().circuit).part("L1").current;
                EXPECT_LE(fresh, current * 1.0005) << cell << led << current;
                EXPECT_GT(fresh, current * 0.88) << cell << led << current;
            }
}

TEST(Recipe, SplitsTheRemainderIntoItsOwnString) {
    LightGoals goals;
    goals.count = 5, goals.per_string = 2;
    EXPECT_EQ(string_lengths(goals), (std::vector<int>{2, 2, 1}));
    const Design d = apply_steady_light({}, goals).value();
    EXPECT_GT(d.circuit.find("R3")->number("value"), d.circuit.find("R1")->number("value"))
        << "one LED leaves more for the resistor";
    EXPECT_EQ(led_strings(d.circuit).size(), 3u);
}

TEST(Recipe, KeepsWhatTheUserSaidAboutAPart) {
    Design d = test::pier_lantern();
    d.circuit.find("B1")->params["lead_length"] = 0.5;
    d.circuit.find("R1")->params["tolerance"] = 0.01;
    d.circuit.find("L1")->params["points"] = PointList{{0.01, 2.0}};
    LightGoals goals = *d.light;
    goals.current = 0.008;
    const Design again = apply_steady_light(d, goals).value();
    EXPECT_EQ(again.circuit.find("B1")->number("lead_length"), 0.5);
    EXPECT_EQ(again.circuit.find("R1")->number("tolerance"), 0.01);
    EXPECT_NE(again.circuit.find("L1")->points("points"), nullptr);
    goals.led = "red-5mm";
    EXPECT_EQ(apply_steady_light(d, goals).value().circuit.find("L1")->points("points"), nullptr)
        << "another LED has another curve";
}

TEST(Recipe, ThatCannotBeMetLeavesTheDesignAlone) {
    const Design d = test::pier_lantern();
    LightGoals goals = *d.light;
    goals.per_string = 4;
    const auto none = apply_steady_light(d, goals);
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().expected.find("fewer LEDs"), std::string::npos);
}

TEST(Light, OrdersItsBinsAndCharges) {
    const auto light = analyse_light(test::pier_lantern(), {});
    ASSERT_TRUE(light);
    const auto& bins = light.value().bins;
    for (int b = 0; b < 3; ++b)
        for (int c = 1; c < 3; ++c)
            EXPECT_LT(bins[static_cast<std::size_t>(b)][static_cast<std::size_t>(c)].value,
                      bins[static_cast<std::size_t>(b)][static_cast<std::size_t>(c - 1)].value);
    for (int c = 0; c < 3; ++c) {
        EXPECT_GT(bins[0][static_cast<std::size_t>(c)].value, bins[1][static_cast<std::size_t>(c)].value)
            << "low forward voltage, more current";
        EXPECT_GT(bins[1][static_cast<std::size_t>(c)].value, bins[2][static_cast<std::size_t>(c)].value);
    }
}

TEST(Light, GivesEveryFigureItsWorkingAndSpread) {
    const auto light = analyse_light(test::pier_lantern(), {0.62, 21, {}}, {62, 82});
    ASSERT_TRUE(light);
    ASSERT_EQ(light.value().strings.size(), 2u);
    const StringResult& s = light.value().strings[0];
    for (const Figure* f : {&s.current, &s.fresh_current, &s.resistance, &s.resistor_power,
                            &light.value().total, &light.value().brightness})
        EXPECT_FALSE(f->working.empty()) << f->id;
    EXPECT_LT(*s.current.low, s.current.value);
    EXPECT_GT(*s.current.high, s.current.value);
    EXPECT_NEAR(light.value().total.value, 2 * s.current.value, 1e-9);
    EXPECT_LT(light.value().brightness.value, 100);
    ASSERT_EQ(light.value().options.size(), 3u);
    int chosen = 0;
    for (const auto& o : light.value().options) {
        chosen += o.chosen;
        EXPECT_FALSE(o.resistance.working.empty()) << o.label;
        EXPECT_FALSE(o.current.working.empty()) << o.label;
    }
    for (const auto& row : light.value().bins)
        for (const Figure& f : row) EXPECT_GE(f.working.size(), 2u) << f.label;
    EXPECT_EQ(chosen, 1);
}

TEST(Light, UsesMeasuredPointsInPlaceOfTheCatalogue) {
    Design d = test::pier_lantern();
    const double before = test::solve(d.circuit).part("L1").current;
    for (const char* l : {"L1", "L2"}) d.circuit.find(l)->params["points"] = PointList{{0.012, 1.90}};
    const auto op = test::solve(d.circuit);
    EXPECT_GT(op.part("L1").current, before * 1.2);
    EXPECT_LT(op.part("L3").current, before * 1.05);
}

}  // namespace
}  // namespace elkit
