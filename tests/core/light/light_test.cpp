#include "light/light.hpp"

#include <gtest/gtest.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "quantity/brightness.hpp"
#include "recipes/series_resistor.hpp"
#include "recipes/variants.hpp"
#include "support/circuits.hpp"
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

TEST(Light, OfAPulsedOneIsToldWhileItIsOnAndOnAverage) {
    const Keyed<Circuit> pulsed(test::circuit(
        {"battery B1 +=V -=0 cell=LR6 count=4", "timer U1 gnd=0 trig=T out=G thr=T disch=D vcc=V reset=V",
         "resistor R1 a=V b=D value=47000", "resistor R2 a=D b=T value=47000",
         "capacitor C1 a=T b=0 value=1e-8", "nmos Q1 g=G d=K s=0", "resistor R3 a=V b=A value=220",
         "led L1 a=A k=K"}));
    const auto light = test::ask(LightQuery(pulsed, Conditions{}));
    ASSERT_TRUE(light) << light.error().text();
    Circuit lit = *pulsed;
    for (const char* part : {"U1", "R1", "R2", "C1"}) lit = delete_part(lit, part).value();
    lit.parts.push_back({"R9", "resistor", {{"value", 1.0}}, {{"a", "V"}, {"b", "G"}}, {}});
    const auto steady = test::ask(LightQuery(Keyed<Circuit>(lit), Conditions{}));
    ASSERT_TRUE(steady) << steady.error().text();
    const double on = steady.value().strings[0].current.value;
    EXPECT_NEAR(light.value().strings[0].current.value, on, 0.02 * on);
    EXPECT_NEAR(light.value().total.value, on * 2 / 3, 0.1 * on) << "two thirds of a cycle";
    EXPECT_NEAR(light.value().strings[0].resistor_power.value, 220 * on * on * 2 / 3, 0.02 * 220 * on * on);
    const auto bins = test::ask(BinsQuery(pulsed, Conditions{}));
    ASSERT_TRUE(bins);
    EXPECT_NEAR(bins.value()[1][0].value, on, 0.02 * on);
}

TEST(Light, TellsTheFluxWithinTheViewingAngle) {
    EXPECT_NEAR(flux(30, 120), 94.2, 0.1) << "a wide power LED: 30 cd over 120° are some 94 lm";
    Design d = test::pier_lantern();
    d.circuit.find("L1")->params["viewing_angle"] = 60.0;
    const auto light = test::ask(LightQuery(d.circuit, {}));
    ASSERT_TRUE(light);
    EXPECT_NE(light.value().strings[0].current.working.back().find("within its 60°"), std::string::npos)
        << light.value().strings[0].current.working.back();
}

TEST(Light, TellsEachColourOfAnRgbLed) {
    const Circuit c = test::circuit({"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=R value=150",
                                     "resistor R2 a=V b=G value=100", "resistor R3 a=V b=B value=100"});
    Circuit with = c;
    with.parts.push_back({"L1", "rgb", {}, {{"r", "R"}, {"g", "G"}, {"b", "B"}, {"common", "0"}}, {}});
    const auto light = test::ask(LightQuery(with, {}));
    ASSERT_TRUE(light) << light.error().text();
    ASSERT_EQ(light.value().inside.size(), 3u);
    double sum = 0;
    for (const Figure& f : light.value().inside) {
        EXPECT_GT(f.value, 0.005) << f.label;
        EXPECT_LT(*f.low, *f.high) << f.label;
        sum += f.value;
    }
    EXPECT_NEAR(sum, light.value().total.value, 1e-6) << "all of it flows through the three colours";
}

TEST(Light, UsesMeasuredPointsInPlaceOfTheCatalogue) {
    Design d = test::pier_lantern();
    const double before = test::solve(d.circuit).part("L1").current;
    for (const char* l : {"L1", "L2"}) d.circuit.find(l)->params["points"] = PointList{{0.012, 1.90}};
    const auto op = test::solve(d.circuit);
    EXPECT_GT(op.part("L1").current, before * 1.2);
    EXPECT_LT(op.part("L3").current, before * 1.05);
}

TEST(Light, ComesFromModulesStripsAndDiesInARow) {
    const auto light = [](const Circuit& c) {
        return total_intensity(c, known_catalogue(), operating_point(c, known_catalogue(), {}).value());
    };
    const char* const supply = "supply PS1 +=V -=0 voltage=5 resistance=0.001 lead_length=0";
    EXPECT_NEAR(light(test::circuit({supply, "light_matrix M1 vcc=V gnd=0"})), 20, 0.2)
        << "as its entry says, at its current while on";
    const char* const twelve = "supply PS1 +=V -=0 voltage=12 resistance=0.001 lead_length=0";
    const double one = light(test::circuit({twelve, "strip LS1 +=V -=0 length=0.05 track=0"})),
                 two = light(test::circuit({twelve, "strip LS1 +=V -=0 length=0.05 chains=2 track=0"}));
    EXPECT_NEAR(two / one, 2, 0.01) << "two chains side by side";
    const double single = light(test::circuit({twelve, "resistor R1 a=V b=A value=1000", "led L1 a=A k=0"})),
                 three = light(
                     test::circuit({twelve, "resistor R1 a=V b=A value=1000", "led L1 a=A k=0 dies=3"}));
    EXPECT_NEAR(three / single, 3 * (12 - 5.7) / (12 - 1.9), 0.1) << "three dies at the current of one";
}

}  // namespace
}  // namespace elkit
