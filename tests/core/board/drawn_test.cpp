// What is drawn on a board of copper by hand: tracks pulled to a place, words, and what follows them.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "board/board.hpp"
#include "board/by_hand.hpp"
#include "board/copper/check.hpp"
#include "board/copper/copper_length.hpp"
#include "board/copper/layout.hpp"
#include "board/copper/mill_plan.hpp"
#include "board/copper/words.hpp"
#include "design/file.hpp"
#include "fabricate/fabricated.hpp"
#include "fabricate/read_back.hpp"
#include "recipes/blocks.hpp"
#include "review/findings.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

CopperLayout drawn(const Design& d, const char* method) {
    return lay_out_copper(d.circuit, d.board, *makings().method(method)).value();
}

/// The demo with all parts where they lie on its board.
struct Put {
    Design design;
    Board board;
};
Put put(const char* id, const char* method) {
    Design d = demo(id);
    d.board.method = method, d.board.lights.clear();
    d.board.width = 50, d.board.height = 40;
    Board board = ask(BoardQuery{d.circuit, d.board}).value();
    return {with_spots(d, board), board};
}

/// Places on a coarse grid where no land is near, both sides.
std::vector<TrackPull> places_for(const CopperLayout& l, const std::string& net) {
    std::vector<TrackPull> all;
    for (double y = 4; y < l.height() - 4; y += 5.08)
        for (double x = 4; x < l.width() - 4; x += 7.62) {
            const Point at{x, y};
            if (std::all_of(l.pads.begin(), l.pads.end(),
                            [&](const CopperPad& p) { return distance(p.at, at) > 3; }))
                all.push_back({net, x, y, false, {}});
        }
    return all;
}

class Pulled : public testing::TestWithParam<const char*> {};
TEST_P(Pulled, TracksPassBetweenTheirEndsAndTheBoardStaysTheCircuit) {
    for (const char* id : {"harbour-beacon", "twin-blinker"}) {
        const auto [design, board] = put(id, GetParam());
        const CopperLayout before = drawn(design, GetParam());
        std::size_t passed = 0, tried = 0;
        for (const std::string& net : design.circuit.nets()) {
            const auto places = places_for(before, net);
            for (std::size_t k = tried % 3; k < places.size(); k += 5) {
                Design next = pulled_by_hand(design, board, places[k]).value();
                const CopperLayout l = drawn(next, GetParam());
                ++tried;
                EXPECT_EQ(copper_differences(l, next.circuit, copper_groups(l)).size(), l.open.size()) << net;
                for (const RuleFault& f : rule_faults(l)) ADD_FAILURE() << id << net << f.text;
                if (!is_passed(l, next.board.pulls.front()) || !l.open.empty()) continue;
                ++passed;
                // no spur: a track's end that nothing else touches is on a land
                for (const Track& t : l.tracks)
                    for (const Point end : {t.a, t.b}) {
                        bool held = false;
                        for (const Track& o : l.tracks)
                            held |= &o != &t && o.net == t.net && o.layer == t.layer &&
                                    distance(end, o.a, o.b) < 1e-6;
                        for (const CopperPad& p : l.pads) held |= p.net == t.net && p.from(end, end) < 1e-6;
                        for (const Via& v : l.vias) held |= distance(v.at, end) < 1e-6;
                        for (const WireLink& w : l.links)
                            held |= std::min(distance(w.a, end), distance(w.b, end)) < 1e-6;
                        EXPECT_TRUE(held) << id << " " << net << " ends at " << square_name(end);
                    }
            }
        }
        EXPECT_GT(tried, 5u);
        EXPECT_GT(4 * passed, 3 * tried) << id << ": " << passed << " of " << tried;
    }
}
INSTANTIATE_TEST_SUITE_P(Both, Pulled, testing::Values("milled", "ordered"),
                         [](const auto& i) { return std::string(i.param); });

TEST(Pulls, OneNearTheLastReplacesItAndArrangingAnewDropsThem) {
    const auto [design, board] = put("harbour-beacon", "ordered");
    const std::string net = design.circuit.nets().front();
    const Design one = pulled_by_hand(design, board, {net, 10, 10, false, {}}).value(),
                 same = pulled_by_hand(one, board, {net, 10.5, 10.2, false, {}}).value(),
                 two = pulled_by_hand(same, board, {net, 15, 10, false, {}}).value(),
                 above = pulled_by_hand(two, board, {net, 15, 10, true, {}}).value();
    EXPECT_EQ(same.board.pulls.size(), 1u);
    EXPECT_EQ(two.board.pulls.size(), 2u);
    EXPECT_EQ(above.board.pulls.size(), 3u);
    EXPECT_TRUE(arranged_anew(above).board.pulls.empty());
    EXPECT_FALSE(pulled_by_hand(design, board, {"nowhere", 10, 10, false, {}}));
    EXPECT_FALSE(pulled_by_hand(design, board, {net, 900, 10, false, {}}));
    EXPECT_FALSE(pulled_by_hand(design, board, {net, std::nan(""), 10, false, {}}));
}

