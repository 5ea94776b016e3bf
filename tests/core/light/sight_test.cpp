// What the eye gets: averages, pulses, distance, diffuser; and dimming it.
#include "light/sight.hpp"

#include <cmath>
#include <numbers>

#include "design/file.hpp"
#include "design/optics.hpp"
#include "light/dimming.hpp"
#include "light/judgement.hpp"
#include "light/strings.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

Sight sight_of(const Design& design, double distance, double factor = 1) {
    Store store;
    const Keyed<Circuit> circuit(design.circuit);
    const auto found = Ask(store)(SightQuery(circuit, fresh(*circuit, {}), distance, factor));
    EXPECT_TRUE(found) << found.error().text();
    return *found;
}

TEST(Sight, AHandWorkedLight) {
    Design d;
    d.circuit.parts = {{"PS1", "supply", {{"voltage", 5.0}}, {{"+", "V+"}, {"-", "GND"}}, {}},
                       {"R1", "resistor", {{"value", 150.0}}, {{"a", "V+"}, {"b", "A"}}, {}},
                       {"L1", "led", {{"type", std::string("red-5mm")}}, {{"a", "A"}, {"k", "GND"}}, {}}};
    const Sight s = sight_of(d, 0.5, 0.5);
    ASSERT_EQ(s.rows.size(), 1U);
    const SightRow& row = s.rows.front();
    const Keyed<Circuit> circuit(d.circuit);
    Store store;
    const double amps = Ask(store)(RestQuery(circuit, {}))->part("L1").current;
    EXPECT_NEAR(row.on.value, 2.0 * amps / 0.02, 1e-4) << "2 cd at 20 mA";
    EXPECT_DOUBLE_EQ(row.share.value, 100);
    EXPECT_DOUBLE_EQ(row.seen.value, 100);
    EXPECT_NEAR(row.average.value, row.on.value / 2, 1e-9);
    EXPECT_NEAR(row.illuminance.value, row.average.value / 0.25, 1e-9) << "I / d²";
    EXPECT_NEAR(row.luminance.value, row.average.value / (std::numbers::pi * 0.0025 * 0.0025), 1e-3);
    EXPECT_EQ(row.flicker, Flicker::steady);
    EXPECT_NEAR(s.share_for_eyes, calm_to_look_at / row.luminance.value, 1e-9);
    EXPECT_TRUE(std::isnan(sight_of(d, 0).together.value)) << "no distance, no lux";
}

TEST(Sight, APulsedLightLooksBrighterThanItsShare) {
    const Sight s = sight_of(test::demo("harbour-dimmer"), 1);
    ASSERT_FALSE(s.rows.empty());
    const SightRow& row = s.rows.front();
    EXPECT_GT(row.frequency, 50);
    EXPECT_GT(row.modulation, 95);
    EXPECT_LT(row.share.value, 99);
    EXPECT_GT(row.seen.value, row.share.value) << "half the light looks like three quarters";
    EXPECT_EQ(row.flicker, judge_flicker(row.frequency, row.modulation));
}

TEST(Sight, AlikeLightsAreOneRowAndAllAddUp) {
    const Sight s = sight_of(test::demo("herbarium-ring"), 2);
    ASSERT_EQ(s.rows.size(), 1U);
    EXPECT_EQ(s.rows.front().lights.size(), 24U);
    EXPECT_NEAR(s.together.value, 24 * s.rows.front().illuminance.value, 0.03 * s.together.value);
}

TEST(Sight, InfraredIsNotSeen) {
    Design d;
    d.circuit.parts = {
        {"PS1", "supply", {{"voltage", 5.0}}, {{"+", "V+"}, {"-", "GND"}}, {}},
        {"R1", "resistor", {{"value", 150.0}}, {{"a", "V+"}, {"b", "A"}}, {}},
        {"L1", "led", {{"type", std::string("infrared-5mm")}}, {{"a", "A"}, {"k", "GND"}}, {}}};
    const Sight s = sight_of(d, 0.3);
    EXPECT_FALSE(s.rows.front().visible);
    EXPECT_EQ(s.rows.front().average.value, 0);
    EXPECT_FALSE(s.rows.front().caution.empty());
    EXPECT_EQ(s.share_for_eyes, 1) << "no dimmer is proposed for what is not seen";
}

TEST(Dimming, TheEngineFindsTheShareAskedFor) {
    for (const char* name : {"pier-lantern", "herbarium-ring", "harbour-dimmer"})
        for (const double share : {0.1, 0.5, 0.8}) {
            const Design design = test::demo(name);
            Store store;
            const Ask ask(store);
            const Keyed<Circuit> before(design.circuit);
            const Conditions c = fresh(*before, {});
            const auto dimmed = ask(ScaledLightQuery(before, c, share));
            ASSERT_TRUE(dimmed) << name << dimmed.error().text();
            const Keyed<Circuit> after(*dimmed);
            const std::string led = led_strings(*before).front().leds.front()->designator;
            const auto amps = [&](const Keyed<Circuit>& circuit) {
                return ask(RunQuery(circuit, c))->while_on(*circuit, led).part(led).current;
            };
            EXPECT_NEAR(amps(after) / amps(before), share, 0.12 * share) << name << " " << share;
        }
}

TEST(Dimming, SaysWhereThereIsNothingToTurn) {
    Store store;
    const Keyed<Circuit> badge(
        Circuit{{{"B1",
                  "battery",
                  {{"cell", std::string("CR2032")}, {"count", 1.0}},
                  {{"+", "V+"}, {"-", "GND"}},
                  {}},
                 {"L1", "led", {{"type", std::string("red-5mm")}}, {{"a", "V+"}, {"k", "GND"}}, {}}}});
    EXPECT_FALSE(Ask(store)(ScaledLightQuery(badge, {}, 0.5))) << "no resistor";
    const Keyed<Circuit> lantern(test::demo("pier-lantern").circuit);
    EXPECT_FALSE(Ask(store)(ScaledLightQuery(lantern, fresh(*lantern, {}), 0)));
    EXPECT_FALSE(Ask(store)(ScaledLightQuery(lantern, fresh(*lantern, {}), 1000))) << "too few volts";
}

TEST(Optics, AreReadAsPeopleWriteThem) {
    const auto read = parse_optics("tracing paper 0,55; lens 180/75;");
    ASSERT_TRUE(read) << read.error().text();
    ASSERT_EQ(read.value().size(), 2U);
    EXPECT_EQ(read.value()[0].name, "tracing paper");
    EXPECT_NEAR(optics_factor(read.value()), 0.55 * 2.4, 1e-12);
    EXPECT_EQ(parse_optics(optics_text(read.value())).value()[1].factor, 2.4);
    EXPECT_TRUE(parse_optics("").value().empty());
    for (const char* bad : {"paper", "0.5", "paper 0", "paper -1", "paper 1/0", "paper 1e9", "paper x"})
        EXPECT_FALSE(parse_optics(bad)) << bad;
}

TEST(Optics, AndTrialsStayInTheFile) {
    Design d = test::demo("pier-lantern");
    d.brief.distance = 0.4;
    d.brief.optics = {{"paper", 0.55, {}}};
    d.trials = {{"white-5mm", "red-5mm", 1000, 0.002, 0.01, LightTrial::Looked::brighter, {}}};
    const auto again = read_design(write_design(d));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again.value(), d);
    EXPECT_TRUE(schema_errors(write_design(d)).empty());
}

}  // namespace
}  // namespace elkit
