// Boards of copper: polygons, methods as data, places and ways of all demos, faults planted in layouts.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <cstdlib>

#include "board/board.hpp"
#include "board/by_hand.hpp"
#include "board/compare.hpp"
#include "board/copper/layout.hpp"
#include "board/copper/mill_plan.hpp"
#include "board/copper/track_current.hpp"
#include "command/own_parts.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "fabricate/fabricated.hpp"
#include "kit/board_sheet.hpp"
#include "support/board_circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

const Making& making(const char* id) { return *makings().method(id); }

TEST(Regions, HaveTheAreaOfTheirShapes) {
    EXPECT_NEAR(Region::disc({3, 4}, 2).area(), 3.14159, 0.03);
    EXPECT_NEAR(Region::stroke({0, 0}, {10, 0}, 1).area(), 10.785, 0.03);
    EXPECT_NEAR(Region::box(0, 0, 4, 3).grown(1).area(), 12 + 14 + 3.14159, 0.03);
    EXPECT_TRUE(Region::box(0, 0, 4, 3).grown(-1.6).empty());
    const Region ring = Region::disc({0, 0}, 10).without(Region::disc({0, 0}, 6));
    EXPECT_FALSE(ring.contains({0, 0}));
    EXPECT_TRUE(ring.contains({4, 0}));
    EXPECT_EQ(ring.with(Region::disc({0, 0}, 2)).pieces().size(), 2u) << "an island in the hole";
    EXPECT_NEAR(ring.mirrored(5).area(), ring.area(), 1e-6);
    EXPECT_TRUE(ring.mirrored(5).contains({14, 0}));
}

TEST(Regions, TellHowFarAPointIs) {
    const Region ring = Region::disc({0, 0}, 10).without(Region::disc({0, 0}, 6));
    EXPECT_NEAR(ring.from({0, 0}), 3, 0.01);
    EXPECT_EQ(ring.from({4, 0}), 0);
    EXPECT_NEAR(ring.from({9, 0}), 4, 0.01);
    EXPECT_TRUE(std::isinf(Region().from({0, 0})));
    // as polygons have it: near enough to touch, or not
    for (double x = 0; x < 8; x += 0.37) {
        const double far = ring.from({x, 1});
        EXPECT_TRUE(ring.touches(Region::disc({x, 1}, 2 * far + 0.1))) << x;
        EXPECT_FALSE(far > 0.1 && ring.touches(Region::disc({x, 1}, 2 * far - 0.1))) << x;
    }
}

TEST(Regions, FallIntoPiecesWithTheirHoles) {
    Region all;
    for (int k = 0; k < 5; ++k) {
        const double x = 20.0 * k;
        all = all.with(Region::disc({x, 0}, 16).without(Region::disc({x, 0}, 12)));  // a ring
        all = all.with(Region::disc({x, 0}, 8).without(Region::disc({x, 0}, 4)));    // in its hole
    }
    const auto pieces = all.pieces();
    ASSERT_EQ(pieces.size(), 10u);
    double sum = 0;
    for (const Region& piece : pieces) {
        EXPECT_EQ(piece.rings().size(), 2u);
        sum += piece.area();
    }
    EXPECT_NEAR(sum, all.area(), 1e-6);
    EXPECT_TRUE(Region().pieces().empty());
}

TEST(Regions, CombineAsIfNothingLayFarAway) {
    // only what is near is looked at: the same as with all of it
    const Region hole = Region::box(0, 0, 30, 30).without(Region::box(5, 5, 25, 25));
    EXPECT_NEAR(hole.within(Region::box(10, 10, 12, 12)).area(), 0, 1e-9) << "within its hole";
    EXPECT_NEAR(hole.within(Region::box(4, 4, 6, 6)).area(), 3, 1e-6);
    EXPECT_NEAR(Region::box(10, 10, 12, 12).without(hole).area(), 4, 1e-6);
    EXPECT_NEAR(hole.without(Region::box(100, 0, 101, 1)).area(), hole.area(), 1e-6);
    EXPECT_NEAR(Region::box(1, 1, 2, 2).within(hole).area(), 1, 1e-6);
    EXPECT_TRUE(Region().within(hole).empty());
    EXPECT_NEAR(hole.without(Region()).area(), hole.area(), 1e-9);
}

