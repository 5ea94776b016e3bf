// Boards of holes that are sawn to a shape and drilled for screws, and lights that stand to a drawn outline.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "board/by_hand.hpp"
#include "board/copper/layout.hpp"
#include "board/holes/shape.hpp"
#include "board/pad/pad_board.hpp"
#include "board/strip/strip_board.hpp"
#include "outline/shapes.hpp"
#include "support/board_circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

const char* const house = "M10 4 L60 4 L60 40 L35 62 L10 40 Z";

Result<HoleLayout> laid(const Circuit& circuit, const BoardChoices& choices) {
    const auto parts = hole_parts(circuit, choices);
    if (!parts) return parts.error();
    return lay_out_pads(parts.value(), choices);
}

double mm(int hole) { return (hole + 0.5) * hole_pitch; }

/// Every hole that carries something lies on the board that is left, clear of its rim and of heads of screws.
void expect_on_board(const HoleLayout& l, const std::string& what) {
    std::vector<Hole> used;
    for (const PinHole& p : l.pins) used.push_back(p.hole);
    for (const Bridge& b : l.bridges) used.push_back(b.a), used.push_back(b.b);
    for (const Wire& w : l.wires) used.push_back(w.a), used.push_back(w.b);
    for (const Hole h : used) {
        EXPECT_TRUE(is_inside(l.board.outline, mm(h.column), mm(h.row))) << what << " " << l.board.name(h);
        EXPECT_GE(to_rim(l.board.outline, mm(h.column), mm(h.row)), 1.1) << what << " " << l.board.name(h);
        for (const Substrate::Screw& s : l.board.screws)
            EXPECT_GT(std::hypot(mm(h.column) - mm(s.hole.column), mm(h.row) - mm(s.hole.row)), s.diameter)
                << what << " " << l.board.name(h) << " is under the head of a screw";
    }
    for (const Substrate::Screw& s : l.board.screws)
        EXPECT_GE(to_rim(l.board.outline, mm(s.hole.column), mm(s.hole.row)), s.diameter - 0.1) << what;
}

TEST(ShapedHoles, AllThatIsUsedLiesOnWhatIsLeftAndTheBoardIsTheCircuit) {
    for (const char* id : {"pier-lantern", "letterbox-flag"})
        for (const char* shape : {"", "rounded", "round", "outline"}) {
            if (id == std::string("letterbox-flag") && shape != std::string("round") && !in_depth()) continue;
            Design d = demo(id);
            d.board.shape = shape, d.board.outline = house;
            d.board.corner_holes = std::string(shape) == "outline"     ? 0
                                   : std::string(id) == "pier-lantern" ? 6
                                                                       : 3.2;
            const auto l = laid(d.circuit, d.board);
            const std::string what = std::string(id) + " " + shape;
            ASSERT_TRUE(l) << what << ": " << l.error().text();
            EXPECT_EQ(layout_differences(l.value(), d.circuit), std::vector<std::string>{}) << what;
            EXPECT_EQ(l.value().board.screws.size(), d.board.corner_holes > 0 ? 4u : 0u) << what;
            expect_on_board(l.value(), what);
        }
}

TEST(ShapedHoles, SoItIsOfRandomCircuits) {
    for (unsigned seed = 1; seed <= 3; ++seed) {
        const Circuit circuit = board_circuit(6 + static_cast<int>(seed) * 2, seed);
        BoardChoices choices;
        choices.shape = seed % 2 ? "round" : "rounded", choices.corner_holes = seed % 3 ? 0 : 3;
        const auto l = laid(circuit, choices);
        ASSERT_TRUE(l) << seed << ": " << l.error().text();
        EXPECT_EQ(layout_differences(l.value(), circuit), std::vector<std::string>{}) << seed;
        expect_on_board(l.value(), std::to_string(seed));
    }
}

