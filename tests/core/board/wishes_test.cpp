// What is wished of boards of holes: areas that stay free, joints and links that pass a hole, lights where
// the face has them. The board is always the circuit.
#include "board/holes/wishes.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "board/by_hand.hpp"
#include "board/copper/geometry.hpp"
#include "board/holes/parts.hpp"
#include "board/pad/pad_board.hpp"
#include "board/strip/strip_board.hpp"
#include "support/board_circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

using Names = std::vector<std::string>;

Result<Board> made(const Design& d) { return ask(BoardQuery{d.circuit, board_choices(d)}); }

struct OnHolesLaid {
    HoleParts parts;
    HoleLayout layout;
};
OnHolesLaid on_holes(const Design& d) {
    const BoardChoices choices = board_choices(d);
    HoleParts parts = hole_parts(d.circuit, choices).value();
    HoleLayout layout = (choices.method == "pad" ? lay_out_pads : lay_out_strips)(parts, choices, {}).value();
    return {std::move(parts), std::move(layout)};
}

/// What lies in areas that stay free, or conducts there for a net.
Names in_areas(const OnHolesLaid& l) {
    Names found;
    for (const HolePart& p : l.parts.all)
        if (const Placement* at = l.layout.placement(p.part->designator))
            for (const Box& b : l.layout.wishes.free)
                if (b.overlaps(room_taken(p, *at))) found.push_back(p.part->designator);
    for (const auto& [hole, net] : hole_nets(l.layout))
        if (l.layout.wishes.keeps_free(hole) &&
            std::find(l.layout.cuts.begin(), l.layout.cuts.end(), hole) == l.layout.cuts.end())
            found.push_back(net + " at " + l.layout.board.name(hole));
    return found;
}

struct Where {
    const char *method, *demo;
};
class OnHoles : public testing::TestWithParam<Where> {
  protected:
    Design design = [] {
        Design d = demo(GetParam().demo);
        d.board.method = GetParam().method;
        return d;
    }();
};

TEST_P(OnHoles, NothingIsInAreasThatStayFree) {
    const Board board = made(design).value();
    const double w = board.width, h = board.height;
    int made_free = 0;
    for (const KeepOut& area :
         {KeepOut{0, 0, 6, 6, {}}, {w / 2 - 3, h / 2 - 3, 6, 6, {}}, {w - 8, 0, 8, 4, {}}}) {
        const auto next = kept_free_by_hand(design, board, area);
        ASSERT_TRUE(next) << next.error().text();
        const auto after = made(next.value());
        ASSERT_TRUE(after) << after.error().text();
        EXPECT_EQ(after.value().differences, Names{});
        const OnHolesLaid l = on_holes(next.value());
        ASSERT_EQ(l.layout.wishes.free.size(), 1u);
        EXPECT_EQ(in_areas(l), Names{});
        ++made_free;
    }
    EXPECT_EQ(made_free, 3);
}

TEST_P(OnHoles, AreasAreKeptByBoardsThatAreLaidOutAnew) {
    Design fresh = design;
    fresh.board.spots.clear();
    fresh.board.keep_out = {{0, 0, 7.62, 7.62, {}}, {20.32, 5.08, 5.08, 10.16, {}}};
    const OnHolesLaid l = on_holes(fresh);
    EXPECT_EQ(layout_differences(l.layout, fresh.circuit), Names{});
    EXPECT_EQ(in_areas(l), Names{});
    EXPECT_GE(l.layout.columns(), 10) << "the board has its areas";
    EXPECT_EQ(l.layout.origin, (Hole{0, 0}));
}

TEST_P(OnHoles, APartThatStaysInAnAreaIsRefused) {
    const Board board = made(design).value();
    const BoardPart* part = nullptr;
    for (const BoardPart& p : board.parts)
        if (p.place == PartPlace::board && !part) part = &p;
    ASSERT_TRUE(part);
    Design kept = locked_by_hand(design, board, part->designator, true).value();
    kept = kept_free_by_hand(kept, board, {part->x - 1, part->y - 1, 2, 2, {}}).value();
    const auto after = made(kept);
    ASSERT_FALSE(after);
    EXPECT_EQ(after.error().found, part->designator + " lies in an area that stays free");
}

