// Strip boards and breadboards: what is joined from the start, what is cut, what wires add; and faults in
// them.
#include <gtest/gtest.h>

#include <algorithm>
#include <memory>
#include <set>

#include "board/strip/strip_board.hpp"
#include "board/trial/trial_board.hpp"
#include "circuit/part_kind.hpp"
#include "light/strings.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

PinHole pin(const char* part, const char* net, int column, int row) {
    return {part, "a", net, {column, row}};
}

bool joined(const HoleLayout& l, const std::string& a, const std::string& b) {
    for (const auto& group : extract_groups(l))
        if (std::count(group.begin(), group.end(), a + ".a") > 0)
            return std::count(group.begin(), group.end(), b + ".a") > 0;
    return false;
}

TEST(Strips, JoinTheirRowUpToACut) {
    HoleLayout l{strip_substrate(8, 2),
                 {},
                 {pin("A", "N", 0, 0), pin("B", "N", 7, 0), pin("C", "M", 7, 1)},
                 {},
                 {},
                 {}};
    EXPECT_TRUE(joined(l, "A", "B"));
    EXPECT_FALSE(joined(l, "B", "C")) << "strips do not touch";
    l.cuts = {{4, 0}};
    EXPECT_FALSE(joined(l, "A", "B"));
    l.wires = {{{2, 0}, {6, 0}, Wire::Kind::link, {}, {}}};
    EXPECT_TRUE(joined(l, "A", "B")) << "a link leads round the cut";
    l.wires = {{{4, 0}, {6, 0}, Wire::Kind::link, {}, {}}};
    EXPECT_FALSE(joined(l, "A", "B")) << "in the cut itself there is no copper";
}

TEST(Strips, AreJoinedByAStraightLinkAndCutInTheMiddle) {
    HoleLayout l{strip_substrate(9, 3),
                 {},
                 {pin("A", "N", 0, 0), pin("B", "N", 0, 2), pin("C", "M", 8, 0), pin("D", "M", 8, 1)},
                 {},
                 {},
                 {}};
    const Circuit none;
    join_strips(l, {&none, {}, {}});
    EXPECT_EQ(l.count(Wire::Kind::link), 2u);
    EXPECT_EQ(l.count(Wire::Kind::jumper), 0u);
    for (const Wire& w : l.wires) EXPECT_EQ(w.a.column, w.b.column);
    EXPECT_TRUE(joined(l, "A", "B") && joined(l, "C", "D"));
    EXPECT_FALSE(joined(l, "A", "C"));
    ASSERT_EQ(l.cuts.size(), 1u);
    EXPECT_EQ(l.cuts.front().row, 0);
}

TEST(Strips, TakeAnInsulatedJumperWhereNoStraightWayIsFree) {
    // A and B have no column in common that is free on both strips
    HoleLayout l{strip_substrate(5, 2),
                 {},
                 {pin("A", "N", 0, 0), pin("X", "M", 2, 0), pin("Y", "K", 2, 1), pin("B", "N", 4, 1)},
                 {},
                 {},
                 {}};
    const Circuit none;
    join_strips(l, {&none, {}, {}});
    EXPECT_EQ(l.count(Wire::Kind::jumper), 1u);
    EXPECT_TRUE(joined(l, "A", "B"));
    EXPECT_FALSE(joined(l, "A", "X") || joined(l, "B", "Y"));
    EXPECT_EQ(l.cuts.size(), 2u);
}

struct Stripped {
    std::shared_ptr<const Circuit> circuit;
    HoleParts parts;
    HoleLayout layout;
};
Stripped stripped(const Design& d) {
    auto circuit = std::make_shared<const Circuit>(d.circuit);
    HoleParts parts = hole_parts(*circuit, {}).value();
    HoleLayout layout = lay_out_strips(parts, {}).value();
    return {circuit, std::move(parts), std::move(layout)};
}

TEST(Strips, EveryCutAndEveryWireIsNeeded) {
    const Stripped s = stripped(demo("twin-blinker"));
    ASSERT_TRUE(layout_differences(s.layout, *s.circuit).empty());
    ASSERT_FALSE(s.layout.cuts.empty());
    for (std::size_t k = 0; k < s.layout.cuts.size(); ++k) {
        HoleLayout without = s.layout;
        without.cuts.erase(without.cuts.begin() + static_cast<std::ptrdiff_t>(k));
        EXPECT_FALSE(layout_differences(without, *s.circuit).empty())
            << "the cut that was forgotten is found";
    }
    for (std::size_t k = 0; k < s.layout.wires.size(); ++k) {
        HoleLayout without = s.layout;
        without.wires.erase(without.wires.begin() + static_cast<std::ptrdiff_t>(k));
        EXPECT_FALSE(layout_differences(without, *s.circuit).empty())
            << "the link that was forgotten is found";
    }
    HoleLayout beside = s.layout;  // cut on the strip below
    for (Hole& h : beside.cuts) h.row = (h.row + 1) % beside.rows();
    EXPECT_FALSE(layout_differences(beside, *s.circuit).empty());
}