/// The quick way to what a mill leaves against stroke by stroke.
TEST(Planted, WhatIsLeftIsWhatTheStrokesLeave) {
    for (const char* id : {"pier-lantern", "harbour-beacon"}) {
        const Design d = demo(id);
        const CopperLayout l = lay_out_copper(d.circuit, {}, *makings().method("milled")).value();
        const MillPlan plan = mill_plan(l, solder_side, true);
        ASSERT_EQ(plan.passes.size(), static_cast<std::size_t>(l.making.passes));
        const Region swept = Region::along(plan.isolation(), plan.width)
                                 .with(Region::along(plan.clearing, plan.clearing_width));
        const Region quick = copper_left(l, plan), slow = board_region(l).without(swept);
        EXPECT_GT(slow.area(), 10);
        EXPECT_LT(quick.without(slow).area() + slow.without(quick).area(), 0.02 * slow.area()) << id;
        EXPECT_EQ(copper_groups(l, {quick}), copper_groups(l, {slow})) << id;
    }
}

TEST(Distances, AreThoseOfLinesThatCrossOrNot) {
    EXPECT_DOUBLE_EQ(distance({0, 0}, {10, 0}, {5, -5}, {5, 5}), 0);
    EXPECT_DOUBLE_EQ(distance({0, 0}, {10, 0}, {5, 2}, {5, 5}), 2);
    EXPECT_DOUBLE_EQ(distance({0, 0}, {10, 0}, {13, 4}, {20, 4}), 5);
    for (const double turn : {0.0, 90.0, 180.0, 270.0, 450.0, -90.0}) {
        const Point p = turned({3, 1}, turn);
        const double a = turn * 3.14159265358979 / 180;
        EXPECT_NEAR(p.x, 3 * std::cos(a) - std::sin(a), 1e-9);
        EXPECT_NEAR(p.y, 3 * std::sin(a) + std::cos(a), 1e-9);
    }
}

TEST(Making, AToolCutsAsWideAsItsDepthMakesIt) {
    const MillTool& v = *makings().tool("v-30");
    EXPECT_NEAR(v.width(), 0.1 + 2 * 0.1 * std::tan(15 * 3.14159265 / 180) + 0.04, 1e-6);
    MillTool deeper = v;
    deeper.depth = 0.2;
    EXPECT_GT(deeper.width(), v.width());
    EXPECT_EQ(making("milled").hole(0.85), 1.0) << "the next that there is";
    EXPECT_EQ(making("ordered").hole(0.85), 0.85) << "any";
}

struct WrongMaking {
    const char *name, *json, *found;
};
class WrongMakings : public testing::TestWithParam<WrongMaking> {};
TEST_P(WrongMakings, AreNamed) {
    const auto read = read_makings(GetParam().json, makings());
    ASSERT_FALSE(read);
    EXPECT_EQ(read.error().place.rfind("making", 0), 0u);
    EXPECT_NE(read.error().found.find(GetParam().found), std::string::npos) << read.error().text();
}
INSTANTIATE_TEST_SUITE_P(
    All, WrongMakings,
    testing::Values(
        WrongMaking{"text", "no", "parse"}, WrongMaking{"list", "[]", "object"},
        WrongMaking{"kind", R"({"tools": [{"id": "a", "name": "A", "kind": "saw"}]})", "kind is \"saw\""},
        WrongMaking{
            "tip",
            R"({"tools": [{"id": "a", "name": "A", "kind": "mill", "tip": -1, "depth": 1, "feed": 1, "plunge": 1, "speed": 999}]})",
            "tip is -1"},
        WrongMaking{
            "twice",
            R"({"materials": [{"id": "a", "name": "A", "thickness": 1, "copper": 35}, {"id": "a", "name": "B", "thickness": 1, "copper": 35}]})",
            "twice"},
        WrongMaking{
            "material",
            R"({"methods": [{"id": "a", "name": "A", "about": "", "process": "ordered", "layers": 1, "track": 1, "track_least": 1, "gap": 1, "ring": 1, "land_ring": 1, "hole_least": 1, "hole_gap": 1, "hole_edge": 1, "copper_edge": 1, "via": "none", "material": "wood"}]})",
            "wood"}),
    [](const auto& i) { return std::string(i.param.name); });

/// Everything that must hold of a finished board.
void expect_sound(const CopperLayout& l, const Circuit& circuit, const std::string& what) {
    EXPECT_EQ(l.open, std::vector<std::string>{}) << what;
    EXPECT_EQ(copper_differences(l, circuit, copper_groups(l)), std::vector<std::string>{}) << what;
    for (const RuleFault& f : rule_faults(l)) ADD_FAILURE() << what << ": " << f.rule << ": " << f.text;
}

