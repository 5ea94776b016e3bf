// Recipes that follow warmth or light, against the engine and against closed forms.
#include <gtest/gtest.h>

#include <cmath>

#include "command/command.hpp"
#include "design/file.hpp"
#include "recipes/effect.hpp"
#include "recipes/light_eye.hpp"
#include "recipes/sensor_law.hpp"
#include "review/findings.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::expect_met;
using test::made;
using test::Said;
using test::sweep;

TEST(SensorLaw, ThroughTwoReadingsIsTheBetaLaw) {
    const double beta = 3950, at60 = 10e3 * std::exp(beta * (1 / 333.15 - 1 / 298.15));
    const auto fit = fitted_thermistor({{60, at60}, {25, 10e3}});
    ASSERT_TRUE(fit);
    EXPECT_EQ(fit.value().part.number("value"), 10e3);
    EXPECT_EQ(fit.value().part.number("beta"), beta);
    EXPECT_NEAR(fit.value().ohms(0) / (10e3 * std::exp(beta * (1 / 273.15 - 1 / 298.15))), 1, 1e-4);
}

TEST(SensorLaw, GoesThroughThreeReadingsAndNearMore) {
    const PointList three{{0, 32650}, {25, 10000}, {60, 2488}};
    const auto exact = fitted_thermistor(three).value();
    for (const auto& [celsius, ohms] : three) EXPECT_NEAR(exact.ohms(celsius) / ohms, 1, 1e-6);
    const PointList five{{0, 32800}, {15, 15650}, {25, 10000}, {40, 5330}, {60, 2500}};
    const auto near = fitted_thermistor(five).value();
    EXPECT_GT(near.worst, 0);
    EXPECT_LT(near.worst, 0.01);
    for (const auto& [celsius, ohms] : five) EXPECT_NEAR(near.ohms(celsius) / ohms, 1, near.worst + 1e-9);
}

TEST(SensorLaw, IsSoldByAPreferredValueButCountsAsMeasured) {
    const auto fit = fitted_thermistor({{20, 12300}, {60, 2450}}).value();
    EXPECT_EQ(fit.part.number("value"), 10e3);
    EXPECT_NEAR(fit.ohms(20) / 12300, 1, 0.002);
}

TEST(SensorLaw, OfLightIsALineOnLogarithms) {
    const auto fit = fitted_ldr({{10, 20e3}, {100, 5e3}}).value();
    EXPECT_NEAR(fit.part.number("gamma"), std::log10(4.0), 1e-3);
    EXPECT_NEAR(fit.ohms(1), 80e3, 200);
    const auto dark = fitted_ldr({{0.1, 2e6}, {100, 20e3}}).value();
    EXPECT_NEAR(dark.ohms(0.1), 2e6, 2e4) << "its dark resistance is above what was read";
}

TEST(SensorLaw, RefusesWhatIsNoSensor) {
    for (const PointList& readings : {PointList{}, PointList{{20, 10e3}}, PointList{{20, 10e3}, {20, 9e3}},
                                      PointList{{20, 10e3}, {40, 12e3}}, PointList{{20, 10e3}, {21, 100}},
                                      PointList{{20, 10e3}, {40, -1}}, PointList{{-400, 10e3}, {40, 1e3}}}) {
        const auto warmth = fitted_thermistor(readings);
        ASSERT_FALSE(warmth);
        EXPECT_EQ(warmth.error().place, "readings");
        EXPECT_FALSE(warmth.error().expected.empty());
        EXPECT_FALSE(fitted_ldr(readings)) << "nor of light";
    }
}

