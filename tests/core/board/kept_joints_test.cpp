// Joints of a pad board that are kept while parts are put elsewhere: those that nothing presses stay, what is
// wrong with them is laid anew, and the board is always the circuit.
#include "board/pad/kept_joints.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <set>

#include "board/by_hand.hpp"
#include "board/pad/pad_board.hpp"
#include "support/board_circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

std::set<std::pair<Hole, Hole>> joints(const HoleLayout& l) {
    std::set<std::pair<Hole, Hole>> all;
    for (const Bridge& b : l.bridges) all.insert(std::minmax(b.a, b.b));
    return all;
}

HoleLayout unjoined(HoleLayout l) {
    l.bridges.clear(), l.wires.clear();
    return l;
}

class KeptJointsOf : public testing::TestWithParam<int> {
  protected:
    const Circuit circuit = board_circuit(GetParam(), 7);
    const HoleParts parts = hole_parts(circuit, {}).value();
    const HoleLayout layout = lay_out_pads(parts, {}).value();
};

TEST_P(KeptJointsOf, AreTheSameOnTheSameBoard) {
    const KeptJoints kept = read_pad_ways(ways_of_pads(layout), {0, 0});
    EXPECT_EQ(kept.joints.size(), layout.bridges.size());
    EXPECT_EQ(kept.jumpers, layout.count(Wire::Kind::jumper));
    EXPECT_EQ(kept.links.size(), layout.count(Wire::Kind::link));
    HoleLayout again = unjoined(layout);
    mend_board(again, kept, TopSide(again, parts));
    EXPECT_EQ(layout_differences(again, circuit), std::vector<std::string>{});
    EXPECT_LE(again.wires.size(), layout.wires.size());
    if (layout.wires.empty()) {
        EXPECT_EQ(joints(again), joints(layout));
    }
}

TEST_P(KeptJointsOf, GoWithTheBoardWhereItIsMoved) {
    const KeptJoints kept = read_pad_ways(ways_of_pads(layout), {3, 2});
    HoleLayout further =
        moved(unjoined(layout), 3, 2, pad_substrate(layout.columns() + 5, layout.rows() + 4));
    mend_board(further, kept);
    EXPECT_EQ(layout_differences(further, circuit), std::vector<std::string>{});
    std::size_t same = 0;
    for (const auto& [a, b] : joints(layout))
        same += joints(further).contains({{a.column + 3, a.row + 2}, {b.column + 3, b.row + 2}});
    EXPECT_GE(same, layout.wires.empty() ? layout.bridges.size() : layout.bridges.size() / 2);
}

TEST_P(KeptJointsOf, OfAPartThatIsGoneLeadNowhereAndGoToo) {
    const KeptJoints kept = read_pad_ways(ways_of_pads(layout), {0, 0});
    HoleLayout less = unjoined(layout);
    const std::string gone = layout.placements.back().designator;
    std::erase_if(less.placements, [&](const Placement& p) { return p.designator == gone; });
    std::erase_if(less.pins, [&](const PinHole& p) { return p.designator == gone; });
    mend_board(less, kept);
    std::set<Hole> pins;
    for (const PinHole& p : less.pins) pins.insert(p.hole);
    std::map<Hole, int> ends;
    for (const Bridge& b : less.bridges) ++ends[b.a], ++ends[b.b];
    for (const auto& [hole, count] : ends)
        EXPECT_TRUE(count > 1 || pins.contains(hole)) << less.board.name(hole) << " leads nowhere";
}

TEST_P(KeptJointsOf, ThatAreWrongAreLaidAnew) {
    const std::string net = circuit.nets().front();
    const auto way = [](const std::string& of, double x0, double y0, double x1, double y1) {
        using On = WayCorner::On;
        return TrackWay{of, {{On::solder, x0, y0}, {On::solder, x1, y1}}};
    };
    auto ways = ways_of_pads(layout);
    for (TrackWay& w : ways) w.net = net;  // each a short
    const double far = 1e300, wide = hole_pitch * layout.columns();
    for (const auto& wrong :
         {std::vector<TrackWay>{way("NO NET", 1.27, 1.27, 3.81, 1.27)},
          {way(net, 1.27, 1.27, 11.43, 6.35)},
          {way(net, -far, far, far, -far)},
          {way(net, 1.27, 1.27, far, 1.27)},
          {way(net, 1.27, 1.27, wide - 1.27, 1.27), way(net, 1.27, 1.27, wide - 1.27, 1.27)},
          {TrackWay{net, {}}},
          ways}) {
        HoleLayout again = unjoined(layout);
        mend_board(again, read_pad_ways(wrong, {0, 0}));
        EXPECT_EQ(layout_differences(again, circuit), std::vector<std::string>{});
    }
}

INSTANTIATE_TEST_SUITE_P(Some, KeptJointsOf, testing::Values(4, 8, 12));

TEST(KeptJoints, StayInTheDesignWhileAPartIsMovedUntilTheyAreLaidAnew) {
    Design design = demo("firefly-jar");
    design.board.method = "pad";
    const auto made = [](const Design& d) { return ask(BoardQuery{d.circuit, board_choices(d)}).value(); };
    const Board board = made(design);
    EXPECT_FALSE(board.ways.empty());
    const Design moved = moved_by_hand(design, board, "R1", 0, -hole_pitch).value();
    EXPECT_EQ(moved.board.ways.size(), board.ways.size());
    EXPECT_EQ(moved.board.ways_by, "pad");
    const Board after = made(moved);
    EXPECT_EQ(after.differences, std::vector<std::string>{});
    const Design anew = tracks_anew(moved);
    EXPECT_TRUE(anew.board.ways.empty());
    EXPECT_EQ(anew.board.ways_by, "pad") << "the places are still those of a pad board";
    EXPECT_EQ(made(anew).differences, std::vector<std::string>{});
    EXPECT_EQ(made(anew).part("R1")->turn, after.part("R1")->turn);
}

}  // namespace
}  // namespace elkit::test
