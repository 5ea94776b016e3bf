// Sensors at a small controller, against the engine and closed forms.
#include <gtest/gtest.h>

#include <cmath>

#include "behaviour/program.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "recipes/edge.hpp"
#include "recipes/sensor_divider.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::made;
using test::sweep;

/// Ω of 10 kΩ at 25 °C with a β of 3950 K.
double beta_ohms(double celsius) { return 10e3 * std::exp(3950 * (1 / (celsius + 273.15) - 1 / 298.15)); }
const PointList by_beta{{0, beta_ohms(0)}, {25, beta_ohms(25)}};

const Part& part_of(const Design& d, const char* local) {
    return *d.circuit.find(d.blocks[0].parts.at(local));
}
/// Counts at which the controller of a design begins to warn.
double counts_in_table(const Design& d) {
    return program_of(part_of(d, "Ucontroller")).value().states[0].leaves[0].amount;
}

TEST(WarmthWatch, WarnsWhereAskedOrSaysThatItCannot) {
    const auto swept = sweep("warmth-watch", combined({{"set", {-10.0, 3.0, 60.0}},
                                                       {"side", {"below"s, "above"s}},
                                                       {"effect", {"blink"s, "on"s}},
                                                       {"reference", {0.0, 1.1}}}));
    EXPECT_EQ(swept.met, 24);
    for (const auto& [said, place] :
         {std::pair(test::Said{{"gap", 0.1}, {"set", 100.0}}, "ends beyond"),
          {{{"readings", PointList{{0, 3.3e6}, {25, 1e6}}}}, "readings"},
          {{{"readings", PointList{{0, 330}, {25, 100}}}, {"set", 60.0}}, "readings"},
          {{{"cells", 4.0}}, "cells"},
          {{{"current", 0.05}, {"drives", "direct"s}}, "lights hang"}}) {
        const auto refused = made("warmth-watch", said);
        ASSERT_FALSE(refused) << place;
        EXPECT_EQ(refused.error().place, place) << refused.error().text();
    }
}

TEST(WarmthWatch, CountsAreThoseOfTheClosedForm) {
    for (const double set : {-5.0, 3.0, 40.0}) {
        const Design d = made("warmth-watch", {{"readings", by_beta}, {"set", set}}).value();
        const double fixed = part_of(d, "Rfixed").number("value"), ohms = beta_ohms(set);
        EXPECT_NEAR(fixed / ohms, 1, 0.06) << "as large as the sensor there, within half a step of E24";
        EXPECT_NEAR(counts_in_table(d), 1024 * ohms / (ohms + fixed), 0.51) << set;
    }
}

TEST(WarmthWatch, TheBestFixedResistorHasTheSteepestSlope) {
    const auto slope = [](double fixed, double reference) {
        SensorDivider d{fitted_thermistor(by_beta).value(), fixed, 4.5, reference, 10};
        return std::abs(d.per_kelvin(3));
    };
    const double best = best_fixed(beta_ohms(3), 4.5, 0);
    for (const double off : {0.5, 0.8, 1.25, 2.0}) EXPECT_LT(slope(off * best, 0), slope(best, 0)) << off;
    // α/4 of full scale, with α = β/T²
    EXPECT_NEAR(slope(best, 0), 1024 * 3950 / std::pow(276.15, 2) / 4, 0.05);
    SensorDivider own{fitted_thermistor(by_beta).value(), best_fixed(beta_ohms(3), 4.5, 1.1), 4.5, 1.1, 10};
    EXPECT_LT(own.volts(3), 1.1) << "a reference of its own is not passed";
}

TEST(WarmthWatch, ItsSpreadIsThatOfItsParts) {
    const SensorDivider d{fitted_thermistor(by_beta).value(), 27e3, 4.5, 0, 10};
    const auto [cold, warm] = d.spread(d.counts(3));
    const double alpha = 3950 / std::pow(276.15, 2);
    const double off = (d.sensor.tolerance() + 0.05) / alpha + 1 / std::abs(d.per_kelvin(3));
    EXPECT_NEAR(warm - 3, off, 0.15 * off);
    EXPECT_NEAR(3 - cold, off, 0.15 * off);
}

TEST(WarmthWatch, StaysAsCellsEmptyOnlyWithTheSupplyAsItsReference) {
    for (const double reference : {0.0, 1.1}) {
        const Design d = made("warmth-watch", {{"reference", reference}}).value();
        const Sized sized = sized_block(d, 0).value();
        const Figure* moves = nullptr;
        for (const Figure& f : sized.results)
            if (f.id == "recipe.sag") moves = &f;
        ASSERT_NE(moves, nullptr);
        std::array<double, 2> found{};
        for (const bool fresh : {true, false}) {
            auto x = *in_design(sized.expected[1], d.blocks[0], d.circuit);
            if (!fresh) x.low += moves->value, x.high += moves->value;
            Conditions c = lit(d.circuit, {});
            c.battery = fresh ? 1 : 0.1;
            const auto level = edge_level(d.circuit, x, c);
            ASSERT_TRUE(level) << level.error().text();
            found[fresh] = level.value();
        }
        EXPECT_NEAR(found[0] - found[1], moves->value, 0.3 + 0.1 * std::abs(moves->value)) << reference;
        EXPECT_EQ(moves->value == 0, reference == 0);
        if (reference > 0) {
            EXPECT_GT(std::abs(moves->value), 3) << "volts of the cells count as cold or heat";
        }
    }
}

TEST(WarmthWatch, TakesWhatTheDrawerHasAndStillTurnsThere) {
    const Environment drawer{{30e3, 100e3, 330, 470}, {}, {}};
    const Design d = made("warmth-watch", {{"readings", by_beta}}, drawer).value();
    EXPECT_EQ(part_of(d, "Rfixed").number("value"), 30e3);
    EXPECT_NEAR(counts_in_table(d), 1024 * beta_ohms(3) / (beta_ohms(3) + 30e3), 0.51);
    test::expect_met(d, "from the drawer ");
    EXPECT_FALSE(made("warmth-watch", {}, {{330, 470}, {}, {}})) << "nothing near";
}

TEST(WarmthWatch, SleepsBetweenLooks) {
    const auto taken = [](double looks) {
        const Design d = made("warmth-watch", {{"looks", looks}}).value();
        for (const Expectation& x : sized_block(d, 0).value().expected)
            if (x.reading == "mean") return x.target;
        return 0.0;
    };
    const double often = taken(0.1), seldom = taken(10);
    // a look takes 1 ms of 5 mA at 5 V
    EXPECT_NEAR(often - seldom, 5e-3 * 1e-3 * (10 - 0.1) * 4.8 / 5, 5e-6);
}

TEST(WarmthWatch, ItsPlotShowsBothTripPoints) {
    const Recipe& recipe = *find_recipe("warmth-watch");
    const auto picture = recipe.picture(planned(recipe, {{"set", 3.0}}), {});
    ASSERT_TRUE(picture) << picture.error().text();
    std::string words;
    for (const Item& item : picture.value().items)
        if (const Text* text = std::get_if<Text>(&item.shape)) words += text->text + "\n";
    for (const char* wanted : {"warns below 3", "ends above 4", "counts", "volts", "kΩ", "1024"})
        EXPECT_NE(words.find(wanted), std::string::npos) << wanted << " in\n" << words;
}

}  // namespace
}  // namespace elkit