/// Where the copper of a strip goes from a hole, until it is cut, sawn off or drilled through.
std::vector<Hole> along_strip(const HoleLayout& l, Hole from) {
    std::vector<Hole> all{from};
    for (const int step : {-1, 1})
        for (Hole h{from.column + step, from.row};; h.column += step) {
            const bool sawn = !is_inside(l.board.outline, mm(h.column), mm(h.row)),
                       cut = std::find(l.cuts.begin(), l.cuts.end(), h) != l.cuts.end(),
                       drilled = std::any_of(l.board.screws.begin(), l.board.screws.end(),
                                             [&](const Substrate::Screw&s) { return s.hole == h; });
            if (sawn || cut || drilled) break;
            all.push_back(h);
        }
    return all;
}

TEST(ShapedHoles, ASlotBetweenTwoHolesPartsTheirStrip) {
    BoardChoices choices;
    choices.shape = "outline";
    choices.outline = "M0 0 L12.2 0 L12.2 12 L13.2 12 L13.2 0 L25.4 0 L25.4 25.4 L0 25.4 Z";
    const Substrate s = BoardShape::chosen(choices).value().cut_from(strip_substrate(10, 10));
    std::map<int, int> pieces;  // of each row
    for (const auto& strip : s.groups) ++pieces[strip.front().row];
    for (int row = 0; row < 10; ++row) EXPECT_EQ(pieces[row], mm(row) < 12 ? 2 : 1) << row;
    // nor do the links and cuts take it for one: a net on both sides goes round the slot
    const Circuit none;
    HoleLayout l{s, {}, {{"A", "1", "N", {1, 1}}, {"B", "1", "N", {8, 1}}}, {}, {}, {}, {}, {}};
    join_strips(l, {&none, {}, {}});
    EXPECT_EQ(extract_groups(l).size(), 1u);
    EXPECT_FALSE(l.wires.empty());
}

TEST(ShapedHoles, StripsEndAtTheOutlineAndReachNoScrew) {
    struct Case {
        Circuit circuit;
        const char* shape;
        double screw;
    };
    std::vector<Case> cases{{demo("pier-lantern").circuit, "", 3.2},
                            {demo("twin-blinker").circuit, "rounded", 3.2},
                            {demo("frost-guard").circuit, "outline", 3},
                            {board_circuit(9, 5), "round", 3}};
    if (in_depth())
        for (unsigned seed = 1; seed <= 4; ++seed) cases.push_back({board_circuit(14, seed), "round", 4});
    for (const Case& c : cases) {
        BoardChoices choices;
        choices.method = "strip", choices.shape = c.shape, choices.corner_holes = c.screw;
        choices.outline = "M0 0 L70 0 L70 30 L40 30 L40 60 L0 60 Z";  // its strips have ends in the middle
        const auto parts = hole_parts(c.circuit, choices);
        ASSERT_TRUE(parts);
        const auto laid = lay_out_strips(parts.value(), choices);
        ASSERT_TRUE(laid) << c.shape << ": " << laid.error().text();
        const HoleLayout& l = laid.value();
        EXPECT_EQ(layout_differences(l, c.circuit), std::vector<std::string>{}) << c.shape;
        expect_on_board(l, c.shape);
        std::map<Hole, std::string> net_at;
        for (const PinHole& p : l.pins) net_at[p.hole] = p.net;
        for (const PinHole& p : l.pins)
            for (const Hole h : along_strip(l, p.hole)) {
                if (const auto other = net_at.find(h); other != net_at.end()) {
                    EXPECT_EQ(other->second, p.net) << c.shape << " " << l.board.name(h);
                }
                for (const Substrate::Screw& s : l.board.screws)
                    EXPECT_GT(std::hypot(mm(h.column) - mm(s.hole.column), mm(h.row) - mm(s.hole.row)),
                              s.diameter)
                        << c.shape << ": " << p.net << " at " << l.board.name(h) << " is under a screw";
            }
        for (const Hole h : l.cuts) {
            EXPECT_TRUE(is_inside(l.board.outline, mm(h.column), mm(h.row))) << l.board.name(h);
            const bool parts_something =
                std::any_of(net_at.begin(), net_at.end(),
                            [&](const auto& leg) { return leg.first.row == h.row; }) ||
                std::any_of(l.wires.begin(), l.wires.end(),
                            [&](const Wire& w) { return w.a.row == h.row || w.b.row == h.row; });
            EXPECT_TRUE(parts_something) << l.board.name(h) << ": nothing is on that strip";
        }
    }
}

