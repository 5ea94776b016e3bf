// Parts that are put by hand on boards of holes: they lie where they were put, the others stay, what is in
// the way moves aside, and the board is still the circuit.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "board/by_hand.hpp"
#include "board/holes/parts.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

struct Case {
    const char *method, *demo;
};
class PutOnHoles : public testing::TestWithParam<Case> {
  protected:
    Design design = [] {
        Design d = demo(GetParam().demo);
        d.board.method = GetParam().method;
        return d;
    }();
    static Result<Board> made(const Design& d) { return ask(BoardQuery{d.circuit, board_choices(d)}); }
    Board board = made(design).value();

    /// How far a part lies from another [holes].
    static std::pair<int, int> apart(const Board& b, const std::string& from, const std::string& to) {
        const auto holes = [](double mm) { return static_cast<int>(std::lround(mm / hole_pitch)); };
        return {holes(b.part(to)->x - b.part(from)->x), holes(b.part(to)->y - b.part(from)->y)};
    }
    /// Parts that do not lie where they lay to this one.
    static std::vector<std::string> moved(const Board& before, const Board& after, const std::string& from) {
        std::vector<std::string> all;
        for (const BoardPart& p : before.parts)
            if (p.designator != from &&
                (apart(before, from, p.designator) != apart(after, from, p.designator) ||
                 p.turn != after.part(p.designator)->turn))
                all.push_back(p.designator);
        return all;
    }
    /// Which body lies over which.
    static std::vector<std::string> overlaps(const Board& b) {
        std::vector<std::string> all;
        const auto body = [](const BoardPart& p) {  // with its legs as they are bent
            const GridFootprint shape = on_grid(p.footprint);
            const Placement at{p.designator,
                               {static_cast<int>(std::lround(p.x / hole_pitch - 0.5)),
                                static_cast<int>(std::lround(p.y / hole_pitch - 0.5))},
                               static_cast<int>(std::lround(p.turn / 90)) & 3};
            return placed_body(shape, at);
        };
        for (std::size_t i = 0; i < b.parts.size(); ++i)
            for (std::size_t k = 0; k < i; ++k)
                if (body(b.parts[i]).overlaps(body(b.parts[k])))
                    all.push_back(b.parts[i].designator + " over " + b.parts[k].designator);
        return all;
    }
    std::string first_resistor() const {
        for (const Part& p : design.circuit.parts)
            if (p.kind == "resistor") return p.designator;
        return {};
    }
    std::string other_than(const std::string& part) const {
        for (const BoardPart& p : board.parts)
            if (p.designator != part && p.place == PartPlace::board) return p.designator;
        return {};
    }
};

TEST_P(PutOnHoles, TheBoardSaysWhereItsPartsLie) {
    for (const PlacedPin& pin : board.pins) {
        const BoardPart* part = board.part(pin.designator);
        ASSERT_TRUE(part);
        EXPECT_GT(part->x, 0) << pin.designator;
        EXPECT_LT(part->x, board.width) << pin.designator;
        EXPECT_LT(part->y, board.height) << pin.designator;
        EXPECT_EQ(std::fmod(part->turn, 90), 0) << pin.designator;
    }
}

TEST_P(PutOnHoles, OnePartIsMovedAndTheOthersStay) {
    const std::string part = first_resistor(), other = other_than(part);
    int clear = 0;
    for (const auto& [dx, dy] : {std::pair{2.54, 0.0}, {0.0, 2.54}, {-2.54, 0.0}, {0.0, -2.54}}) {
        const auto next = moved_by_hand(design, board, part, dx, dy);
        ASSERT_TRUE(next);
        EXPECT_EQ(next.value().board.spots.size(), board.parts.size());
        const auto after = made(next.value());
        ASSERT_TRUE(after) << after.error().text();
        EXPECT_EQ(after.value().differences, std::vector<std::string>{});
        EXPECT_EQ(overlaps(after.value()), std::vector<std::string>{});
        const auto others = moved(board, after.value(), other);
        if (others != std::vector{part}) continue;  // another lay there
        ++clear;
        EXPECT_EQ(apart(after.value(), other, part).first - apart(board, other, part).first,
                  std::lround(dx / hole_pitch));
        EXPECT_EQ(apart(after.value(), other, part).second - apart(board, other, part).second,
                  std::lround(dy / hole_pitch));
    }
    EXPECT_GT(clear, 0) << "one of four ways should be free";
}

