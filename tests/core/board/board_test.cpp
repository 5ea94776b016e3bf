#include "board/board.hpp"

#include <gtest/gtest.h>

#include <cstdlib>
#include <map>
#include <memory>
#include <set>

#include "board/holes/search.hpp"
#include "board/pad/pad_board.hpp"
#include "board/strip/strip_board.hpp"
#include "board/trial/trial_board.hpp"
#include "circuit/part_kind.hpp"
#include "design/demo.hpp"
#include "design/fields.hpp"
#include "design/file.hpp"
#include "light/strings.hpp"
#include "support/board_circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

Design lights(int count, int per_string, const char* cell = "Lead-12V", int cells = 1) {
    return test::light({{"count", double(count)},
                        {"per_string", double(per_string)},
                        {"cell", std::string(cell)},
                        {"cells", double(cells)}});
}

/// A layout with the parts that it is made of.
struct Laid {
    std::shared_ptr<const Circuit> circuit;
    HoleParts parts;
    HoleLayout layout;
};
using LayOut = Result<HoleLayout> (*)(const HoleParts&, const BoardChoices&, const Progress&);
Result<Laid> laid(const Circuit& circuit, const BoardChoices& choices = {}, LayOut lay_out = lay_out_pads) {
    auto kept = std::make_shared<const Circuit>(circuit);
    auto parts = lay_out == lay_out_trial ? trial_parts(*kept, choices) : hole_parts(*kept, choices);
    if (!parts) return parts.error();
    auto layout = lay_out(parts.value(), choices, {});
    if (!layout) return layout.error();
    return Laid{kept, std::move(parts).value(), std::move(layout).value()};
}

