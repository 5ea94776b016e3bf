// Boards of copper at a glance, and what a further change by hand begins with while a board is laid out.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "board/board.hpp"
#include "board/by_hand.hpp"
#include "board/copper/layout.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

const PartSpot& spot(const Design& design, const std::string& part) {
    return *std::find_if(design.board.spots.begin(), design.board.spots.end(),
                         [&](const PartSpot& s) { return s.part == part; });
}

class Glance : public testing::TestWithParam<std::pair<const char*, const char*>> {};
TEST_P(Glance, HasPartsWhereTheyWerePutAndNamesExactlyWhatIsLeftOver) {
    const auto [id, method] = GetParam();
    const auto [design, board] = board_of_demo(id, method);
    std::size_t complete = 0;
    for (const BoardPart& p : board.parts) {
        const Design next = moved_by_hand(design, board, p.designator, 1.27, 0).value();
        const CopperLayout l =
            glance_copper(next.circuit, board_choices(next), *makings().method(method)).value();
        const auto moved = std::find_if(l.parts.begin(), l.parts.end(), [&](const CopperPart& c) {
            return c.part->designator == p.designator;
        });
        if (p.place == PartPlace::board) {
            EXPECT_NEAR(moved->at.x, spot(next, p.designator).x, 1e-6) << p.designator;
        }
        const auto wrong = copper_differences(l, next.circuit, copper_groups(l));
        for (const std::string& words : wrong)
            EXPECT_NE(words.find("but not on the board"), std::string::npos) << "joins: " << words;
        EXPECT_EQ(wrong.size(), l.unjoined.size()) << p.designator;
        for (const Unjoined& u : l.unjoined)
            EXPECT_TRUE(std::find(l.open.begin(), l.open.end(), u.net) != l.open.end()) << u.net;
        complete += l.open.empty();
        const auto sides = copper_sides(l);
        const auto dashed = std::count_if(
            sides[0].picture.items.begin(), sides[0].picture.items.end(),
            [](const auto& item) { return item.style.stroke == Ink::attention && item.style.dashed; });
        EXPECT_EQ(static_cast<std::size_t>(dashed), l.unjoined.size());
    }
    EXPECT_GT(complete, board.parts.size() / 5) << "most joints of most boards stay";
}
INSTANTIATE_TEST_SUITE_P(Demos, Glance,
                         testing::Values(std::pair{"harbour-beacon", "milled"},
                                         std::pair{"diorama-switcher", "milled"},
                                         std::pair{"twin-blinker", "ordered"}),
                         demo_and_method);

TEST(Glance, IsOnlyOfBoardsWhosePartsWereAllPutByHandAndWhoseCopperIsDrawn) {
    const Design design = demo("pier-lantern");
    for (const char* method : {"milled", "pad", "nothing"}) {
        Design d = design;
        d.board.method = method;
        const auto glance = ask(BoardGlanceQuery{{d.circuit, board_choices(d)}});
        ASSERT_FALSE(glance) << method;
        EXPECT_NE(glance.error().text(), "");
    }
}

TEST(AsPut, ASecondMoveBeforeTheBoardIsLaidOutKeepsTheFirst) {
    for (const char* method : {"pad", "strip", "milled"}) {
        const auto [design, board] = board_of_demo("harbour-beacon", method);
        const std::string a = board.parts[0].designator, b = board.parts[1].designator;
        const Design one = moved_by_hand(design, board, a, 5.08, 0).value();
        const Board put = as_put(board, design.board, one);
        const Design two = moved_by_hand(one, put, b, 0, 2.54).value();
        const Design again = moved_by_hand(two, as_put(put, one.board, two), a, 2.54, 0).value();
        EXPECT_NEAR(spot(two, a).x, spot(one, a).x, 1e-6) << method;
        EXPECT_NEAR(spot(two, b).y, board.part(b)->y + 2.54, hand_grid) << method;
        EXPECT_NEAR(spot(again, a).x, board.part(a)->x + 7.62, 2 * hand_grid) << method;
        EXPECT_NEAR(spot(again, b).y, spot(two, b).y, 1e-6) << method;
    }
}

/// The board has grown to the left of where places of the design begin: they are taken over once, not twice.
TEST(AsPut, PlacesAreTakenOverOnce) {
    const auto [design, board] = board_of_demo("pier-lantern", "pad");
    const std::string part = board.parts[0].designator;
    const Design beyond = moved_by_hand(design, board, part, -board.part(part)->x - 2.54 * 2, 0).value();
    const Board grown = ask(BoardQuery{beyond.circuit, board_choices(beyond)}).value();
    ASSERT_GT(grown.origin_x, 0);
    const Design free = kept_free_by_hand(beyond, grown, {0, 0, 2.54, 2.54, {}}).value();
    const Board put = as_put(grown, beyond.board, free);
    EXPECT_EQ(put.origin_x, 0);
    const Design next = moved_by_hand(free, put, part, 0, 2.54).value();
    EXPECT_EQ(next.board.keep_out, free.board.keep_out);
    EXPECT_EQ(as_put(grown, beyond.board, beyond).origin_x, grown.origin_x) << "nothing was put since";
}

}  // namespace
}  // namespace elkit::test