class EveryDemoOnCopper : public testing::TestWithParam<std::string> {};
TEST_P(EveryDemoOnCopper, BecomesItsCircuit) {
    const Design d = read_design(find_demo(GetParam())->text).value();
    for (const char* method : {"milled", "ordered"}) {
        const auto l = lay_out_copper(d.circuit, d.board, making(method));
        ASSERT_TRUE(l) << l.error().text();
        expect_sound(l.value(), d.circuit, method);
        EXPECT_EQ(l.value().links.empty() || l.value().layers == 1, true)
            << "links only where there is one layer";
    }
}
std::vector<std::string> demo_ids() {
    std::vector<std::string> ids;
    for (const Demo& d : demos()) ids.push_back(d.id);
    return ids;
}
INSTANTIATE_TEST_SUITE_P(All, EveryDemoOnCopper, testing::ValuesIn(demo_ids()), [](const auto& i) {
    std::string name = i.param;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
});

class RandomOnCopper : public testing::TestWithParam<int> {};
TEST_P(RandomOnCopper, BecomesItsCircuitAndNoPartsOverlap) {
    const Circuit c = board_circuit(10 + 4 * GetParam(), 77U + static_cast<unsigned>(GetParam()));
    for (const char* method : {"milled", "ordered"}) {
        const auto l = lay_out_copper(c, {}, making(method));
        ASSERT_TRUE(l) << l.error().text();
        expect_sound(l.value(), c, method);
        for (const CopperPart& a : l.value().parts)
            for (const CopperPart& b : l.value().parts)
                EXPECT_TRUE(&a == &b || !a.bounds().overlaps(b.bounds()))
                    << a.part->designator << b.part->designator;
    }
}
INSTANTIATE_TEST_SUITE_P(Some, RandomOnCopper, testing::Range(0, 4));

struct Laid {
    Design design;
    CopperLayout layout;
};
Laid laid(const char* demo, const char* method, const BoardChoices& choices = {}) {
    static std::vector<std::unique_ptr<Design>> kept;  // parts of a layout point into its circuit
    kept.push_back(std::make_unique<Design>(read_design(find_demo(demo)->text).value()));
    auto l = lay_out_copper(kept.back()->circuit, choices, making(method));
    EXPECT_TRUE(l) << (l ? "" : l.error().text());
    return {*kept.back(), std::move(l).value()};
}

TEST(CopperLayouts, AreTheSameEachTime) {
    const Laid a = laid("harbour-beacon", "milled"), b = laid("harbour-beacon", "milled");
    ASSERT_EQ(a.layout.tracks.size(), b.layout.tracks.size());
    for (std::size_t k = 0; k < a.layout.tracks.size(); ++k)
        EXPECT_EQ(a.layout.tracks[k].a, b.layout.tracks[k].a);
    EXPECT_EQ(a.layout.outline, b.layout.outline);
}

bool tells(const std::vector<std::string>& all, const std::string& words) {
    return std::any_of(all.begin(), all.end(),
                       [&](const std::string& s) { return s.find(words) != std::string::npos; });
}
bool breaks(const CopperLayout& l, const char* rule) {
    const auto all = rule_faults(l);
    return std::any_of(all.begin(), all.end(), [&](const RuleFault& f) { return f.rule == rule; });
}

TEST(PlantedFaults, AreFoundWithTheirPlaces) {
    Laid good = laid("harbour-dimmer", "ordered");
    for (const char* other : {"shelf-strip", "diorama-switcher", "tent-peg-marker", "pantry-gauge"})
        if (good.layout.vias.empty()) good = laid(other, "ordered");
    const auto differences = [&](const CopperLayout& l) {
        return copper_differences(l, good.design.circuit, copper_groups(l));
    };
    ASSERT_FALSE(good.layout.vias.empty()) << "another demo is needed, with a via";
    CopperLayout l = good.layout;
    l.vias.clear();
    EXPECT_TRUE(tells(differences(l), "joined in the circuit but not on the board")) << "a missing via";

    l = good.layout;
    const CopperPad &a = l.pads[0], &b = l.pads[1];
    ASSERT_NE(a.net, b.net);
    l.tracks.push_back({a.net, a.at, b.at, 0.3, solder_side});
    EXPECT_TRUE(tells(differences(l), " at " + square_name(a.at))) << "a short, with its place";
    EXPECT_TRUE(breaks(l, "gap"));

    good = laid("harbour-dimmer", "ordered"), l = good.layout;
    const auto leg = std::find_if(l.pads.begin(), l.pads.end(), [](auto& p) { return p.designator == "Q1"; });
    ASSERT_NE(leg, l.pads.end());
    std::swap(leg->pin, std::next(leg)->pin);
    EXPECT_FALSE(differences(l).empty()) << "the order of its legs swapped";
}

