// Boards that switch lamps: sized, fed, changed and asked for again.
#include <gtest/gtest.h>

#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "power/life.hpp"
#include "recipes/blocks.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::made;
using test::sweep;

TEST(LampSwitcher, SwitchesWhatIsAskedOrSaysThatItCannot) {
    const auto swept = sweep("lamp-switcher", combined({{"effect", {"turn"s, "press"s, "together"s}},
                                                        {"lamp", {"led"s, "filament"s, "strip"s}},
                                                        {"by", {"relays"s, "transistors"s}},
                                                        {"board", {"computer_board"s, "controller_board"s}},
                                                        {"channels", {1.0, 5.0}}}));
    EXPECT_EQ(swept.met, 72) << "12 V suit all of them";
}

TEST(LampSwitcher, RunsItsLampsFromTheSupplyAndItsBoardFromFiveVolts) {
    for (const auto& [cell, cells, feed, lamp] : {std::tuple{"Lead-12V", 1.0, "step_down", "lamp-12V"},
                                                  {"USB", 1.0, "direct", "lamp-6V"},
                                                  {"LR6", 4.0, "step_down", "lamp-6V"}}) {
        const auto d =
            made("lamp-switcher", {{"cell", std::string(cell)}, {"cells", cells}, {"lamp", "filament"s}});
        ASSERT_TRUE(d) << cell << ": " << d.error().text();
        EXPECT_EQ(goals_of(d.value(), d.value().blocks[0]).text("feed"), feed) << cell;
        const Part& first = *d.value().circuit.find(d.value().blocks[0].parts.at("LP1"));
        EXPECT_EQ(first.text("type"), lamp) << cell;
        test::expect_met(d.value(), cell + " "s);
    }
    for (const auto& [said, place] :
         {std::pair(test::Said{{"cell", "USB"s}, {"cells", 1.0}, {"lamp", "strip"s}}, "cells"),
          {{{"cell", "Lead-12V"s}, {"cells", 2.0}, {"led", "red-5mm"s}, {"by", "relays"s}}, "cells"},
          {{{"effect", "together"s},
            {"channels", 8.0},
            {"feed", "step_up"s},
            {"cell", "LR6"s},
            {"cells", 2.0},
            {"led", "red-5mm"s},
            {"by", "relays"s}},
           "channels"},
          {{{"feed", "direct"s}}, "cells"}}) {
        const auto refused = made("lamp-switcher", said);
        ASSERT_FALSE(refused) << place << test::told(said);
        EXPECT_EQ(refused.error().place, place) << refused.error().text();
    }
}

TEST(LampSwitcher, GoesFromOneLampToTheNextAndBackToNone) {
    const Design d = made("lamp-switcher", {{"effect", "press"s}, {"channels", 3.0}}).value();
    const Block& block = d.blocks[0];
    Store store;
    Expectation e{"lamp", {}, 0, 0, 0, "after", Unit::ampere};
    e.pressed = 0.2, e.wait = 0.6;
    for (int presses = 0; presses <= 4; ++presses) {
        for (int k = 1; k <= 3; ++k) {
            e.probe = "part:" + block.parts.at("L" + std::to_string(k));
            e.presses.assign(static_cast<std::size_t>(presses), block.parts.at("Sgo"));
            if (presses == 0) continue;
            const auto amps = measured(Ask(store), d.circuit, e, {});
            ASSERT_TRUE(amps) << amps.error().text();
            EXPECT_EQ(amps.value() > 1e-3, presses % 4 == k) << presses << " presses, lamp " << k;
        }
    }
}

TEST(LampSwitcher, LastsAsLongAsItsLampsTake) {
    const Design d = made("lamp-switcher", {{"effect", "press"s}, {"channels", 2.0}}).value();
    Store store;
    const auto life = Ask(store)(LifeQuery(d, d.circuit, {}));
    ASSERT_TRUE(life) << life.error().text();
    // lit after the press at every state of charge, and not in its first state again
    EXPECT_GT(life->typical.samples.back().amps, 0.08);
    EXPECT_EQ(life->typical.ended_by.find("light below"), std::string::npos) << life->typical.ended_by;
}

TEST(LampSwitcher, IsAskedInWordsAndChangedWithoutLosingWhatWasSetByHand) {
    auto asked = parse_command("switch lamps every 3 s", {}, {});
    ASSERT_TRUE(asked) << asked.error().text();
    Design d = *asked.value().design;
    EXPECT_EQ(goals_of(d, d.blocks[0]).number("every"), 3);
    const std::string lamp = d.blocks[0].parts.at("L2");
    Circuit changed = d.circuit;
    changed.find(lamp)->params["resistance"] = 680.0;
    d = with_circuit(d, changed);
    const auto again = parse_command("channels 5", d, {});
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again.value().design->circuit.find(lamp)->number("resistance"), 680);
    EXPECT_TRUE(again.value().design->blocks[0].parts.contains("Krelay5"));
    for (const char* rule : {"part-rating", "coil-diode", "chip-supply"})
        EXPECT_TRUE(test::findings(*again.value().design, rule).empty()) << rule;
}

}  // namespace
}  // namespace elkit