TEST_P(OnHoles, AreasAndPullsGoWithTheBoard) {
    const Board board = made(design).value();
    const std::string net = design.circuit.nets().front();
    Design next = kept_free_by_hand(design, board, {board.width - 6, 0, 5, 5, {}}).value();
    next = pulled_by_hand(next, made(next).value(), {net, 1.27, 1.27, false, {}}).value();
    const Board with = made(next).value();
    // a part moved beyond the left edge makes the board wider there
    const BoardPart* first = nullptr;
    for (const BoardPart& p : with.parts)
        if (p.place == PartPlace::board && (!first || p.x < first->x)) first = &p;
    const Design beyond = moved_by_hand(next, with, first->designator, -3 * hole_pitch, 0).value();
    const auto wider = made(beyond);
    ASSERT_TRUE(wider) << wider.error().text();
    const OnHolesLaid l = on_holes(beyond);
    EXPECT_EQ(in_areas(l), Names{});
    const Design again = locked_by_hand(beyond, wider.value(), first->designator, true).value();
    const auto same = made(again);
    ASSERT_TRUE(same) << same.error().text();
    EXPECT_NEAR(again.board.keep_out.front().x - beyond.board.keep_out.front().x, wider.value().origin_x,
                1e-6);
    EXPECT_NEAR(again.board.pulls.front().x - beyond.board.pulls.front().x, wider.value().origin_x, 1e-6);
    EXPECT_NEAR(same.value().origin_x, 0, 1e-6) << "the design has the board's own places now";
}

INSTANTIATE_TEST_SUITE_P(Some, OnHoles,
                         testing::Values(Where{"pad", "pier-lantern"}, Where{"pad", "twin-blinker"},
                                         Where{"strip", "twin-blinker"}, Where{"strip", "firefly-jar"},
                                         Where{"pad", "frost-guard"}),
                         [](const auto& of) {
                             std::string name = std::string(of.param.method) + of.param.demo;
                             std::erase(name, '-');
                             return name;
                         });

TEST(Wishes, AJointPassesTheHoleThatItIsPulledTo) {
    int passed = 0, asked = 0;
    for (const unsigned seed : {1u, 2u, 3u, 4u}) {
        Design design;
        design.circuit = board_circuit(8, seed);
        design.board.method = "pad";
        const Board board = made(design).value();
        const OnHolesLaid before = on_holes(design);
        const auto taken = hole_nets(before.layout);
        for (const std::string& net : design.circuit.nets()) {
            const auto of_net = [&](const Bridge& b) { return taken.at(b.a) == net; };
            const auto from =
                std::find_if(before.layout.bridges.begin(), before.layout.bridges.end(), of_net);
            if (from == before.layout.bridges.end()) continue;
            // the free hole that is nearest to one of its joints, but not beside it
            Hole to{-1, -1};
            for (int row = 0; row < before.layout.rows(); ++row)
                for (int column = 0; column < before.layout.columns(); ++column)
                    if (const int far = holes_between(from->a, {column, row});
                        far >= 2 && !taken.contains({column, row}) &&
                        (to.row < 0 || far < holes_between(from->a, to)))
                        to = {column, row};
            if (to.row < 0) continue;
            ++asked;
            const auto mm = [](int hole) { return (hole + 0.5) * hole_pitch; };
            const auto next =
                pulled_by_hand(design, board, {net, mm(to.column) + 0.4, mm(to.row) - 0.4, false, {}});
            ASSERT_TRUE(next) << next.error().text();
            const auto after = made(next.value());
            ASSERT_TRUE(after) << after.error().text();
            EXPECT_EQ(after.value().differences, Names{}) << net;
            const OnHolesLaid l = on_holes(next.value());
            ASSERT_EQ(l.layout.wishes.pulls.size(), 1u);
            const HolePull& pull = l.layout.wishes.pulls.front();
            passed += is_passed(l.layout, pull);
            // it goes on from there, where there is room for that
            const auto ends =
                std::count_if(l.layout.bridges.begin(), l.layout.bridges.end(),
                              [&](const Bridge& b) { return b.a == pull.hole || b.b == pull.hole; });
            EXPECT_LE(ends, 4);
            const Design without = pull_let_go(next.value(), 0).value();
            EXPECT_TRUE(without.board.pulls.empty());
            for (const TrackWay& way : without.board.ways) EXPECT_NE(way.net, net);
            EXPECT_EQ(made(without).value().differences, Names{});
        }
    }
    EXPECT_GT(asked, 10);
    EXPECT_GE(passed, asked - asked / 10) << "of " << asked;
}