TEST(PlantedFaults, BreakTheRuleThatIsMeantForThem) {
    const CopperLayout good = laid("harbour-beacon", "milled").layout;
    ASSERT_TRUE(rule_faults(good).empty());
    CopperLayout l = good;
    l.tracks.front().width = 0.1;
    EXPECT_TRUE(breaks(l, "track"));
    l = good;
    l.pads.front().land = l.pads.front().hole + 0.1;
    EXPECT_TRUE(breaks(l, "ring"));
    l = good;
    l.pads.front().hole = 0.9;
    EXPECT_TRUE(breaks(l, "hole")) << "no such drill";
    l = good;
    l.parts[1].at = l.parts[0].at;
    EXPECT_TRUE(breaks(l, "part on part"));
    l = good;
    l.holes.push_back({l.pads.front().at, 3});
    EXPECT_TRUE(breaks(l, "hole to hole"));
    l = good;
    l.outline = {{0, 0}, {l.width(), 0}, {l.width(), l.height() / 2}, {0, l.height() / 2}};
    EXPECT_TRUE(breaks(l, "edge")) << "half the board is gone";
    l = good;
    l.links.push_back(
        {"X", l.parts[0].pad(l.parts[0].footprint.pads[0]), {l.width() / 2, l.height() / 2}, 0.8, 1.9});
    EXPECT_TRUE(breaks(l, "link"));
}

TEST(CopperChoices, AreKept) {
    BoardChoices c;
    c.width = 50, c.height = 40, c.corner_holes = 3, c.shape = "rounded";
    Laid a = laid("frost-guard", "ordered", c);
    EXPECT_NEAR(a.layout.width(), 50, 1e-6);
    EXPECT_NEAR(a.layout.height(), 40, 1e-6);
    EXPECT_EQ(a.layout.holes.size(), 4u);
    expect_sound(a.layout, a.design.circuit, "rounded");

    c = {}, c.shape = "round";
    a = laid("coat-badge", "ordered", c);
    expect_sound(a.layout, a.design.circuit, "round");
    for (const Point p : a.layout.outline)
        EXPECT_NEAR(std::hypot(p.x - a.layout.width() / 2, p.y - a.layout.height() / 2), a.layout.width() / 2,
                    0.01);

    c = {}, c.shape = "outline", c.outline = "M0 0 L60 0 L60 25 L30 50 L0 25 Z";
    a = laid("frost-guard", "ordered", c);
    expect_sound(a.layout, a.design.circuit, "a shape of its own");
    EXPECT_EQ(a.layout.outline.size(), 5u);

    c = {}, c.width = 60, c.height = 50, c.keep_out = {{20, 10, 20, 30, {}}};
    a = laid("frost-guard", "ordered", c);
    for (const CopperPart& p : a.layout.parts)
        EXPECT_FALSE(p.bounds().overlaps({20, 10, 40, 40})) << p.part->designator;
}

TEST(CopperChoices, ALockedPartStaysAndTheRestFollows) {
    BoardChoices c;
    c.spots = {{"R1", 10.16, 7.62, 90, true, false, 0, {}}};
    const Laid a = laid("harbour-beacon", "milled", c);
    const auto r1 = std::find_if(a.layout.parts.begin(), a.layout.parts.end(),
                                 [](auto& p) { return p.part->designator == "R1"; });
    ASSERT_NE(r1, a.layout.parts.end());
    EXPECT_EQ(r1->at, (Point{10.16, 7.62}));
    EXPECT_EQ(r1->turn, 90);
    expect_sound(a.layout, a.design.circuit, "locked");
}