TEST(Strips, LinksLieUnderNoBodyAndCutsUnderNoLeg) {
    for (const char* id : {"harbour-dimmer", "kite-tail", "shelf-strip"}) {
        const Stripped s = stripped(demo(id));
        std::set<Hole> legs;
        for (const PinHole& p : s.layout.pins) legs.insert(p.hole);
        for (const Hole h : s.layout.cuts) EXPECT_FALSE(legs.contains(h)) << id;
        for (const Wire& w : s.layout.wires) {
            if (w.kind != Wire::Kind::link) continue;
            const double x = w.a.column;
            for (const HolePart& p : s.parts.all) {
                const Placement& at = *s.layout.placement(p.part->designator);
                const Box b = placed_body(p.shapes.front(), at);
                const bool under = x > b.x0 && x < b.x1 && std::max(w.a.row, w.b.row) > b.y0 &&
                                   std::min(w.a.row, w.b.row) < b.y1;
                EXPECT_FALSE(under) << id << ": a link under " << p.part->designator;
            }
        }
    }
}

TEST(Strips, EqualStringsAreEqualStairsWithoutJumpers) {
    const Design d =
        light({{"count", 24.0}, {"per_string", 2.0}, {"cell", std::string("Lead-12V")}, {"cells", 1.0}});
    const Stripped s = stripped(d);
    EXPECT_EQ(s.layout.count(Wire::Kind::jumper), 0u);
    std::set<std::vector<int>> shapes;  // of each string, from its resistor on
    for (const LedString& string : led_strings(*s.circuit)) {
        const Hole from = s.layout.placement(string.resistor->designator)->at;
        std::vector<int> shape;
        for (const Part* led : string.leds) {
            const Placement& at = *s.layout.placement(led->designator);
            shape.push_back(at.at.column - from.column), shape.push_back(at.at.row - from.row),
                shape.push_back(at.turn);
        }
        shapes.insert(shape);
    }
    EXPECT_EQ(shapes.size(), 1u);
}

TEST(Breadboards, AreNamedAsTheyArePrinted) {
    const Substrate half = breadboard(breadboard_sizes()[1]);
    EXPECT_EQ(half.name({0, 3}), "1a");
    EXPECT_EQ(half.name({29, 14}), "30j");
    EXPECT_EQ(half.name({6, 0}), "+7");
    EXPECT_EQ(half.name({6, 17}), "−7'");
    EXPECT_FALSE(half.has({3, 2})) << "beside the rails";
    EXPECT_FALSE(half.has({3, 8}) || half.has({3, 9})) << "in the channel";
    EXPECT_TRUE(half.has({3, 7}) && half.has({3, 10}));
    EXPECT_EQ(half.groups.size(), 30u * 2 + 4);
    const Substrate two = breadboard(breadboard_sizes()[3]);
    EXPECT_EQ(two.name({0, 3 + 18}), "2:1a");
    std::set<std::string> names;
    for (int row = 0; row < two.rows; ++row)
        for (int column = 0; column < two.columns; ++column)
            if (two.has({column, row})) {
                EXPECT_TRUE(names.insert(two.name({column, row})).second);
            }
}

TEST(Breadboards, JoinFivesAndRailsAndNothingAcrossTheChannel) {
    const Substrate board = breadboard(breadboard_sizes()[1]);
    HoleLayout l{board,
                 {},
                 {pin("A", "N", 4, 3), pin("B", "N", 4, 7), pin("C", "N", 4, 10), pin("D", "P", 0, 0),
                  pin("E", "P", 29, 0), pin("F", "G", 7, 1)},
                 {},
                 {},
                 {}};
    EXPECT_TRUE(joined(l, "A", "B"));
    EXPECT_FALSE(joined(l, "A", "C"));
    EXPECT_TRUE(joined(l, "D", "E"));
    EXPECT_FALSE(joined(l, "D", "F"));
}

HoleLayout tried(const BoardChoices& choices, const HoleParts& parts) {
    auto layout = lay_out_trial(parts, choices);
    EXPECT_TRUE(layout) << layout.error().text();
    return layout.value();
}

TEST(Trial, PutsTheSupplyIntoTheRailsAndChipsAcrossTheChannel) {
    const Design d = demo("harbour-dimmer");
    const HoleParts parts = trial_parts(d.circuit, {}).value();
    const HoleLayout l = tried({}, parts);
    const auto rails = rail_nets(l.board, d.circuit);
    EXPECT_EQ(rails[l.board.rails[1]], d.circuit.source()->net("-"));
    std::set<std::string> letters;
    for (const PinHole& p : l.pins)
        if (p.designator == "U1") letters.insert(l.board.row_name(p.hole.row));
    EXPECT_EQ(letters, (std::set<std::string>{"e", "f"}));
    for (const Wire& w : l.wires) EXPECT_EQ(w.kind, Wire::Kind::plugged);
    EXPECT_EQ(l.placement("B1"), nullptr) << "cells stay beside the board";
    EXPECT_EQ(
        std::count_if(l.pins.begin(), l.pins.end(), [](const PinHole& p) { return p.designator == "B1"; }),
        2);
}