TEST(Pulls, AreReadAsTheyAreShown) {
    const auto pulls = read_pulls("GND 12.7 8.9; a net 1 2 component ;VCC 3 4 solder;");
    ASSERT_TRUE(pulls) << pulls.error().text();
    EXPECT_EQ(pulls_text(pulls.value()), "GND 12.7 8.9; a net 1 2 component; VCC 3 4");
    for (const char* wrong : {"GND", "GND 1", "1 2", "GND 1 two", "GND 1 nan", "GND -1 2", "GND 1 2 top"})
        EXPECT_FALSE(read_pulls(wrong)) << wrong;
}

TEST(Pulls, AreKeptInTheFileAndFollowTheirNet) {
    Design d = demo("harbour-beacon");
    const std::string net = d.circuit.nets().front(), other = d.circuit.nets().back();
    d.board.area = net, d.board.pulls = {{net, 1, 2, false, {}}, {other, 3, 4, true, {}}};
    d.board.texts = {{0, 0, 1.2, "this side up", {}, true}};
    const Design again = read_design(write_design(d)).value();
    EXPECT_EQ(again.board, d.board);
    Circuit renamed = d.circuit;
    for (Part& p : renamed.parts)
        for (Pin& pin : p.pins)
            if (pin.net == net) pin.net = "other name";
    const Design followed = with_circuit(d, renamed);
    EXPECT_EQ(followed.board.area, "other name");
    EXPECT_EQ(followed.board.pulls.front().net, "other name");
    Circuit fewer = d.circuit;
    for (Part& p : fewer.parts)
        for (Pin& pin : p.pins)
            if (pin.net == other) pin.net = net;
    EXPECT_EQ(with_circuit(d, fewer).board.pulls.size(), 1u) << "of a net that is gone";
}

TEST(Pulls, ANetThatIsNotThereIsNamedWithItsPlace) {
    Design d = demo("harbour-beacon");
    d.board.pulls = {{"nowhere", 1, 2, false, {}}};
    const auto l = lay_out_copper(d.circuit, d.board, *makings().method("milled"));
    ASSERT_FALSE(l);
    EXPECT_EQ(l.error().place, "/board/pulls/0/net");
}

TEST(Words, OnTheLegendCoverNoLandNoPartAndNotEachOther) {
    Design d = demo("harbour-beacon");
    d.board.texts = {{0, 0, 1.5, "HARBOUR", {}, true}, {0, 0, 1.5, "this side up", {}, true}};
    d.board.width = 70, d.board.height = 50;
    const CopperLayout l = drawn(d, "ordered");
    ASSERT_EQ(l.texts.size(), 2u);
    std::vector<Box> boxes;
    for (const BoardText& t : l.texts) boxes.push_back({t.x, t.y - t.size, t.x + words_width(t), t.y});
    EXPECT_FALSE(boxes[0].overlaps(boxes[1]));
    for (const Box& b : boxes) {
        const Region words = Region::box(b.x0, b.y0, b.x1, b.y1);
        for (const CopperPad& p : l.pads) EXPECT_FALSE(p.copper().touches(words)) << p.designator;
        for (const CopperPart& p : l.parts) EXPECT_FALSE(p.bounds().overlaps(b)) << p.part->designator;
    }
}

/// Words cut copper: only such that joins nothing; and they are to be read from the solder side.
TEST(Words, OnAMilledBoardAreCutWhereTheyPartNothing) {
    Design d = demo("harbour-beacon");
    d.board.texts = {{0, 0, 1.5, "L7", {}, true}};
    d.board.width = 60, d.board.height = 45;
    const CopperLayout l = drawn(d, "milled");
    ASSERT_EQ(l.texts.size(), 1u) << "a board with room for it";
    EXPECT_EQ(fabrication_faults(l, d.circuit), std::vector<std::string>{});
    const auto strokes = word_strokes(l, l.texts.front());
    ASSERT_EQ(strokes.size(), 2u);
    EXPECT_GT(strokes[0].front().x, strokes[1].front().x)
        << "the first letter is right of the second, mirrored";
    const MillPlan plan = mill_plan(l, solder_side);
    const Region left = copper_left(l, plan);
    MillPlan without = plan;
    without.words.clear();
    EXPECT_LT(left.area(), copper_left(l, without).area() - 0.5);
    std::string gcode;
    for (const FabricatedFile& f : fabricated(l, d.circuit, "words", {}))
        if (f.name.find("isolate") != std::string::npos) gcode = f.content;
    const ReadMilling milling = read_gcode(gcode, "words").value();
    const Region seen = milling.swept.mirrored(l.width() / 2);  // y runs up there
    for (const auto& stroke : strokes)
        for (const Point p : stroke) EXPECT_TRUE(seen.contains({p.x, l.height() - p.y}));
}