TEST(ShapedHoles, AreSawnAndDrilledWithCare) {
    Design d = demo("pier-lantern");
    d.board.method = "pad", d.board.shape = "round", d.board.corner_holes = 3.2;
    const Board board = ask(BoardQuery{d.circuit, board_choices(d)}).value();
    for (const char* id : {"prepare.shape", "prepare.screws"}) {
        const auto work = std::find_if(board.works.begin(), board.works.end(),
                                       [&](const BoardWork& w) { return w.id == id; });
        ASSERT_NE(work, board.works.end()) << id;
        EXPECT_NE(work->caution.find("eye protection"), std::string::npos) << id;
    }
    EXPECT_EQ(board.summary.find("round, "), 0u) << board.summary;
    const Box rim = board.sides[0].picture.bounds("board");
    EXPECT_NEAR(rim.x1 - rim.x0, board.width, 0.5);
    EXPECT_LT(board.sides[0].picture.bounds("hole:A1").x1, 0) << "there is no hole in its corner";
}

/// Lights stand to a drawn outline as the face has them: exactly on copper, in the nearest holes among holes.
TEST(ShapedHoles, LightsKeepTheirPlacesToADrawnOutline) {
    Design d = demo("pier-lantern");
    d.board.shape = "outline", d.board.outline = house, d.board.lights = "face";
    d.face.places.clear();
    double x = 16;
    for (const Part& part : d.circuit.parts)
        if (part.kind == "led") {
            FacePlace place;
            place.light = part.designator, place.x = x, place.y = 14;
            d.face.places.push_back(place);
            x += 10;
        }
    ASSERT_GE(d.face.places.size(), 3u);
    for (const char* method : {"pad", "milled"}) {
        d.board.method = method;
        const Board board = ask(BoardQuery{d.circuit, board_choices(d)}).value();
        EXPECT_EQ(board.differences, std::vector<std::string>{}) << method;
        const Box rim = board.sides[0].picture.bounds("board");
        for (const FacePlace& place : d.face.places) {
            const Box light = board.sides[0].picture.bounds("part:" + place.light);
            const double slack = std::string(method) == "pad" ? 2 : 0.6;
            EXPECT_NEAR((light.x0 + light.x1) / 2 - rim.x0, place.x - 10, slack) << method << place.light;
        }
    }
}

TEST(ShapedHoles, KeepTheirSizeWhilePartsAreMovedByHand) {
    Design d = demo("pier-lantern");
    d.board.method = "pad", d.board.shape = "round";
    const Board before = ask(BoardQuery{d.circuit, board_choices(d)}).value();
    const Design next = moved_by_hand(d, before, "R1", 2.54, 0).value();
    const Board after = ask(BoardQuery{next.circuit, board_choices(next)}).value();
    EXPECT_EQ(after.size, before.size);
    EXPECT_NEAR(after.part("R1")->x, before.part("R1")->x + 2.54, 1e-6);
    EXPECT_EQ(after.differences, std::vector<std::string>{});
    const Design off = moved_by_hand(d, before, "R1", -before.part("R1")->x, -before.part("R1")->y).value();
    const auto beside = ask(BoardQuery{off.circuit, board_choices(off)});
    ASSERT_FALSE(beside);
    EXPECT_NE(beside.error().text().find("R1 lies beside the board"), std::string::npos)
        << beside.error().text();
}