TEST(CopperChoices, ThatCannotBeAreNamed) {
    const Design d = read_design(find_demo("harbour-beacon")->text).value();
    const auto place = [&](BoardChoices c) {
        const auto l = lay_out_copper(d.circuit, c, making("milled"));
        return l ? std::string("none") : l.error().place;
    };
    BoardChoices c;
    c.spots = {{"R99", 1, 1, 0, true, false, 0, {}}};
    EXPECT_EQ(place(c), "/board/spots/0/part");
    c = {}, c.area = "nowhere";
    EXPECT_EQ(place(c), "/board/area");
    c = {}, c.shape = "outline";
    EXPECT_EQ(place(c), "/board/outline");
    c = {}, c.width = 8, c.height = 8;
    EXPECT_EQ(place(c), "/board/width");
}

TEST(Areas, JoinOnlyTheirOwnNetAndLeaveNoIslands) {
    BoardChoices c;
    c.width = 50, c.height = 40, c.area = "GND";
    const Design d = read_design(find_demo("shelf-strip")->text).value();
    const auto l = lay_out_copper(d.circuit, c, making("ordered"));
    ASSERT_TRUE(l) << l.error().text();
    expect_sound(l.value(), d.circuit, "with an area");
    ASSERT_EQ(l.value().areas.size(), 2u);
    for (const CopperArea& a : l.value().areas) {
        EXPECT_GT(a.copper.area(), 400);
        for (const Region& piece : a.copper.pieces()) {
            bool touched = false;
            for (const CopperShape& s : copper_on(l.value(), a.layer))
                touched |= s.what != "area" && s.net == "GND" && s.region.touches(piece);
            EXPECT_TRUE(touched) << "an island";
        }
    }
}

TEST(CopperMethods, AreMethodsOfTheBoard) {
    Design d = read_design(find_demo("harbour-beacon")->text).value();
    d.board.method = "milled";
    const auto b = ask(BoardQuery{d.circuit, d.board});
    ASSERT_TRUE(b) << b.error().text();
    EXPECT_EQ(b.value().differences, std::vector<std::string>{});
    EXPECT_EQ(b.value().sides.size(), 2u);
    int links = 0;
    for (const BoardWork& w : b.value().works) {
        if (!w.id.starts_with("link.")) continue;
        EXPECT_EQ(w.title, "Link " + std::to_string(++links));
    }
    EXPECT_EQ(static_cast<std::size_t>(links), b.value().wires.size());
    EXPECT_TRUE(std::any_of(b.value().works.begin(), b.value().works.end(), [](const BoardWork& w) {
        return w.id == "mill.isolate" && w.caution.find("eye protection") != std::string::npos;
    }));
}

TEST(TrackCurrent, FollowsTheStandardsFormula) {
    // IPC-2221, external: 10 mil of 1 oz (35 µm) at 10 K carry 0.9 A by the chart, 100 mil 4.7 A
    EXPECT_NEAR(track_current(0.254, 35, 10), 0.87, 0.03);
    EXPECT_NEAR(track_current(2.54, 35, 10), 4.7, 0.1);
    for (const double i : {0.1, 1.0, 5.0})
        EXPECT_NEAR(track_current(track_width(i, 35, 10), 35, 10), i, 1e-9);
}

TEST(TrackCurrent, IsAFindingWithAWiderTrackAsItsRemedy) {
    Design d = read_design(find_demo("shelf-strip")->text).value();
    d.board = {}, d.board.method = "ordered", d.board.track = 0.2;
    EXPECT_EQ(find(findings(d, "track-current"), "track-current"), nullptr) << "one metre takes 0.4 A";
    d.circuit.find("LS1")->params["length"] = 5.0, d.circuit.find("PS1")->params["max_current"] = 5.0;
    const auto all = findings(d, "track-current");
    const Finding* f = find(all, "track-current");
    ASSERT_NE(f, nullptr);
    ASSERT_EQ(f->remedies.size(), 1u);
    const auto wider = f->remedies.front().apply(d);
    ASSERT_TRUE(wider);
    EXPECT_GT(wider.value().board.track, 0.2);
}