TEST(Words, WithNothingToWriteThemAreToldAndLeftOut) {
    Making plain = *makings().method("ordered");
    plain.legend = false;  // a house that prints nothing
    Design d = demo("pier-lantern");
    d.board.texts = {{0, 0, 1.5, "L7", {}, true}, {3, 5, 1.5, "here", {}, false}};
    const CopperLayout l = lay_out_copper(d.circuit, d.board, plain).value();
    EXPECT_EQ(l.unplaced, std::vector<std::string>{"L7"});
    ASSERT_EQ(l.texts.size(), 1u) << "what has its place keeps it";
    EXPECT_EQ(copper_differences(l, d.circuit, copper_groups(l)), std::vector<std::string>{});
}

TEST(Words, WithoutRoomAreToldAndLeftOut) {
    Design d = demo("harbour-beacon");
    d.board.method = "ordered";
    d.board.texts = {{0, 0, 1.5, std::string(80, 'W'), {}, true}};
    const Board board = ask(BoardQuery{d.circuit, d.board}).value();
    EXPECT_NE(board.summary.find("no room for \"WWW"), std::string::npos) << board.summary;
}

TEST(Teardrops, WidenTracksAtSmallLandsOfMilledBoards) {
    Design d = demo("harbour-beacon");
    const CopperLayout milled = drawn(d, "milled"), ordered = drawn(d, "ordered");
    EXPECT_FALSE(milled.teardrops.empty());
    EXPECT_TRUE(ordered.teardrops.empty());
    for (const Teardrop& t : milled.teardrops) {
        const Region drop = Region::polygon(t.ring);
        EXPECT_TRUE(std::any_of(milled.pads.begin(), milled.pads.end(), [&](const CopperPad& p) {
            return p.net == t.net && p.copper().touches(drop);
        }));
    }
}

CopperLayout straight_way(double length) {
    CopperLayout l;
    l.making = *makings().method("ordered"), l.layers = 2;
    l.outline = {{0, 0}, {60, 0}, {60, 20}, {0, 20}};
    for (const double x : {5.0, 5 + length}) {
        CopperPad pad{x < 6 ? "A" : "B", "1", "N", {x, 10}};
        pad.hole = 0.8, pad.land = 1.6;
        l.pads.push_back(pad);
    }
    return l;
}

TEST(CopperLength, FollowsTracksOverVias) {
    CopperLayout l = straight_way(20);
    EXPECT_TRUE(std::isinf(copper_length(l, l.pads[0], l.pads[1])));
    l.tracks = {{"N", {5, 10}, {5, 4}, 0.4, solder_side},
                {"N", {5, 4}, {15, 4}, 0.4, solder_side},
                {"N", {15, 4}, {25, 4}, 0.4, component_side},
                {"N", {25, 4}, {25, 10}, 0.4, component_side}};
    EXPECT_TRUE(std::isinf(copper_length(l, l.pads[0], l.pads[1]))) << "nothing joins the layers";
    l.vias = {{"N", {15, 4}, 0.5, 1.0}};
    EXPECT_NEAR(copper_length(l, l.pads[0], l.pads[1]), 6 + 20 + 6, 1e-9);
    l.tracks.push_back({"N", {5, 10}, {15, 10}, 0.4, solder_side});
    l.tracks.push_back({"N", {10, 10}, {25, 10}, 0.4, solder_side});  // begins in the middle of the other
    EXPECT_NEAR(copper_length(l, l.pads[0], l.pads[1]), 20, 1e-9);
    l.areas = {{"N", solder_side, Region::box(1, 1, 59, 19)}};
    EXPECT_NEAR(copper_length(l, l.pads[0], l.pads[1]), 20, 1e-9);
}

TEST(SupplyPaths, ACapacitorFarFromItsChipBecomesAFinding) {
    Design d = demo("harbour-dimmer");
    d.board.method = "ordered", d.board.width = 90, d.board.height = 60;
    const Board near = ask(BoardQuery{d.circuit, d.board}).value();
    ASSERT_EQ(near.supplies.size(), 1u);
    const std::string capacitor = near.supplies.front().capacitor, chip = near.supplies.front().chip;
    d = with_spots(d, near);
    for (PartSpot& s : d.board.spots) {
        s.locked = true;
        if (is(*d.circuit.find(s.part), Role::capacitor)) s.x = 80, s.y = 5 + 8 * double(s.part.back() - '0');
    }
    const Board far = ask(BoardQuery{d.circuit, d.board}).value();
    ASSERT_EQ(far.supplies.size(), 1u);
    EXPECT_GT(far.supplies.front().length, 8);
    EXPECT_EQ(findings(d, "supply-far").size(), 1u);
}

}  // namespace
}  // namespace elkit::test