/// Parts were put by hand on a rectangle first: they come into the middle of the shape as they lie.
TEST(ShapedHoles, TakeWhatWasPutByHandOnARectangle) {
    Design d = demo("pier-lantern");
    d.board.method = "pad";
    const Board before = ask(BoardQuery{d.circuit, board_choices(d)}).value();
    Design put = with_spots(d, before);
    for (PartSpot& spot : put.board.spots) spot.locked = true;
    for (const char* shape : {"round", "rounded"}) {
        Design next = put;
        next.board.shape = shape, next.board.corner_holes = 3.2;
        const auto board = ask(BoardQuery{next.circuit, board_choices(next)});
        ASSERT_TRUE(board) << shape << ": " << board.error().text();
        EXPECT_EQ(board.value().differences, std::vector<std::string>{}) << shape;
        EXPECT_NEAR(board.value().part("L1")->x - board.value().part("R1")->x,
                    before.part("L1")->x - before.part("R1")->x, 1e-6)
            << shape;
        // and stay there when the board has been taken over, and all but them is arranged anew
        const Design moved = moved_by_hand(next, board.value(), "R1", 0, 0).value();
        const Board after = ask(BoardQuery{moved.circuit, board_choices(moved)}).value();
        EXPECT_NEAR(after.part("L1")->x, board.value().part("L1")->x, 1e-6) << shape;
        Design some = moved;
        std::erase_if(some.board.spots, [](const PartSpot& s) { return s.part != "S1"; });
        const Board anew = ask(BoardQuery{some.circuit, board_choices(some)}).value();
        EXPECT_NEAR(anew.part("S1")->x, after.part("S1")->x, 1e-6) << shape << ": what is locked stays";
        EXPECT_EQ(anew.size, after.size);
    }
}

/// A trapezium has four corners too.
TEST(ShapedHoles, AnyDrawnOutlineIsSawn) {
    Design d = demo("pier-lantern");
    d.board.method = "pad", d.board.shape = "outline", d.board.outline = "M0 0 L60 0 L50 40 L10 40 Z";
    const Board board = ask(BoardQuery{d.circuit, board_choices(d)}).value();
    EXPECT_TRUE(std::any_of(board.works.begin(), board.works.end(),
                            [](const BoardWork& w) { return w.id == "prepare.shape"; }));
}

TEST(ShapedHoles, ThatAreTooSmallOrNotDrawnAreRefused) {
    Design d = demo("harbour-beacon");
    d.board.shape = "outline";
    EXPECT_FALSE(laid(d.circuit, d.board)) << "nothing is drawn";
    d.board.outline = "M0 0 L12 0 L6 12 Z";
    const auto small = laid(d.circuit, d.board);
    ASSERT_FALSE(small);
    EXPECT_NE(small.error().text(), "");
    d.board.outline = "M0 0 L1 0 L1 1 Z";
    EXPECT_FALSE(laid(d.circuit, d.board)) << "no hole is left";
    d.board.outline = "M0 0 L900 0 L900 900 Z";
    const auto vast = laid(d.circuit, d.board);
    ASSERT_FALSE(vast);
    EXPECT_EQ(vast.error().place, "/board/outline") << vast.error().text();
}

TEST(CornerPlaces, LieSoFarWithinTheirOutline) {
    for (const Outline& outline :
         {rectangle_shape(40, 30), rounded_shape(40, 30), round_shape(50), read_outline(house).value()}) {
        const Outline places = corner_places(outline, 4);
        ASSERT_EQ(places.size(), 4u);
        for (const auto& [x, y] : places) {
            EXPECT_TRUE(is_inside(outline, x, y));
            EXPECT_GE(to_rim(outline, x, y), 4 - 1e-6);
        }
    }
}

}  // namespace
}  // namespace elkit::test