TEST(Wishes, APulledJointGoesOnFromItsHole) {
    // two legs in a row, and the joint between them pulled two holes aside
    HoleLayout l{pad_substrate(7, 5), {}, {}, {}, {}, {}};
    l.pins = {{"R1", "a", "N", {0, 1}}, {"R2", "a", "N", {6, 1}}};
    l.wishes.pulls = {{"N", {3, 3}}};
    route_board(l);
    EXPECT_TRUE(is_passed(l, l.wishes.pulls.front()));
    std::map<Hole, int> ends;
    for (const Bridge& b : l.bridges) ++ends[b.a], ++ends[b.b];
    for (const auto& [hole, count] : ends)
        EXPECT_EQ(count, hole == (Hole{0, 1}) || hole == (Hole{6, 1}) ? 1 : 2) << l.board.name(hole);
    EXPECT_EQ(l.bridges.size(), 10u) << "straight there and straight back";
}

TEST(Wishes, ARunThatALinkHangsOnStaysWhereTheJointIsPulledAway) {
    HoleLayout l{pad_substrate(7, 5), {}, {}, {}, {}, {}};
    l.pins = {{"R1", "a", "N", {0, 1}}, {"R2", "a", "N", {6, 1}}, {"R3", "a", "N", {6, 4}}};
    for (const int column :
         {0, 1, 2, 4, 5})  // legs of nobody's net, so that the way back is by the right edge
        l.pins.push_back({"X" + std::to_string(column), "", "", {column, 2}});
    for (int column = 0; column < 6; ++column) l.bridges.push_back({{column, 1}, {column + 1, 1}});
    l.bridges.push_back({{3, 1}, {3, 2}}), l.bridges.push_back({{3, 2}, {3, 3}});
    l.bridges.push_back({{5, 4}, {6, 4}});
    l.wires = {{{5, 1}, {5, 4}, Wire::Kind::link}};
    l.wishes.pulls = {{"N", {3, 3}}};
    const auto joined = [&] {  // pins of N that hang together, as groups
        std::size_t groups = 0;
        for (const auto& group : extract_groups(l)) groups += group.front().find("X") == std::string::npos;
        return groups;
    };
    ASSERT_EQ(joined(), 1u);
    pass_through(l);
    const auto ends = std::count_if(l.bridges.begin(), l.bridges.end(), [](const Bridge& b) {
        return b.a == Hole{3, 3} || b.b == Hole{3, 3};
    });
    EXPECT_EQ(ends, 2) << "it goes on";
    EXPECT_EQ(joined(), 1u) << "and the link still joins R3";
}

TEST(Wishes, ALinkOfAStripBoardGoesWhereItIsPulledTo) {
    int moved = 0, asked = 0;
    for (const char* id : {"twin-blinker", "firefly-jar", "frost-guard"}) {
        Design design = demo(id);
        design.board.method = "strip", design.board.columns = 22, design.board.rows = 13;  // with room
        const Board board = made(design).value();
        const OnHolesLaid before = on_holes(design);
        const auto nets = hole_nets(before.layout);
        for (const Wire& w : before.layout.wires) {
            if (w.kind != Wire::Kind::link) continue;
            for (const int step : {-1, 1, 2}) {
                const Hole to{w.a.column + step, (w.a.row + w.b.row) / 2};
                if (!before.layout.board.on_grid(to)) continue;
                ++asked;
                const Design next = pulled_by_hand(design, board,
                                                   {nets.at(w.a),
                                                    (to.column + 0.5) * hole_pitch,
                                                    (to.row + 0.5) * hole_pitch,
                                                    false,
                                                    {}})
                                        .value();
                const auto after = made(next);
                ASSERT_TRUE(after) << after.error().text();
                EXPECT_EQ(after.value().differences, Names{});
                const OnHolesLaid l = on_holes(next);
                moved += is_passed(l.layout, l.layout.wishes.pulls.front());
            }
        }
    }
    EXPECT_GT(moved, asked / 4) << "of " << asked << ", where there is room";
}

TEST(Wishes, WhatLiesBeyondAnyBoardIsNamedAndNotWaitedFor) {
    for (const char* method : {"pad", "strip"}) {
        Design design = demo("firefly-jar");
        design.board.method = method;
        design.board.keep_out = {{0, 0, 5, 5, {}}, {480, 0, 5, 5, {}}};
        auto board = made(design);
        ASSERT_FALSE(board);
        EXPECT_EQ(board.error().place, "/board/keep_out/1");
        design.board.keep_out = {{0, 0, 30, 30, {}}};
        board = made(design);
        ASSERT_TRUE(board) << board.error().text() << ": there is room beside so large an area";
        EXPECT_EQ(board.value().differences, Names{});
        design.board.keep_out.clear();
        design.board.pulls = {{design.circuit.nets().front(), 10, 1e6, false, {}}};
        board = made(design);
        ASSERT_FALSE(board);
        EXPECT_EQ(board.error().place, "/board/pulls/0");
        design.board.columns = 30, design.board.rows = 20;  // it is not on this one
        board = made(design);
        ASSERT_TRUE(board) << board.error().text();
        EXPECT_EQ(board.value().differences, Names{});
    }
}

