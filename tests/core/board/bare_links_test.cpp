// Bare links on the component side of pad boards: straight, in holes of their own, over nothing, and only
// where there is no way over pads.
#include <gtest/gtest.h>

#include <map>
#include <set>

#include "board/pad/kept_joints.hpp"
#include "board/pad/pad_board.hpp"
#include "support/board_circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

using Names = std::vector<std::string>;

/// What a link lies over, or shares a hole with.
Names in_the_way(const HoleLayout& l, const HoleParts& parts) {
    Names found;
    std::set<Hole> legs;
    for (const PinHole& p : l.pins) legs.insert(p.hole);
    std::map<Hole, int> under;  // links over each hole
    for (const Wire& w : l.wires) {
        if (w.kind != Wire::Kind::link) continue;
        const std::string name = l.board.name(w.a) + "–" + l.board.name(w.b);
        if (w.a.column != w.b.column && w.a.row != w.b.row) found.push_back(name + " is not straight");
        if (holes_between(w.a, w.b) < 2) found.push_back(name + " is no longer than a joint");
        const auto [left, right] = std::minmax(w.a.column, w.b.column);
        const auto [upper, lower] = std::minmax(w.a.row, w.b.row);
        for (int row = upper; row <= lower; ++row)
            for (int column = left; column <= right; ++column) {
                if (legs.contains({column, row})) found.push_back(name + " over a leg");
                if (++under[{column, row}] > 1) found.push_back(name + " over a link");
            }
        for (const HolePart& p : parts.all)
            if (const Placement* at = l.placement(p.part->designator)) {
                const Box b = placed_body(p.shapes[static_cast<std::size_t>(at->shape)], *at);
                const Box wire{left - 0.1, upper - 0.1, right + 0.1, lower + 0.1};
                if (b.overlaps(wire)) found.push_back(name + " under " + p.part->designator);
            }
    }
    return found;
}

class BareLinks : public testing::TestWithParam<int> {};

TEST_P(BareLinks, LieOverNothingAndJoinTheirNet) {
    std::size_t links = 0;
    for (const unsigned seed : {1u, 3u}) {
        const Circuit circuit = board_circuit(GetParam(), seed);
        BoardChoices close;  // so close that nets are in each other's way
        const HoleParts parts = hole_parts(circuit, close).value();
        HoleLayout l = lay_out_pads(parts, close).value();
        for (const bool quick : {true, false}) {
            l.bridges.clear(), l.wires.clear();
            const TopSide top(l, parts);
            route_board(l, {quick ? RouteEffort::quick : RouteEffort::thorough, 1U << 20U, top});
            EXPECT_EQ(layout_differences(l, circuit), Names{});
            EXPECT_EQ(in_the_way(l, parts), Names{});
            links += l.count(Wire::Kind::link);
            HoleLayout without = l;
            without.bridges.clear(), without.wires.clear();
            route_board(without, {quick ? RouteEffort::quick : RouteEffort::thorough, 1U << 20U, {}});
            EXPECT_EQ(without.count(Wire::Kind::link), 0u);
            EXPECT_LE(l.count(Wire::Kind::jumper), without.count(Wire::Kind::jumper));
            if (without.wires.empty()) {
                EXPECT_TRUE(l.wires.empty()) << "there is a way over pads";
            }
        }
        // kept while parts are moved
        const KeptJoints kept = read_pad_ways(ways_of_pads(l), {0, 0});
        EXPECT_EQ(kept.links.size(), l.count(Wire::Kind::link));
        HoleLayout again = l;
        again.bridges.clear(), again.wires.clear();
        mend_board(again, kept, TopSide(again, parts));
        EXPECT_EQ(layout_differences(again, circuit), Names{});
        EXPECT_EQ(in_the_way(again, parts), Names{});
        EXPECT_LE(again.wires.size(), l.wires.size());
    }
    if (GetParam() > 20) {
        EXPECT_GT(links, 0u) << "so many nets are in each other's way";
    }
}
INSTANTIATE_TEST_SUITE_P(Sizes, BareLinks, testing::Values(6, 12, 24, 40));

TEST(BareLink, CrossesAnotherNetThatHasNoWayRound) {
    // N1 from left to right, N2 from above to below, and the board too small to go round
    HoleLayout l{pad_substrate(5, 5), {}, {}, {}, {}, {}};
    for (int k = 0; k < 5; ++k) {
        l.pins.push_back({"A" + std::to_string(k), "a", "N1", {k, 2}});
        if (k != 2) l.pins.push_back({"B" + std::to_string(k), "a", "N2", {2, k}});
    }
    std::erase_if(l.pins, [](const PinHole& p) { return p.designator == "A1" || p.designator == "A3"; });
    HoleLayout insulated = l;
    route_board(insulated);
    EXPECT_EQ(insulated.count(Wire::Kind::jumper), 1u);
    const HoleParts none{nullptr, {}, {}, {}, {}};
    route_board(l, {RouteEffort::thorough, 1U << 20U, TopSide(l, none)});
    ASSERT_EQ(l.wires.size(), 1u);
    EXPECT_EQ(l.wires.front().kind, Wire::Kind::link);
}

}  // namespace
}  // namespace elkit::test