TEST_P(PutOnHoles, WhatLiesThereMovesAside) {
    const std::string part = first_resistor();
    for (const BoardPart& under : board.parts) {
        if (under.designator == part || under.place != PartPlace::board) continue;
        const auto next =
            moved_by_hand(design, board, part, under.x - board.part(part)->x, under.y - board.part(part)->y);
        ASSERT_TRUE(next);
        const auto after = made(next.value());
        ASSERT_TRUE(after) << after.error().text();
        EXPECT_EQ(overlaps(after.value()), std::vector<std::string>{}) << under.designator;
        std::size_t moves = board.parts.size();  // seen from one that did not move itself
        for (const BoardPart& from : board.parts)
            moves = std::min(moves, moved(board, after.value(), from.designator).size());
        EXPECT_LE(moves, board.parts.size() / 2) << under.designator << ": most parts stay";
    }
}

TEST_P(PutOnHoles, IsTurnedAboutItsMiddleAndFourTurnsAreNone) {
    const std::string part = first_resistor();
    Design turned = design;
    Board now = board;
    for (int k = 1; k <= 4; ++k) {
        const auto next = turned_by_hand(turned, now, part, 90);
        ASSERT_TRUE(next);
        turned = next.value();
        auto after = made(turned);
        ASSERT_TRUE(after) << after.error().text();
        now = std::move(after).value();
        EXPECT_EQ(std::fmod(now.part(part)->turn - board.part(part)->turn + 720, 360), (90 * k) % 360);
        EXPECT_EQ(overlaps(now), std::vector<std::string>{});
    }
}

TEST_P(PutOnHoles, LegsAreBentFurtherApartAndBack) {
    const std::string part = first_resistor();
    const std::vector<double> spans = board.part(part)->spans;
    ASSERT_GT(spans.size(), 1u);
    EXPECT_TRUE(std::is_sorted(spans.begin(), spans.end())) << "its own is the least";
    int reached = 0;
    for (const double span : spans) {
        const auto next = bent_by_hand(design, board, part, span);
        ASSERT_TRUE(next) << next.error().text();
        const auto after = made(next.value());
        if (!after) {  // on strips there may be no hole to cut
            EXPECT_EQ(std::string(GetParam().method), "strip") << after.error().text();
            continue;
        }
        ++reached;
        const BoardPart& bent = *after.value().part(part);
        EXPECT_EQ(after.value().differences, std::vector<std::string>{});
        EXPECT_EQ(overlaps(after.value()), std::vector<std::string>{});
        EXPECT_DOUBLE_EQ(bent.footprint.pads.back().x, span);
        EXPECT_DOUBLE_EQ(bent.span, span == spans.front() ? 0 : span);
        const auto back = bent_by_hand(next.value(), after.value(), part, spans.front());
        ASSERT_TRUE(back);
        for (const PartSpot& spot : back.value().board.spots)
            if (spot.part == part) {
                EXPECT_DOUBLE_EQ(spot.span, 0);
            }
    }
    EXPECT_GT(reached, 1);
    const auto too_far = bent_by_hand(design, board, part, 55);
    ASSERT_FALSE(too_far);
    EXPECT_NE(too_far.error().text().find("do not reach 55 mm"), std::string::npos);
}

TEST_P(PutOnHoles, TheRestIsLaidAnewRoundWhatStays) {
    const std::string part = first_resistor(), other = other_than(part);
    Design next = moved_by_hand(design, board, part, 2.54, 0).value();
    Board now = made(next).value();
    next = locked_by_hand(next, now, other, true).value();
    const Design anew = arranged_anew(next);
    EXPECT_EQ(anew.board.spots.size(), 2U);
    const auto after = made(anew);
    ASSERT_TRUE(after) << after.error().text();
    EXPECT_EQ(after.value().differences, std::vector<std::string>{});
    EXPECT_EQ(apart(after.value(), part, other), apart(now, part, other));
    EXPECT_EQ(after.value().part(part)->turn, now.part(part)->turn);
    // and what need not stay either is laid as from the start
    Design free = anew;
    for (PartSpot& s : free.board.spots) s.locked = false;
    free = arranged_anew(free);
    EXPECT_TRUE(free.board.spots.empty());
    EXPECT_TRUE(free.board.ways_by.empty());
    EXPECT_EQ(made(free).value().size, board.size);
}