TEST(Wishes, ANetThatIsNotThereIsNamed) {
    Design design = demo("firefly-jar");
    design.board.method = "pad";
    design.board.pulls = {{"NOWHERE", 5, 5, false, {}}};
    const auto board = made(design);
    ASSERT_FALSE(board);
    EXPECT_EQ(board.error().place, "/board/pulls/0/net");
}

/// mm that a light's middle lies from another's on the board.
Point middle_of(const BoardPart& p) {
    const double r = p.turn * 3.14159265358979 / 180;
    const double x = (p.footprint.body.x0 + p.footprint.body.x1) / 2,
                 y = (p.footprint.body.y0 + p.footprint.body.y1) / 2;
    return {p.x + x * std::cos(r) - y * std::sin(r), p.y + x * std::sin(r) + y * std::cos(r)};
}

class LightsOfTheFace : public testing::TestWithParam<const char*> {};

TEST_P(LightsOfTheFace, StandAsItHasThem) {
    Design design = demo("herbarium-ring");
    design.board.method = GetParam();
    design.board.lights = "face";
    design.face.places.clear();
    const auto lights = std::count_if(design.circuit.parts.begin(), design.circuit.parts.end(),
                                      [](const Part& p) { return is(p, Role::diode_light); });
    int n = 0;
    for (const Part& p : design.circuit.parts)
        if (is(p, Role::diode_light)) {
            const double angle = 2 * 3.14159265358979 * n++ / static_cast<double>(lights);
            design.face.places.push_back(
                {p.designator, 60 + 48 * std::cos(angle), 60 + 48 * std::sin(angle), {}});
        }
    ASSERT_GT(n, 3);
    const auto board = made(design);
    ASSERT_TRUE(board) << board.error().text();
    EXPECT_EQ(board.value().differences, Names{});
    constexpr double furthest = 2 * 1.27 * 1.42;  // mm: two lights, each half a hole away both ways
    const auto& places = design.face.places;
    for (const FacePlace& a : places)
        for (const FacePlace& b : places) {
            const Point p = middle_of(*board.value().part(a.light)),
                        q = middle_of(*board.value().part(b.light));
            EXPECT_LE(std::hypot(p.x - q.x - a.x + b.x, p.y - q.y - a.y + b.y), furthest)
                << a.light << b.light;
        }
    std::set<double> turns;
    for (const FacePlace& a : places) turns.insert(board.value().part(a.light)->turn);
    EXPECT_EQ(turns.size(), 1u) << "all look the same way";
    const auto work = std::find_if(board.value().works.begin(), board.value().works.end(),
                                   [](const BoardWork& w) { return w.id == "lights.face"; });
    ASSERT_NE(work, board.value().works.end());
    EXPECT_NE(work->text.find("mm"), std::string::npos) << work->text;
}
INSTANTIATE_TEST_SUITE_P(Both, LightsOfTheFace, testing::Values("pad", "strip"));

TEST(Wishes, LightsOnTheGridStandExactly) {
    Design design = demo("herbarium-ring");
    design.board.method = "pad";
    design.board.lights = "face";
    design.face.places.clear();
    int n = 0;
    for (const Part& p : design.circuit.parts)
        if (is(p, Role::diode_light))
            design.face.places.push_back({p.designator, 7.1 + 10.16 * (n % 4), 3.3 + 12.7 * (n / 4), {}}),
                ++n;
    const BoardChoices choices = board_choices(design);
    const HoleParts parts = hole_parts(design.circuit, choices).value();
    EXPECT_LT(parts.face.beside, 0.1);
    const Board board = made(design).value();
    const Point first = middle_of(*board.part(design.face.places.front().light));
    for (const FacePlace& p : design.face.places) {
        const Point at = middle_of(*board.part(p.light));
        EXPECT_NEAR(at.x - first.x, p.x - design.face.places.front().x, 1e-6);
        EXPECT_NEAR(at.y - first.y, p.y - design.face.places.front().y, 1e-6);
    }
}

}  // namespace
}  // namespace elkit::test