TEST(ByHand, MovesTurnsLocksAndLetsGo) {
    Design d = read_design(find_demo("harbour-beacon")->text).value();
    d.board.method = "milled";
    const Board board = ask(BoardQuery{d.circuit, d.board}).value();
    const BoardPart& r1 = *board.part("R1");
    const Design moved = moved_by_hand(d, board, "R1", 2.54, -1.27).value();
    ASSERT_EQ(moved.board.spots.size(), board.parts.size()) << "the others begin where they are";
    const auto spot = [](const Design& of, const char* part) {
        return *std::find_if(of.board.spots.begin(), of.board.spots.end(),
                             [&](const PartSpot& s) { return s.part == part; });
    };
    EXPECT_NEAR(spot(moved, "R1").x, r1.x + 2.54, hand_grid / 2 + 1e-9);
    EXPECT_TRUE(spot(moved, "R1").locked);
    EXPECT_FALSE(spot(moved, "C1").locked);
    const Board again = ask(BoardQuery{moved.circuit, moved.board}).value();
    EXPECT_EQ(again.differences, std::vector<std::string>{});
    EXPECT_EQ(again.part("R1")->x, spot(moved, "R1").x);
    Design four = d;
    for (int k = 0; k < 4; ++k) four = turned_by_hand(four, board, "R1", 90).value();
    EXPECT_FALSE(turned_by_hand(d, board, "R99", 90));
    const Design free = arranged_anew(locked_by_hand(moved, again, "R1", false).value());
    EXPECT_TRUE(free.board.spots.empty());
    EXPECT_EQ(arranged_anew(moved).board.spots.size(), 1u);
}

TEST(ByHand, AreasAndWordsAreReadAsTheyAreShown) {
    const auto areas = read_keep_out(" 20 10 30 15.5;0 0 5 5; ");
    ASSERT_TRUE(areas) << areas.error().text();
    ASSERT_EQ(areas.value().size(), 2u);
    EXPECT_EQ(areas.value()[0].height, 15.5);
    EXPECT_EQ(keep_out_text(areas.value()), "20 10 30 15.5; 0 0 5 5");
    for (const char* wrong : {"1 2 3", "1 2 3 4 5", "a b c d", "-1 0 3 3", "1 2 3 nan"})
        EXPECT_FALSE(read_keep_out(wrong)) << wrong;
    const auto texts =
        read_board_texts("3 20 Harbour beacon; 3 24 1.2: version 2; 1.2: this side up; 12 V only");
    ASSERT_TRUE(texts) << texts.error().text();
    EXPECT_EQ(texts.value()[0].text, "Harbour beacon");
    EXPECT_EQ(texts.value()[1].size, 1.2);
    EXPECT_TRUE(texts.value()[2].anywhere && texts.value()[3].anywhere && !texts.value()[1].anywhere);
    EXPECT_EQ(board_texts_text(texts.value()),
              "3 20 Harbour beacon; 3 24 1.2: version 2; 1.2: this side up; 12 V only");
    for (const char* wrong : {"3 20", "90: words", "3 20 90: big", "3 -20 up"})
        EXPECT_FALSE(read_board_texts(wrong)) << wrong;
}

TEST(Compare, WorkAndCostGrowWithTheBatchAndShowTheirWorking) {
    const Design d = read_design(find_demo("coat-badge")->text).value();
    const auto one = ask(CompareQuery{d.circuit, d.board, 1}).value(),
               many = ask(CompareQuery{d.circuit, d.board, 30}).value();
    ASSERT_EQ(one.size(), board_methods().size());
    for (std::size_t k = 0; k < one.size(); ++k) {
        EXPECT_EQ(one[k].error, "");
        EXPECT_GT(many[k].work.value, one[k].work.value);
        EXPECT_GE(many[k].cost.value, one[k].cost.value);
        EXPECT_EQ(one[k].work.working.size(), 1u);
        EXPECT_FALSE(one[k].risk.empty() || one[k].tools.empty());
    }
}

TEST(Compare, AMethodThatCannotBeSaysWhy) {
    Design d = read_design(find_demo("coat-badge")->text).value();
    d.board.width = 6, d.board.height = 6;  // of copper only
    const auto all = ask(CompareQuery{d.circuit, d.board, 1}).value();
    EXPECT_EQ(all[0].error, "");
    EXPECT_NE(all[2].error.find("find no place"), std::string::npos) << all[2].error;
}

