// What a gadget should do, in plain words.
#include "command/recipe_command.hpp"

#include <gtest/gtest.h>

#include "recipes/blocks.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

Design said(const Design& d, const std::string& words) {
    auto c = parse_command(words, d, {});
    EXPECT_TRUE(c) << words << ": " << (c ? "" : c.error().text());
    return c && c.value().design ? *c.value().design : d;
}

double number(const std::string& words, const char* recipe, const char* goal) {
    auto found = said_goals(*find_recipe(recipe), words);
    EXPECT_TRUE(found) << words << ": " << (found ? "" : found.error().text());
    return found && found.value().contains(goal) ? std::get<double>(found.value().at(goal)) : -1;
}

TEST(RecipeCommand, ReadsRatesAndTimesAsPeopleSayThem) {
    EXPECT_DOUBLE_EQ(number("2 times a second", "timer-flasher", "rate"), 2);
    EXPECT_DOUBLE_EQ(number("twice a minute", "timer-flasher", "rate"), 2.0 / 60);
    EXPECT_DOUBLE_EQ(number("30 times per minute", "timer-flasher", "rate"), 0.5);
    EXPECT_DOUBLE_EQ(number("every 4 s", "timer-flasher", "rate"), 0.25);
    EXPECT_DOUBLE_EQ(number("every second", "timer-flasher", "rate"), 1);
    EXPECT_DOUBLE_EQ(number("at 3 Hz", "timer-flasher", "rate"), 3);
    EXPECT_DOUBLE_EQ(number("at 3Hz for 20 %", "timer-flasher", "share"), 20);
    EXPECT_DOUBLE_EQ(number("every 500ms with 12mA", "timer-flasher", "rate"), 2);
    EXPECT_DOUBLE_EQ(number("with 12 mA", "timer-flasher", "current"), 0.012);
    EXPECT_DOUBLE_EQ(number("with 3 leds on 4 cells", "timer-flasher", "count"), 3);
    EXPECT_DOUBLE_EQ(number("for 2 minutes", "timer-one-shot", "time"), 120);
    EXPECT_DOUBLE_EQ(number("20s after a press", "timer-one-shot", "time"), 20);
    EXPECT_DOUBLE_EQ(number("three times a minute", "timer-flasher", "rate"), 0.05);
    EXPECT_DOUBLE_EQ(number("once every 2 minutes", "timer-flasher", "rate"), 1.0 / 120);
    EXPECT_DOUBLE_EQ(number("ten seconds after a press", "timer-one-shot", "time"), 10);
    EXPECT_FALSE(said_goals(*find_recipe("timer-flasher"), "2 bananas"));
}

TEST(RecipeCommand, AddsABlockOrRunsTheOneThatIsThere) {
    const Design one = said({}, "blink every 2 s with red");
    ASSERT_EQ(one.blocks.size(), 1u);
    EXPECT_EQ(one.circuit.find("L1")->text("type"), "red-5mm");
    const Design again = said(one, "blink 5 times a second");
    EXPECT_EQ(again.blocks.size(), 1u);
    EXPECT_EQ(again.circuit.find("L1")->text("type"), "red-5mm") << "of which nothing was said";
    EXPECT_DOUBLE_EQ(goals_of(again, again.blocks[0]).number("rate"), 5);
    EXPECT_EQ(said(one, "stay on for 20 s").blocks.size(), 2u);
    EXPECT_EQ(said(test::pier_lantern(), "blink twice a second").blocks.size(), 2u);
}

