// Boards of light matrices: sized, fed, sent to, changed by hand and asked for again.
#include <gtest/gtest.h>

#include "circuit/chain.hpp"
#include "circuit/part_kind.hpp"
#include "command/command.hpp"
#include "recipes/blocks.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::made;
using test::sweep;

TEST(PictureBoard, ShowsWhatIsAskedOrSaysThatItCannot) {
    const auto swept =
        sweep("picture-board", combined({{"picture", {"waves"s, "arrow"s, "heart"s, "checks"s, "full"s}},
                                         {"matrices", {1.0, 3.0}},
                                         {"brightness", {5.0, 40.0}},
                                         {"sender", {"controller_8"s, "outside"s}}}));
    EXPECT_EQ(swept.met, 40) << "what a small converter does not feed hangs on a supply that suits it";
}

TEST(PictureBoard, TakesAConverterWhereTheCellsDoNotSuitIt) {
    for (const auto& [cell, cells, feed] : {std::tuple{"LR6", 3.0, "step_up"},
                                            {"LR6", 2.0, "step_up"},
                                            {"USB", 1.0, "direct"},
                                            {"6LR61", 1.0, "step_down"},
                                            {"Lead-12V", 1.0, "step_down"}}) {
        const auto d =
            made("picture-board", {{"cell", std::string(cell)}, {"cells", cells}, {"brightness", 20.0}});
        ASSERT_TRUE(d) << cell << ": " << d.error().text();
        EXPECT_EQ(goals_of(d.value(), d.value().blocks[0]).text("feed"), feed) << cell;
        test::expect_met(d.value(), cell + " "s);
        EXPECT_TRUE(test::findings(d.value(), "matrix-data").empty());
        EXPECT_TRUE(test::findings(d.value(), "matrix-supply").empty());
        EXPECT_TRUE(test::findings(d.value(), "matrix-times").empty());
    }
    for (const auto& [said, place] :
         {std::pair(test::Said{{"cell", "6LR61"s}, {"cells", 1.0}, {"feed", "direct"s}}, "cells"),
          {{{"cells", 2.0},
            {"cell", "LR6"s},
            {"feed", "step_up"s},
            {"picture", "full"s},
            {"matrices", 8.0},
            {"brightness", 100.0}},
           "brightness"},
          {{{"cell", "6LR61"s}, {"cells", 1.0}, {"feed", "step_up"s}}, "cells"}}) {
        const auto refused = made("picture-board", said);
        ASSERT_FALSE(refused) << place;
        EXPECT_EQ(refused.error().place, place) << refused.error().text();
    }
}

TEST(PictureBoard, HandsItsDataFromOneMatrixToTheNext) {
    const Design d = made("picture-board", {{"matrices", 4.0}, {"brightness", 10.0}}).value();
    const auto chains = chains_of(d.circuit);
    ASSERT_EQ(chains.size(), 1u);
    EXPECT_EQ(chains[0].size(), 4u);
    const Part& first = *d.circuit.find(chains[0].front());
    for (const std::string& designator : chains[0]) {
        const Part& part = *d.circuit.find(designator);
        EXPECT_EQ(part.net("clock"), first.net("clock"));
        EXPECT_EQ(part.net("load"), first.net("load"));
        EXPECT_EQ(part.number("brightness"), 10);
    }
    const Part& sender = *d.circuit.find(d.blocks[0].parts.at("Ucontroller"));
    EXPECT_EQ(sender.net("P0"), first.net("data"));
}

TEST(PictureBoard, KeepsWhatWasDrawnByHand) {
    Design d = made("picture-board", {}).value();
    const auto chain = chains_of(d.circuit).front();
    auto pictures = chain_pictures(d.circuit, chain);
    pictures[0][0].set(0, 0, !pictures[0][0].on(0, 0));
    d = with_circuit(d, with_chain_pictures(d.circuit, chain, pictures));
    const auto again = parse_command("brightness 15", d, {});
    ASSERT_TRUE(again) << again.error().text();
    const Circuit& then = again.value().design->circuit;
    EXPECT_EQ(then.find(chain[0])->number("brightness"), 15);
    EXPECT_EQ(chain_pictures(then, chain), pictures);
}

}  // namespace
}  // namespace elkit