TEST(BoardSheet, SaysFirstWhatDiffersAndHoldsBothSides) {
    Design d = read_design(find_demo("kite-tail")->text).value();  // has wires
    d.board.method = "milled";
    Board board = ask(BoardQuery{d.circuit, board_choices(d)}).value();
    const auto words = [&] {
        std::string all;
        for (const Drawing& page : board_sheet(board, d.name))
            for (const Item& item : page.items)
                if (const auto* text = std::get_if<Text>(&item.shape)) all += text->text + "\n";
        return all;
    };
    const std::string good = words();
    EXPECT_EQ(good.find("DIFFERS"), std::string::npos);
    for (const char* part :
         {"Component side", "Solder side, mirrored", "Mill between the tracks", "Rotating tools", "Wires"})
        EXPECT_NE(good.find(part), std::string::npos) << part;
    EXPECT_EQ(good.find("Rotating tools"), good.rfind("Rotating tools"))
        << "a caution stands once for works in a row";
    board.differences = {"R1.a and C1.b are joined on the board but not in the circuit"};
    EXPECT_LT(words().find("DIFFERS FROM THE CIRCUIT"), words().find("Component side"));
    EXPECT_FALSE(side_on_paper(board, 0).items.size() == board.sides[0].picture.items.size())
        << "on the picture itself too";
}

TEST(CopperChoices, TheOutlineOfTheFaceIsTheBoards) {
    Design d = read_design(find_demo("coat-badge")->text).value();
    d.board.shape = "outline", d.face.outline = "M5 5 L45 5 L45 35 L5 35 Z";
    EXPECT_EQ(board_choices(d).outline, d.face.outline);
    const auto l = lay_out_copper(d.circuit, board_choices(d), making("milled"));
    ASSERT_TRUE(l) << l.error().text();
    EXPECT_NEAR(l.value().width(), 40, 1e-9);
    EXPECT_EQ(l.value().outline.front(), (Point{0, 0})) << "its corner at the origin";
    d.board.outline = "M0 0 L50 0 L50 50 L0 50 Z";
    EXPECT_EQ(board_choices(d).outline, d.board.outline) << "one of its own";
}

TEST(CopperChoices, ArePartOfTheFile) {
    Design d = read_design(find_demo("coat-badge")->text).value();
    d.board.panel_across = 2, d.board.panel_down = 3, d.board.panel_parting = "tabs",
    d.board.corner_holes = 3;
    d.board.spots = {{"L1", 5.08, 7.62, 90, false, false, 0, {}}};
    d.board.keep_out = {{1, 2, 3, 4, {}}}, d.board.texts = {{1, 2, 1.5, "up", {}}};
    const auto again = read_design(write_design(d));
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again.value().board, d.board);
    const BoardPanel panel = panel_of(d.board);
    EXPECT_EQ(panel.across * panel.down, 6);
    EXPECT_EQ(panel.parting, "tabs");
    BoardChoices single = d.board;
    single.panel_across = single.panel_down = 1;
    EXPECT_EQ((BoardQuery{d.circuit, single}.key()), (BoardQuery{d.circuit, d.board}.key()))
        << "a panel changes no board";
}

TEST(FaceLights, StandWhereTheFaceHasThem) {
    const Design d = read_design(find_demo("herbarium-ring")->text).value();
    const BoardChoices choices = board_choices(d);
    EXPECT_EQ(choices.spots.size(), d.face.places.size());
    Design other = d;
    other.board.lights.clear();
    EXPECT_TRUE(board_choices(other).spots.empty());
    if (!in_depth()) GTEST_SKIP() << "laying it out takes long";
    const Board board = ask(BoardQuery{d.circuit, choices}).value();
    EXPECT_EQ(board.differences, std::vector<std::string>{});
    const auto middle = [&](const BoardPart& p) {
        const Box& b = p.footprint.body;
        return Point{p.x, p.y} + turned({(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2}, p.turn);
    };
    for (const FacePlace& p : d.face.places)
        EXPECT_NEAR(distance(middle(*board.part(p.light)), {board.width / 2, board.height / 2}), 35, 0.8)
            << p.light;
}

TEST(OwnMakings, ReplaceOrJoinThoseThatThereAre) {
    MakingTable own;
    const auto read = read_makings(
        R"({"tools": [{"id": "shed-v", "name": "bit of the shed", "kind": "engraver", "tip": 0.2, "angle": 45,
        "depth": 0.1, "feed": 200, "plunge": 60, "speed": 9000}]})",
        makings());
    ASSERT_TRUE(read) << read.error().text();
    add_own_makings(read.value());
    ASSERT_NE(makings().tool("shed-v"), nullptr);
    EXPECT_EQ(makings().tool("shed-v")->name, "bit of the shed (own)");
}

}  // namespace
}  // namespace elkit::test