void expect_sound(const Laid& made) {
    const HoleLayout& l = made.layout;
    const auto differences = layout_differences(l, *made.circuit);
    EXPECT_TRUE(differences.empty()) << differences.front();
    std::set<Hole> holes;
    for (const auto& p : l.pins) {
        EXPECT_TRUE(holes.insert(p.hole).second) << "two leads in " << l.board.name(p.hole);
        EXPECT_TRUE(l.board.has(p.hole)) << p.designator;
    }
    for (const Wire& w : l.wires) {
        if (w.kind == Wire::Kind::jumper) continue;  // joint to joint
        for (const Hole h : {w.a, w.b})
            EXPECT_TRUE(holes.insert(h).second) << "a wire and a lead in " << l.board.name(h);
    }
    std::vector<std::pair<std::string, Box>> bodies;
    for (const HolePart& p : made.parts.all)
        if (const Placement* at = l.placement(p.part->designator)) {
            const Box b = placed_body(p.shapes[static_cast<std::size_t>(at->shape)], *at);
            constexpr double touching = 1e-6;  // holes: side by side is not over each other
            bodies.emplace_back(p.part->designator,
                                Box{b.x0 + touching, b.y0 + touching, b.x1 - touching, b.y1 - touching});
        }
    for (std::size_t i = 0; i < bodies.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            EXPECT_FALSE(bodies[i].second.overlaps(bodies[k].second))
                << bodies[i].first << " over " << bodies[k].first;
    for (const auto& b : l.bridges) EXPECT_EQ(holes_between(b.a, b.b), 1) << "solder joins neighbours only";
    for (const Hole h : l.cuts) EXPECT_FALSE(holes.contains(h)) << "a lead in the cut at " << l.board.name(h);
}

class EveryDemo : public ::testing::TestWithParam<std::string> {};

TEST_P(EveryDemo, BecomesAStripBoardThatIsItsCircuit) {
    const Design d = test::demo(GetParam());
    const auto made = laid(d.circuit, {}, lay_out_strips);
    ASSERT_TRUE(made) << made.error().text();
    expect_sound(made.value());
    for (const Wire& w : made.value().layout.wires)
        EXPECT_TRUE(w.kind != Wire::Kind::link || w.a.column == w.b.column) << "links are straight";
}

TEST_P(EveryDemo, IsPluggedTogetherAsItsCircuit) {
    const Design d = test::demo(GetParam());
    const auto made = laid(d.circuit, {}, lay_out_trial);
    ASSERT_TRUE(made) << made.error().text();
    expect_sound(made.value());
    const Substrate& board = made.value().layout.board;
    for (const PinHole& pin : made.value().layout.pins) EXPECT_TRUE(board.has(pin.hole)) << pin.designator;
}

/// All but those of sixty parts, which the bench lays out.
std::vector<std::string> demos_to_lay_out() {
    auto ids = test::demo_ids();
    if (!test::in_depth())
        std::erase_if(ids, [](const std::string& id) { return test::demo(id).circuit.parts.size() > 31; });
    return ids;
}
INSTANTIATE_TEST_SUITE_P(All, EveryDemo, ::testing::ValuesIn(demos_to_lay_out()), test::demo_name);

struct Method {
    const char* name;
    LayOut lay_out;
};
class AnyCircuit : public ::testing::TestWithParam<Method> {};
TEST_P(AnyCircuit, BecomesABoardThatIsItsCircuit) {
    for (unsigned seed = 1; seed <= 5; seed += test::in_depth() ? 1 : 2) {
        const Circuit circuit = test::board_circuit(8 + 4 * static_cast<int>(seed), seed);
        const auto made = laid(circuit, {}, GetParam().lay_out);
        ASSERT_TRUE(made) << seed << ": " << made.error().text();
        expect_sound(made.value());
    }
}
INSTANTIATE_TEST_SUITE_P(Methods, AnyCircuit,
                         ::testing::Values(Method{"pad", lay_out_pads}, Method{"strip", lay_out_strips},
                                           Method{"trial", lay_out_trial}),
                         [](const auto& method) { return std::string(method.param.name); });

struct Size {
    int count, per_string;
};
class Boards : public ::testing::TestWithParam<Size> {};

TEST_P(Boards, EqualTheirCircuit) {
    const Design d = lights(GetParam().count, GetParam().per_string);
    const auto made = laid(d.circuit);
    ASSERT_TRUE(made) << made.error().text();
    expect_sound(made.value());
}

INSTANTIATE_TEST_SUITE_P(Sizes, Boards,
                         ::testing::Values(Size{1, 1}, Size{2, 1}, Size{3, 3}, Size{4, 2}, Size{7, 3},
                                           Size{12, 4}));

/// The holes of a string's parts, as seen on the board.
struct Columned {
    std::set<int> columns, rows;
    int turn = -1;
};
std::vector<Columned> strings_on(const HoleLayout& l, const Circuit& circuit) {
    std::vector<Columned> all;
    for (const LedString& string : led_strings(circuit)) {
        Columned c;
        for (const Part* led : string.leds) {
            const Placement& p = *l.placement(led->designator);
            c.turn = p.turn;
            for (const PinHole& pin : l.pins)
                if (pin.designator == led->designator || pin.designator == string.resistor->designator)
                    c.columns.insert(pin.hole.column), c.rows.insert(pin.hole.row);
        }
        all.push_back(std::move(c));
    }
    return all;
}

TEST(Board, EqualStringsLieAsEqualColumns) {
    for (const auto& [count, per_string] : {std::pair(24, 2), std::pair(6, 3), std::pair(80, 2)}) {
        const Design d = lights(count, per_string);
        const auto made = laid(d.circuit);
        ASSERT_TRUE(made) << made.error().text();
        const HoleLayout& l = made.value().layout;
        expect_sound(made.value());
        EXPECT_TRUE(l.wires.empty()) << count;
        const auto strings = strings_on(l, d.circuit);
        ASSERT_EQ(strings.size(), static_cast<std::size_t>(count / per_string));
        std::set<std::set<int>> lines;
        int last = -1;
        bool in_order = true;
        for (const Columned& s : strings) {
            const bool upright = s.columns.size() == 1;
            EXPECT_TRUE(upright || s.rows.size() == 1) << "each in one line";
            EXPECT_EQ(s.turn, strings.front().turn) << "all look the same way";
            lines.insert(upright ? s.rows : s.columns);
            const int at = upright ? *s.columns.begin() : *s.rows.begin();
            in_order &= !upright || lines.size() > 1 || at > last;
            last = at;
        }
        EXPECT_LE(lines.size(), static_cast<std::size_t>(count > 30 ? 3 : 2)) << count;
        EXPECT_TRUE(in_order) << count;
    }
}

TEST(Board, LightsOfAGridLieInRowsToo) {
    const Design d = read_design(find_demo("seat-finder")->text).value();
    const auto made = laid(d.circuit);
    ASSERT_TRUE(made) << made.error().text();
    expect_sound(made.value());
    std::map<std::string, std::set<int>> turns;  // by the net that lights share
    for (const Part& part : d.circuit.parts)
        if (is(part, Role::diode_light))
            turns[part.net("k")].insert(made.value().layout.placement(part.designator)->turn);
    for (const auto& [net, ways] : turns) EXPECT_EQ(ways.size(), 1u) << net;
}

TEST(Routing, NetsMakeRoomForEachOther) {
    // the short one takes the only gap that the long one has, as long as it does not know better
    HoleLayout l{pad_substrate(7, 5), {}, {}, {}, {}, {}};
    const auto pin = [&](const char* part, const char* net, int column, int row) {
        l.pins.push_back({part, "a", net, {column, row}});
    };
    for (const int row : {0, 1, 3, 4}) pin(("X" + std::to_string(row)).c_str(), "", 3, row);
    pin("A1", "A", 1, 2), pin("A2", "A", 6, 2);
    pin("B1", "B", 2, 1), pin("B2", "B", 2, 3);
    route_board(l);
    EXPECT_TRUE(l.wires.empty());
    std::map<std::string, std::string> group;
    for (const auto& names : extract_groups(l))
        for (const auto& name : names) group[name] = names.front();
    EXPECT_EQ(group["A1.a"], group["A2.a"]);
    EXPECT_EQ(group["B1.a"], group["B2.a"]);
    EXPECT_NE(group["A1.a"], group["B1.a"]);
}

TEST(Board, MoreThanOneBoardTakesIsRefusedBeforeTheWorkStarts) {
    Circuit c = lights(1, 1).circuit;
    for (std::size_t k = c.parts.size(); k <= most_on_holes; ++k)
        c.parts.push_back(
            {"RX" + std::to_string(k), "resistor", {}, {{"a", c.nets()[0]}, {"b", c.nets()[1]}}, {}});
    const auto layout = lay_out_pads(hole_parts(c, {}).value(), {}, [](auto, double) {
        return ADD_FAILURE() << "the work has started", false;
    });
    ASSERT_FALSE(layout);
    EXPECT_EQ(layout.error().found, "the circuit has 301 parts");
    EXPECT_NE(layout.error().expected.find("at most 300"), std::string::npos);
}

TEST(Board, MethodsReadChoicesThatAPersonCanSet) {
    for (const BoardMethod& method : board_methods())
        for (const std::string& id : method.choices)
            EXPECT_NE(find_field(id), nullptr) << method.id << " " << id;
}

TEST(Board, DemosFitTheirBriefs) {
    for (const Design& d : {test::pier_lantern(), test::coat_badge()}) {
        const auto made = laid(d.circuit, d.board);
        ASSERT_TRUE(made);
        expect_sound(made.value());
        EXPECT_LE(made.value().layout.board.width(), d.brief.width);
        EXPECT_LE(made.value().layout.board.height(), d.brief.height);
    }
}

TEST(Board, IsTheSameEveryTime) {
    const Design d = test::pier_lantern();
    const auto a = laid(d.circuit).value().layout, b = laid(d.circuit).value().layout;
    EXPECT_EQ(a.placements, b.placements);
    EXPECT_EQ(a.bridges, b.bridges);
}

BoardChoices holes(double columns, double rows) {
    BoardChoices choices;
    choices.columns = columns, choices.rows = rows;
    return choices;
}

TEST(Board, KeepsToTheChosenSizeOrSaysThatItCannot) {
    const Design d = test::pier_lantern();
    const auto wide = laid(d.circuit, holes(20, 9));
    ASSERT_TRUE(wide);
    EXPECT_EQ(wide.value().layout.columns(), 20);
    EXPECT_EQ(wide.value().layout.rows(), 9);
    expect_sound(wide.value());
    const auto small = laid(d.circuit, holes(4, 4));
    ASSERT_FALSE(small);
    EXPECT_EQ(small.error().place, "/board");
}

TEST(Extraction, SeesAMissingJointAStrayOneAndAJumpFarOff) {
    const Design d = test::pier_lantern();
    HoleLayout l = laid(d.circuit).value().layout;
    HoleLayout open = l;
    open.bridges.pop_back();
    ASSERT_FALSE(layout_differences(open, d.circuit).empty());
    EXPECT_NE(layout_differences(open, d.circuit).front().find("not on the board"), std::string::npos);
    HoleLayout shorted = l;
    shorted.wires.push_back({l.pins.front().hole, {}});
    for (const auto& p : l.pins)
        if (!p.net.empty() && p.net != l.pins.front().net) shorted.wires.back().b = p.hole;
    ASSERT_FALSE(layout_differences(shorted, d.circuit).empty());
    EXPECT_NE(layout_differences(shorted, d.circuit).front().find("not in the circuit"), std::string::npos);
    HoleLayout far = l;
    far.bridges.clear();
    for (const auto& b : l.bridges) far.bridges.push_back({b.a, {b.b.column + 5, b.b.row}});
    EXPECT_FALSE(layout_differences(far, d.circuit).empty())
        << "a bridge longer than a pitch does not conduct";
}

TEST(Extraction, SolderDoesNotJumpAPad) {
    const Design d = test::pier_lantern();
    const HoleLayout l = laid(d.circuit).value().layout;
    const auto at = [&](Hole h) {
        return std::count_if(l.bridges.begin(), l.bridges.end(),
                             [&](const Bridge& b) { return b.a == h || b.b == h; });
    };
    int tried = 0;
    for (std::size_t k = 0; k < l.bridges.size(); ++k) {
        // a joint at the end of its net's solder, drawn from one pad further off within the same net
        const Hole end = at(l.bridges[k].a) == 1 ? l.bridges[k].a : l.bridges[k].b,
                   near = end == l.bridges[k].a ? l.bridges[k].b : l.bridges[k].a;
        if (at(end) != 1) continue;
        for (const Bridge& other : l.bridges) {
            if ((other.a != near && other.b != near) || other.a == end || other.b == end) continue;
            HoleLayout jumping = l;
            jumping.bridges[k] = {other.a == near ? other.b : other.a, end};
            EXPECT_FALSE(layout_differences(jumping, d.circuit).empty());
            ++tried;
        }
    }
    EXPECT_GE(tried, 1);
}

TEST(Board, FitsItsRoomEitherWayRound) {
    Board board;
    board.width = 30, board.height = 20;
    for (const auto& [width, height, fits] : {std::tuple(30.0, 20.0, true),
                                              {20.0, 30.0, true},
                                              {29.0, 29.0, false},
                                              {19.0, 40.0, false},
                                              {0.0, 20.0, true},
                                              {0.0, 19.0, false},
                                              {0.0, 0.0, true},
                                              {31.0, 0.0, true}})
        EXPECT_EQ(board.fits(width, height), fits) << width << " × " << height;
}

TEST(Routing, LaysAJumperWhereThereIsNoWay) {
    // B lies between two pads of A on a board one row high: solder cannot pass
    HoleLayout l{pad_substrate(5, 1),
                 {},
                 {{"R1", "a", "A", {0, 0}}, {"R1", "b", "B", {2, 0}}, {"R2", "a", "A", {4, 0}}},
                 {},
                 {},
                 {}};
    route_board(l);
    ASSERT_EQ(l.count(Wire::Kind::jumper), 1u);
    EXPECT_TRUE(l.bridges.empty());
    EXPECT_EQ(extract_groups(l), (std::vector<std::vector<std::string>>{{"R1.a", "R2.a"}, {"R1.b"}}));
}

TEST(Holes, AreNamedByLetterAndNumber) {
    const Substrate pads = pad_substrate(40, 20);
    EXPECT_EQ(pads.name({0, 0}), "A1");
    EXPECT_EQ(pads.name({25, 9}), "Z10");
    EXPECT_EQ(pads.name({26, 0}), "AA1");
    EXPECT_EQ(pads.name({27, 11}), "AB12");
}

TEST(Pictures, SolderSideIsTheMirrorOfTheComponentSide) {
    const Design d = test::pier_lantern();
    const Laid made = laid(d.circuit).value();
    const HoleLayout& l = made.layout;
    const Drawing front = draw_component_side(l, made.parts), back = draw_solder_side(l, made.parts);
    EXPECT_DOUBLE_EQ(front.width, back.width);
    for (const auto& pin : l.pins) {
        const Box a = front.bounds("hole:" + l.board.name(pin.hole)),
                  b = back.bounds("hole:" + l.board.name(pin.hole));
        EXPECT_NEAR((a.x0 + a.x1) / 2, back.width - (b.x0 + b.x1) / 2, 1e-9);
        EXPECT_NEAR((a.y0 + a.y1) / 2, (b.y0 + b.y1) / 2, 1e-9);
    }
}

TEST(Gaps, LieBetweenNeighboursOfDifferentNets) {
    const Design d = test::pier_lantern();
    const HoleLayout l = laid(d.circuit).value().layout;
    const auto nets = hole_nets(l);
    const auto gaps = isolation_gaps(l);
    EXPECT_FALSE(gaps.empty());
    for (const auto& g : gaps) EXPECT_NE(nets.at(g.a), nets.at(g.b));
}

}  // namespace
}  // namespace elkit