TEST(Trial, WhatHangsOnWiresAloneIsPluggedTogetherToo) {
    Circuit c;
    c.parts.push_back({"B1", "battery", {}, {{"+", "V"}, {"-", "G"}}, {}});
    c.parts.push_back({"H1", "lamp", {}, {{"a", "V"}, {"b", "G"}}, {}});
    const HoleParts parts = trial_parts(c, {}).value();
    const auto layout = lay_out_trial(parts, {});
    ASSERT_TRUE(layout) << layout.error().text();
    EXPECT_TRUE(layout_differences(layout.value(), c).empty());
    EXPECT_EQ(layout.value().pins.size(), 4u);
}

TEST(Trial, LegsAreBentNoFurtherThanAHandDoes) {
    const Design d = demo("harbour-dimmer");
    const HoleParts parts = trial_parts(d.circuit, {}).value();
    const HoleLayout l = tried({}, parts);
    for (const HolePart& p : parts.all) {
        if (p.footprint.picture != "axial") continue;
        std::vector<Hole> holes;
        for (const PinHole& at : l.pins)
            if (at.designator == p.part->designator) holes.push_back(at.hole);
        ASSERT_EQ(holes.size(), 2u);
        EXPECT_GE(holes_between(holes[0], holes[1]), 3) << p.part->designator;
        EXPECT_LE(holes_between(holes[0], holes[1]), 7) << p.part->designator;
    }
}

TEST(Trial, KeepsToTheChosenBreadboardOrSaysThatItCannot) {
    const Design d = demo("harbour-dimmer");
    const HoleParts parts = trial_parts(d.circuit, {}).value();
    BoardChoices choices;
    choices.breadboard = "full";
    EXPECT_EQ(tried(choices, parts).columns(), 63);
    choices.breadboard = "round";
    EXPECT_NE(lay_out_trial(parts, choices).error().text().find("small, half, full"), std::string::npos);
    choices.breadboard = "small";
    const Design large = demo("seat-finder");
    const auto none = lay_out_trial(trial_parts(large.circuit, choices).value(), choices);
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().place, "/board/breadboard");
}

TEST(Trial, ColoursTellUseOrLength) {
    const Design d = demo("harbour-dimmer");
    const HoleParts parts = trial_parts(d.circuit, {}).value();
    HoleLayout l = tried({}, parts);
    colour_wires(l, d.circuit, "use");
    std::map<std::string, std::set<std::string>> of_net;
    for (const Wire& w : l.wires) of_net[w.net].insert(w.colour);
    for (const auto& [net, colours] : of_net) EXPECT_EQ(colours.size(), 1u) << net;
    EXPECT_EQ(of_net.at(d.circuit.source()->net("-")), std::set<std::string>{"black"});
    colour_wires(l, d.circuit, "length");
    const HoleLayout two{l.board, {}, {}, {}, {{{1, 3}, {3, 3}, Wire::Kind::plugged, "N", ""}}, {}};
    HoleLayout red = two;
    colour_wires(red, d.circuit, "length");
    EXPECT_EQ(red.wires.front().colour, "red") << "two tenths of an inch";
    std::map<long, std::set<std::string>> of_length;
    for (const Wire& w : l.wires)
        of_length[std::lround(std::hypot(w.a.column - w.b.column, w.a.row - w.b.row))].insert(w.colour);
    for (const auto& [length, colours] : of_length) EXPECT_EQ(colours.size(), 1u) << length;
}

TEST(Trial, APulledWireOrAnotherHoleIsFound) {
    const Design d = demo("twin-blinker");
    const HoleParts parts = trial_parts(d.circuit, {}).value();
    const HoleLayout l = tried({}, parts);
    ASSERT_TRUE(layout_differences(l, d.circuit).empty());
    for (std::size_t k = 0; k < l.wires.size(); ++k) {
        HoleLayout pulled = l;
        pulled.wires.erase(pulled.wires.begin() + static_cast<std::ptrdiff_t>(k));
        EXPECT_FALSE(layout_differences(pulled, d.circuit).empty());
        HoleLayout shifted = l;
        shifted.wires[k].a.column = (shifted.wires[k].a.column + 1) % l.columns();
        EXPECT_FALSE(layout_differences(shifted, d.circuit).empty()) << "a hole beside";
    }
}

}  // namespace
}  // namespace elkit::test