TEST(RecipeCommand, TakesTheWordForWhatItMeans) {
    struct Case {
        const char *line, *recipe, *text_goal, *text, *number_goal;
        double number;
    };
    for (const Case& c :
         {Case{"breathe every 3 s", "pattern-lights", "effect", "breathe", "every", 3},
          {"go through colours", "pattern-lights", "effect", "colours", "every", 4},
          {"chase every 200 ms", "pattern-lights", "effect", "chase", "every", 0.2},
          {"flicker", "pattern-lights", "effect", "flicker", "count", 1},
          {"warn below 5 °C", "warmth-watch", "side", "below", "set", 5},
          {"warn above 60 °C", "warmth-watch", "side", "above", "set", 60},
          {"drive a buzzer", "load-switch", "load", "buzzer", "count", 1},
          {"switch a strip", "load-switch", "load", "strip", "length", 0.5},
          {"drive four lights", "load-switch", "load", "lights", "count", 4},
          {"touch to light", "touch-light", "drives", "direct", "count", 1},
          {"light from one cell with white", "cell-booster", "led", "white-5mm", "count", 1},
          {"turn on when it gets dark", "dark-wake", "sensor", "ldr", "lux", 10},
          {"blink faster when it gets warmer", "warmth-flasher", "chip", "timer-cmos", "rate", 0.5},
          {"blink faster in the light", "light-flasher", "chip", "timer-cmos", "rate", 0.5},
          {"show the battery", "battery-bar", "show", "press", "steps", 4},
          {"show pictures every 300 ms", "picture-board", "picture", "waves", "every", 0.3}}) {
        const Design made = said({}, c.line);
        ASSERT_EQ(made.blocks.size(), 1u) << c.line;
        EXPECT_EQ(made.blocks[0].recipe, c.recipe) << c.line;
        const Goals goals = goals_of(made, made.blocks[0]);
        EXPECT_EQ(goals.text(c.text_goal), c.text) << c.line;
        EXPECT_DOUBLE_EQ(goals.number(c.number_goal), c.number) << c.line;
    }
}

TEST(RecipeCommand, LeavesPartsTheirPins) {
    const Design made = said({}, "switch a V+ b ON");
    EXPECT_TRUE(made.blocks.empty());
    EXPECT_EQ(made.circuit.find("S1")->net("b"), "ON");
}

TEST(RecipeCommand, MakesItSlower) {
    const Design one = said({}, "blink 2 times a second");
    const Design slower = said(one, "make it slower");
    EXPECT_NEAR(goals_of(slower, slower.blocks[0]).number("rate"), 1.3, 0.05);
    const Design slow = said(one, "blink twice a minute");
    EXPECT_GT(goals_of(slow, slow.blocks[0]).number("capacitor"), 2e-6) << "another capacitor for that";
    EXPECT_FALSE(parse_command("longer", one, {}));
    EXPECT_FALSE(parse_command("slower", test::pier_lantern(), {}));
    for (const char* asked : {"breathe every 4 s", "switch lamps every 4 s"}) {
        const Design paced = said({}, asked);
        EXPECT_EQ(goals_of(said(paced, "slower"), said(paced, "slower").blocks[0]).number("every"), 6)
            << asked;
        EXPECT_EQ(goals_of(said(paced, "faster"), said(paced, "faster").blocks[0]).number("every"), 2.7)
            << asked;
    }
}

TEST(RecipeCommand, SaysWhatWouldWorkInstead) {
    const auto refused = parse_command("blink 2 times a second with 30 mA output to ground", {}, {});
    EXPECT_FALSE(refused);
    const auto much = parse_command("blink bipolar 2 cells 2 times a second output", {}, {});
    ASSERT_FALSE(much);
    const auto wrong = parse_command("blink 2000000 times a second", {}, {});
    ASSERT_FALSE(wrong);
    EXPECT_NE(wrong.error().expected.find("kHz"), std::string::npos) << wrong.error().text();
}

TEST(RecipeCommand, LeavesOtherLinesAlone) {
    for (const char* line : {"r1 = 82", "light", "battery 3 x LR6", "led red from V+ to GND", "only"})
        EXPECT_FALSE(recipe_command(line, test::pier_lantern()).value()) << line;
}

}  // namespace
}  // namespace elkit