TEST(SensorFlasher, MeetsBothRatesOrSaysThatItCannot) {
    int met = 0, refused = 0;
    for (const char* id : {"warmth-flasher", "light-flasher"})
        for (const auto& [chip, cells] : {std::pair("timer-cmos", 2.0), std::pair("timer-bipolar", 4.0)})
            for (const double times : {1.5, 2.5, 4.0, 9.0}) {
                std::vector<Said> all = combined({{"rate", {0.1, 0.5, 3.0}},
                                                  {"chip", {std::string(chip)}},
                                                  {"cells", {cells}},
                                                  {"led", {"red-5mm"s}}});
                for (Said& said : all) said["fast"] = times * std::get<double>(said["rate"]);
                const auto swept = sweep(id, all);
                met += swept.met, refused += static_cast<int>(swept.refused.size());
                EXPECT_TRUE(times > 2 || swept.refused.empty()) << id << times;
            }
    EXPECT_GT(met, 26);
    EXPECT_GT(refused, 5) << "no sensor changes nine times with a resistor beside it";
}

TEST(SensorFlasher, UnlessToldChangesAsMuchAsASensorGivesAndAnEyeFollows) {
    const Recipe& recipe = *find_recipe("warmth-flasher");
    const double slow = planned(recipe, {{"rate", 0.1}}).number("fast") / 0.1;
    EXPECT_GT(slow, 2.8) << "more than half of the five times of the thermistor alone";
    EXPECT_NEAR(planned(recipe, {{"rate", 3.0}}).number("fast"), 8, 0.6)
        << "no quicker than is seen as blinking";
    const auto wrong = made("warmth-flasher", {{"calm", 60.0}, {"lively", 20.0}});
    ASSERT_FALSE(wrong);
    EXPECT_NE(wrong.error().expected.find("the warmer it is"), std::string::npos);
}

TEST(SensorFlasher, ShowsBothStatesOneAfterTheOther) {
    const Recipe& recipe = *find_recipe("warmth-flasher");
    const Effect effect = test::ask(EffectQuery{recipe.id, planned(recipe, {{"rate", 1.0}})}).value();
    const auto flashes = [&](std::size_t from, std::size_t to) {
        int count = 0;
        for (std::size_t k = from + 1; k < to; ++k)
            count += effect.brightness[k] > 0.5 && effect.brightness[k - 1] <= 0.5;
        return count;
    };
    const std::size_t all = effect.brightness.size();
    EXPECT_GT(flashes(all / 2, all), 2 * std::max(1, flashes(0, all / 2)));
}

TEST(SensorFlasher, AnotherRateTakesAnotherCapacitorAlong) {
    const Design before = test::demo("compost-pulse");
    const auto command = parse_command("rate = 1 Hz", before, {});
    ASSERT_TRUE(command) << command.error().text();
    const Goals goals = goals_of(*command.value().design, command.value().design->blocks[0]);
    EXPECT_EQ(goals.number("rate"), 1);
    EXPECT_LT(goals.number("capacitor"), goals_of(before, before.blocks[0]).number("capacitor"));
    expect_met(*command.value().design, "quicker ");
}

TEST(SensorFlasher, KeepsItsReadingsInTheFile) {
    const Design before = made("warmth-flasher", {{"readings", PointList{{20, 12300}, {60, 2450}}}}).value();
    const auto after = read_design(write_design(before));
    ASSERT_TRUE(after) << after.error().text();
    EXPECT_EQ(after.value().blocks[0].goals, before.blocks[0].goals);
    EXPECT_TRUE(differences(after.value()).empty());
}

TEST(DarkWake, WakesWhereAskedOrSaysThatItCannot) {
    const auto swept = sweep(
        "dark-wake", combined({{"lux", {0.5, 10.0, 200.0}},
                               {"by", {"mosfet"s, "transistors"s, "comparator"s}},
                               {"edge", {"gradual"s, "snap"s}},
                               {"sensor", {"ldr"s, "phototransistor-visible"s, "phototransistor-infrared"s}},
                               {"cells", {2.0, 3.0, 6.0}}}));
    EXPECT_GT(swept.met, 60);
    EXPECT_GT(swept.refused.size(), 30u);
    const auto impossible = combined({{"by", {"mosfet"s}}, {"edge", {"snap"s}}});
    EXPECT_EQ(sweep("dark-wake", impossible).met, 0) << "a MOSFET does not snap";
    const auto either = combined({{"by", {"comparator"s}}, {"edge", {"gradual"s}}});
    EXPECT_EQ(sweep("dark-wake", either).met, 0) << "a comparator always does";
}