TEST_P(PutOnHoles, PartsThatStayOverEachOtherAreNamed) {
    const std::string part = first_resistor(), other = other_than(part);
    Design next = locked_by_hand(design, board, other, true).value();
    const BoardPart &a = *board.part(part), &b = *board.part(other);
    next = moved_by_hand(next, board, part, b.x - a.x, b.y - a.y).value();
    const auto after = made(next);
    ASSERT_FALSE(after);
    EXPECT_EQ(after.error().place, "/board/spots");
    EXPECT_NE(after.error().found.find(part), std::string::npos) << after.error().found;
    EXPECT_NE(after.error().found.find(other), std::string::npos) << after.error().found;
}

TEST_P(PutOnHoles, PlacesAmongHolesMeanNothingOnCopperNorTheOtherWayRound) {
    Design next = moved_by_hand(design, board, first_resistor(), 25.4, 25.4).value();
    Design milled = next, plain = design;
    milled.board.method = plain.board.method = "milled";
    const auto copper = made(milled), as_if_never = made(plain);
    ASSERT_TRUE(copper && as_if_never);
    EXPECT_EQ(copper.value().size, as_if_never.value().size);
    Design back = moved_by_hand(plain, as_if_never.value(), first_resistor(), 1.27, 0).value();
    EXPECT_FALSE(back.board.spots.empty());
    back.board.method = GetParam().method;
    EXPECT_EQ(made(back).value().size, board.size) << "spots of a milled board";
    Design other = next, fresh = design;  // nor on the other board of holes, as when methods are compared
    other.board.method = fresh.board.method = std::string(GetParam().method) == "pad" ? "strip" : "pad";
    EXPECT_EQ(made(other).value().size, made(fresh).value().size);
}

TEST_P(PutOnHoles, ASpotOfNoPartIsAnError) {
    Design next = moved_by_hand(design, board, first_resistor(), 2.54, 0).value();
    next.board.spots.front().part = "R99";
    const auto after = made(next);
    ASSERT_FALSE(after);
    EXPECT_NE(after.error().found.find("R99"), std::string::npos);
}

TEST_P(PutOnHoles, ABoardOfChosenSidesSaysWhatLiesBesideIt) {
    Design next = moved_by_hand(design, board, first_resistor(), 254, 0).value();
    EXPECT_TRUE(made(next)) << "a board of no chosen sides grows";
    next.board.columns = 40, next.board.rows = 40;
    const auto after = made(next);
    ASSERT_FALSE(after);
    EXPECT_NE(after.error().found.find("beside the board"), std::string::npos) << after.error().found;
}

TEST(PutOnStrips, EveryMoveGivesItsCircuitOrSaysWhyNot) {
    Design design = demo("harbour-beacon");
    design.board.method = "strip";
    const Board board = ask(BoardQuery{design.circuit, board_choices(design)}).value();
    int boards = 0;
    for (const BoardPart& p : board.parts)
        for (const auto& [dx, dy] : {std::pair{2.54, 0.0}, {0.0, 2.54}, {-5.08, 0.0}}) {
            const Design next = moved_by_hand(design, board, p.designator, dx, dy).value();
            const auto after = ask(BoardQuery{next.circuit, board_choices(next)});
            if (after) {
                EXPECT_EQ(after.value().differences, std::vector<std::string>{}) << p.designator;
                ++boards;
            } else {
                EXPECT_EQ(after.error().place, "/board/spots") << p.designator;
            }
        }
    EXPECT_GT(boards, 3);
}

INSTANTIATE_TEST_SUITE_P(Some, PutOnHoles,
                         testing::Values(Case{"pad", "firefly-jar"}, Case{"pad", "twin-blinker"},
                                         Case{"strip", "twin-blinker"}, Case{"strip", "pier-lantern"}),
                         [](const auto& one) {
                             std::string name = std::string(one.param.method) + "_" + one.param.demo;
                             std::replace(name.begin(), name.end(), '-', '_');
                             return name;
                         });

}  // namespace
}  // namespace elkit::test
