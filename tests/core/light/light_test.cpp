#include "light/light.hpp"

#include <gtest/gtest.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "light/brightness.hpp"
#include "recipes/series_resistor.hpp"
#include "recipes/variants.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

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

TEST(Resistor, WorksWithWhatSwitchAndDiodeLeave) {
    const auto a = choose_resistor({9, 2, 0.7, 0.01, Series::e24, Rounding::under, {}}).value();
    EXPECT_NEAR(a.headroom, 6.3, 1e-12);
    EXPECT_NEAR(a.exact, 630, 1e-9);
    EXPECT_DOUBLE_EQ(a.value, 680);
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
    const Design joined = test::with_goals(lantern, {{"limiter", std::string("shared")}});
    for (const auto& s : led_strings(joined.circuit)) {
        EXPECT_EQ(s.resistor, nullptr);
        ASSERT_NE(s.shared, nullptr);
        EXPECT_EQ(s.shared->designator, "R1");
    }
}

TEST(Light, OrdersItsBinsAndCharges) {
    const auto all = test::ask(BinsQuery(test::pier_lantern().circuit, {}));
    ASSERT_TRUE(all);
    const auto& bins = all.value();
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
    const auto light = test::ask(LightQuery(test::pier_lantern().circuit, {0.62, 21, {}}));
    ASSERT_TRUE(light);
    ASSERT_EQ(light.value().strings.size(), 2u);
    const StringResult& s = light.value().strings[0];
    for (const Figure* f : {&s.current, &s.fresh_current, &s.resistance, &s.resistor_power,
                            &light.value().total, &light.value().brightness})
        EXPECT_FALSE(f->working.empty()) << f->id;
    EXPECT_LT(*s.current.low, s.current.value);
    EXPECT_GT(*s.current.high, s.current.value);
    EXPECT_NEAR(light.value().total.value, 2 * s.current.value, 1e-9);
    // the eye's curve by hand: L* = 116 ∛(Y/Yn) − 16, light in proportion to current
    const double ratio = s.current.value / s.fresh_current.value;
    EXPECT_NEAR(light.value().brightness.value, 116 * std::cbrt(ratio) - 16, 1e-6);
    const auto bins = test::ask(BinsQuery(test::pier_lantern().circuit, {}));
    ASSERT_TRUE(bins);
    for (const auto& row : bins.value())
        for (const Figure& f : row) EXPECT_GE(f.working.size(), 2u) << f.label;
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