TEST(DarkWake, OfAPhototransistorTakesLittleByDay) {
    const auto drain = [](const char* by, const char* sensor) {
        const Design d =
            made("dark-wake", {{"by", std::string(by)}, {"sensor", std::string(sensor)}}).value();
        const auto all = test::ask(MeasuredQuery(d, 0, {})).value();
        for (const Measured& m : all)
            if (m.asked.label == "takes by day") return m.found.value;
        return 0.0;
    };
    EXPECT_GT(drain("mosfet", "ldr"), 10 * drain("mosfet", "phototransistor-visible"));
    EXPECT_GT(drain("transistors", "ldr"), 5 * drain("mosfet", "ldr"));
    EXPECT_GT(drain("comparator", "phototransistor-visible"), 1e-6);
}

TEST(DarkWake, InfraredSensorHardlySeesLedLight) {
    const LightEye in_daylight = light_eye("phototransistor-infrared", 0, "daylight"),
                   in_led_light = light_eye("phototransistor-infrared", 0, "led");
    EXPECT_GT(in_daylight.amps(10, 1), 30 * in_led_light.amps(10, 1));
    EXPECT_NEAR(in_daylight.lux_for(in_daylight.amps(7, 1), 1), 7, 1e-6);
    const LightEye ldr = light_eye("ldr", 10e3, "led");
    EXPECT_NEAR(ldr.amps(10, 2), 2e-4, 1e-9);
    EXPECT_NEAR(ldr.volts_behind(10e3, 4, 10), 2, 1e-6);
}

TEST(DarkWake, ATrimmerStandsWhereTheThresholdIs) {
    const Design d = made("dark-wake", {{"adjust", "trimmer"s}, {"lux", 30.0}}).value();
    const Part& trimmer = *d.circuit.find(d.blocks[0].parts.at("RVset"));
    EXPECT_GT(trimmer.number("position"), 0.1);
    EXPECT_LT(trimmer.number("position"), 0.9);
    expect_met(d, "trimmer ");
}

TEST(DarkWake, ChangesItsSensorWithoutLeavingTheOldOne) {
    const Design ldr = made("dark-wake", {}).value();
    const Design other = with_goal(ldr, 0, "sensor", "phototransistor-visible"s).value();
    for (const Part& part : other.circuit.parts) EXPECT_NE(part.kind, "ldr");
    expect_met(other, "another sensor ");
    const Design back = with_goal(other, 0, "sensor", "ldr"s).value();
    for (const Part& part : back.circuit.parts) EXPECT_NE(part.kind, "phototransistor");
}

TEST(DarkWake, LetsAFlasherRunInTheDark) {
    const Design first = made("dark-wake", {{"drives", "nothing"s}}).value();
    const auto offered = offered_nets(first);
    ASSERT_EQ(offered.size(), 1u);
    const Recipe& flasher = *find_recipe("timer-flasher");
    const auto both = with_block(first, flasher.id, planned_in(first, flasher, {{"rate", 2.0}}),
                                 {{"RUN", offered.front().net}});
    ASSERT_TRUE(both) << both.error().text();
    for (const auto& [lux, moves] : {std::pair(0.1, true), std::pair(1000.0, false)}) {
        Conditions world;
        world.lux = lux;
        const auto run = test::ask(RunQuery(Keyed<Circuit>(both.value().circuit), world));
        ASSERT_TRUE(run);
        EXPECT_EQ(run.value().moves(), moves) << lux;
    }
    for (const Finding& f : test::findings(both.value())) EXPECT_NE(f.severity, Severity::error) << f.title;
}

}  // namespace
}  // namespace elkit
