// The stave at real size: words that can be read in any room, few lines, joints, folds.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "circuit/edit.hpp"
#include "drawing/stave.hpp"
#include "drawing/stave_runs.hpp"
#include "drawing/stave_slots.hpp"
#include "drawing/stave_systems.hpp"
#include "drawing/stave_tracks.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Circuit demo_circuit(const std::string& id) { return demo(id).circuit; }

Drawing stave_in(const Circuit& c, const StaveLayout& layout, double width, double height,
                 StaveView view = {}) {
    view.room_width = width, view.room_height = height;
    return stave(c, {}, layout, view);
}

std::string first_overlap(const Drawing& d) {
    std::vector<const Text*> words;
    for (std::size_t k = 0; k < d.items.size(); ++k)
        if (const Text* t = std::get_if<Text>(&d.items[k].shape)) words.push_back(t);
    for (std::size_t i = 0; i < words.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            if (bounds(*words[i]).overlaps(bounds(*words[k])))
                return words[i]->text + " over " + words[k]->text;
    return {};
}

/// A net's line that runs through a part's words.
std::string first_struck_out(const Drawing& d) {
    for (const Item& line : d.items) {
        const Line* l = std::get_if<Line>(&line.shape);
        if (!l || !line.ref.starts_with("net:") || l->y1 != l->y2 || line.style.dashed) continue;
        for (const Item& item : d.items) {
            const Text* t = std::get_if<Text>(&item.shape);
            if (!t || item.ref.starts_with("net:")) continue;
            const Box b = bounds(*t);
            if (l->y1 > b.y0 + 1 && l->y1 < b.y1 - 1 && b.x0 < l->x2 && l->x1 < b.x1)
                return line.ref + " through " + t->text;
        }
    }
    return {};
}

class StaveOfDemo : public ::testing::TestWithParam<std::string> {};

TEST_P(StaveOfDemo, CanBeReadInAnyRoom) {
    const Circuit c = demo_circuit(GetParam());
    const StaveLayout layout = stave_layout(c);
    for (const auto& [width, height] : {std::pair{560.0, 240.0}, {840.0, 380.0}, {1500.0, 900.0}, {0.0, 0.0}})
        for (const double zoom : {1.0, 2.5})
            for (const bool folded : {true, false}) {
                if (zoom > 1 && width != 840) continue;  // the same picture, but larger
                StaveView view = folded ? StaveView{} : unfolded(layout);
                view.zoom = zoom;
                const Drawing d = stave_in(c, layout, width, height, view);
                const std::string where = " at " + std::to_string(width) + " zoom " + std::to_string(zoom);
                for (const Item& item : d.items) {
                    const Text* t = std::get_if<Text>(&item.shape);
                    EXPECT_GE(t ? t->size : 11, 11) << item.ref << where;
                }
                EXPECT_EQ(first_overlap(d), "") << where;
                EXPECT_EQ(first_struck_out(d), "") << where;
                for (const Item& item : d.items) {
                    const Box b = bounds(item.shape);
                    EXPECT_TRUE(b.x0 >= 0 && b.y0 >= 0 && b.x1 <= d.width && b.y1 <= d.height)
                        << item.ref << where;
                }
            }
}

TEST_P(StaveOfDemo, EveryNetIsALineOrAJoint) {
    const Circuit c = demo_circuit(GetParam());
    const StaveLayout layout = stave_layout(c);
    const Drawing d = stave(c, {}, layout, unfolded(layout));
    for (const auto& net : c.nets()) {
        int lines = 0, joints = 0;
        for (const Item& item : d.items) {
            if (item.ref != "net:" + net) continue;
            lines += std::holds_alternative<Line>(item.shape);
            joints += std::holds_alternative<Circle>(item.shape);
        }
        EXPECT_TRUE((lines > 0) != (joints > 0)) << net << ": " << lines << " lines, " << joints << " joints";
        EXPECT_LE(joints, 1) << net;
        EXPECT_EQ(layout.row(net) >= 0, lines > 0) << net;
    }
}

INSTANTIATE_TEST_SUITE_P(All, StaveOfDemo, ::testing::ValuesIn(demo_ids()), demo_name);

TEST(StaveRoom, HasFewLines) {
    EXPECT_LE(stave_layout(demo_circuit("herbarium-ring")).rows.size(), 4u);
    EXPECT_LE(stave_layout(demo_circuit("shelf-strip")).rows.size(), 8u);
    EXPECT_EQ(stave_layout(demo_circuit("pier-lantern")).rows.size(), 3u);
}

TEST(StaveRoom, SymbolsGrowWithTheRoomAndTheZoom) {
    const Circuit c = demo_circuit("harbour-dimmer");
    const StaveLayout layout = stave_layout(c);
    EXPECT_LE(stave_in(c, layout, 900, 420).height, 421);
    EXPECT_GT(stave_in(c, layout, 1600, 900).height, stave_in(c, layout, 900, 420).height + 100);
    StaveView near;
    near.zoom = 3;
    EXPECT_GT(stave_in(c, layout, 900, 420, near).height, 1000);
}

TEST(StaveRoom, TwelveEqualStringsAreOneColumn) {
    Circuit c = demo_circuit("herbarium-ring");
    const StaveLayout layout = stave_layout(c);
    EXPECT_EQ(layout.group_of("L24"), "R1");
    EXPECT_EQ(layout.group_of("S1"), "");
    EXPECT_EQ(layout.like("R3").size(), 12u);
    EXPECT_EQ(layout.like("R3").front(), "R3");
    EXPECT_EQ(layout.like("S1"), std::vector<std::string>{"S1"});
    const Drawing folded = stave(c, {}, layout), open = stave(c, {}, layout, unfolded(layout));
    const auto refs = folded.refs();
    EXPECT_EQ(std::count(refs.begin(), refs.end(), "fold:R1"), 1);
    EXPECT_EQ(std::count(refs.begin(), refs.end(), "part:R5"), 0);
    EXPECT_LT(folded.width, open.width / 2);
    // the line carries what all twelve take
    double widest = 0, one = 0;
    for (const Item& item : folded.items)
        if (item.ref == "net:V+" && std::holds_alternative<Line>(item.shape))
            widest = std::max(widest, item.style.width);
    for (const Item& item : folded.items)
        if (item.ref == "part:R1" && std::holds_alternative<Line>(item.shape))
            one = std::max(one, item.style.width);
    EXPECT_GT(widest, one + 0.3);
    // one that differs stands alone, and the rest stays where it was
    c.find("R7")->params["value"] = 220.0;
    const StaveLayout other = stave_layout(c, &layout);
    EXPECT_EQ(other.group_of("R7"), "");
    EXPECT_EQ(other.like("R3").size(), 11u);
}

TEST(StaveRoom, SaysTheSpreadOfAFoldedColumn) {
    Circuit c = demo_circuit("herbarium-ring");
    const StaveLayout layout = stave_layout(c);
    const OperatingPoint op = solve(c);
    OperatingPoint uneven = op;
    for (PartState& state : uneven.parts)
        if (state.designator == "L3") state.current = 0.010;
    const auto says = [&](const OperatingPoint& readings, const std::string& words) {
        const Drawing d = draw_stave(c, layout, readings, {});
        return std::any_of(d.items.begin(), d.items.end(), [&](const Item& item) {
            const Text* t = std::get_if<Text>(&item.shape);
            return t && t->text.find(words) != std::string::npos;
        });
    };
    EXPECT_TRUE(says(op, "each"));
    EXPECT_FALSE(says(op, "–1"));
    EXPECT_TRUE(says(uneven, format_quantity(0.010, Unit::ampere) + "–"));
}

TEST(StaveRoom, ButtonsAndKnobsAreNeverFolded) {
    std::vector<std::string> lines{"battery B1 +=V -=0 count=3"};
    for (int k = 1; k <= 4; ++k) {
        const std::string n = std::to_string(k);
        lines.push_back("switch S" + n + " a=V b=A" + n);
        lines.push_back("resistor R" + n + " a=A" + n + " b=0 value=1000");
    }
    const StaveLayout layout = stave_layout(circuit(lines));
    for (const StaveColumn& column : layout.columns) EXPECT_TRUE(column.alike.empty());
}

TEST(StaveRoom, APartAloneOnALegHangsFromIt) {
    const StaveLayout layout = stave_layout(demo_circuit("shelf-strip"));
    const auto& body = layout.columns[static_cast<std::size_t>(layout.column("U1"))];
    EXPECT_EQ(layout.column("C2"), layout.column("U1"));
    EXPECT_TRUE(std::any_of(body.hung.begin(), body.hung.end(),
                            [](const auto& h) { return h.pin == "cont" && h.parts.front() == "C2"; }));
    EXPECT_EQ(layout.row("CV"), -1);
}

TEST(StaveRoom, ARingOfTwoPartsIsDrawnAllTheSame) {
    // two parts that nothing else touches, a loop from one line to itself, a part shorted to itself
    const Circuit c =
        circuit({"battery B1 +=V -=0", "resistor R1 a=V b=0 value=1000", "resistor R2 a=X b=Y value=1000",
                 "capacitor C1 a=X b=Y", "resistor R3 a=V b=P value=1000", "resistor R4 a=P b=Q value=1000",
                 "resistor R5 a=Q b=V value=1000", "resistor R6 a=V b=V value=1000"});
    const StaveLayout layout = stave_layout(c);
    for (const Part& part : c.parts) EXPECT_GE(layout.column(part.designator), 0) << part.designator;
    for (const StaveRun& run : runs_of(c)) EXPECT_TRUE(run.parts.size() == 1 || run.from != run.to);
    EXPECT_GT(stave(c, {}, layout).items.size(), 20u);
}

TEST(StaveRoom, TagsStayInViewAndOnTheirLines) {
    const Circuit c = demo_circuit("harbour-diorama");
    const StaveLayout layout = stave_layout(c);
    const Drawing d = stave(c, {}, layout);
    EXPECT_EQ(d.sticky.size(), layout.rows.size());
    EXPECT_LT(track_count(layout.tracks), static_cast<int>(layout.rows.size()) - 3)
        << "short lines share tracks";
    for (const auto& tag : d.sticky) {
        const std::string ref = d.items[tag.begin].ref;
        double first = 1e9, last = -1e9;
        for (std::size_t k = 0; k < d.scrolling(); ++k)
            if (const Line* l = std::get_if<Line>(&d.items[k].shape); l && d.items[k].ref == ref)
                first = std::min(first, l->x1), last = std::max(last, l->x2);
        const double width = bounds(d.items.begin() + static_cast<std::ptrdiff_t>(tag.begin),
                                    d.items.begin() + static_cast<std::ptrdiff_t>(tag.end), ref)
                                 .x1 -
                             tag.x;
        if (tag.reach > d.width) {
            EXPECT_LE(tag.x + width, d.margin);
            continue;
        }
        for (const double left : {0.0, d.width / 2, d.width}) {
            const double x = tag.x + tag.shift(left);
            EXPECT_GE(x, first - 1) << ref;
            EXPECT_LE(x, last + 1) << ref;
        }
    }
}

TEST(StaveTracks, LinesThatMeetKeepTheirOrderOthersMayShare) {
    const std::vector<LineSpan> lines{{0, 9, 1}, {0, 3, 0.8}, {5, 9, 0.7}, {2, 6, 0.5}, {0, 9, 0}};
    const auto tracks = share_tracks(lines);
    for (std::size_t i = 0; i < lines.size(); ++i)
        for (std::size_t k = i + 1; k < lines.size(); ++k)
            EXPECT_TRUE(lines[i].last < lines[k].first || lines[k].last < lines[i].first ||
                        tracks[i] < tracks[k]);
    EXPECT_EQ(tracks[1], tracks[2]);
    EXPECT_EQ(track_count(tracks), 4);
    EXPECT_EQ(share_tracks({{0, 9, 1}, {5, 9, 0.9}, {5, 9, 0.5}, {0, 2, 0.1}, {0, 9, 0}})[3], 2)
        << "a low net lies low though there is room above";
    EXPECT_EQ(track_count({}), 0);
}

TEST(StaveSystems, BreaksAWideStaveBetweenItsColumns) {
    const Circuit c = demo_circuit("harbour-diorama");
    const Drawing whole = stave(c, {}, stave_layout(c));
    const auto pieces = stave_systems(whole, 700);
    ASSERT_GT(pieces.size(), 1u);
    std::map<std::string, int> seen;
    for (const Drawing& piece : pieces) {
        EXPECT_LE(piece.width, 700.1);
        EXPECT_EQ(first_overlap(piece), "");
        for (const auto& ref : piece.refs()) seen[ref] += !ref.starts_with("net:");
        for (const Item& item : piece.items) {
            const Box b = bounds(item.shape);
            EXPECT_TRUE(b.x0 >= -1 && b.x1 <= piece.width + 1) << item.ref;
        }
    }
    for (const auto& ref : whole.refs())
        EXPECT_EQ(seen[ref], ref.starts_with("net:") ? 0 : 1) << ref << " stands in one piece";
    EXPECT_EQ(stave_systems(whole, whole.width).size(), 1u);
}

TEST(StaveRoom, SixtyPartsFitInHeightAboveTheOpenTabs) {
    const Circuit c = demo("harbour-diorama").circuit;
    const StaveLayout layout = lay_out_stave(c, solve(c));
    StaveView view;
    view.room_width = 728, view.room_height = 336;  // of a window of 1280 x 800
    const Drawing tight = draw_stave(c, layout, solve(c), {}, view);
    EXPECT_LE(tight.height, view.room_height);
    for (const Item& item : tight.items)
        if (const Text* t = std::get_if<Text>(&item.shape)) {
            EXPECT_GE(t->size, 11) << t->text;
        }
    view.room_height = 560;  // with the tabs folded
    const Drawing roomy = draw_stave(c, layout, solve(c), {}, view);
    EXPECT_LT(roomy.width, tight.width) << "words stand in two lines or three again";
}

TEST(StaveSlots, SpreadsSymbolsClearOfLines) {
    const std::vector<double> lines{100, 150};
    const auto middles = spread_between(0, 200, lines, 3, 45);
    ASSERT_EQ(middles.size(), 3u);
    for (std::size_t k = 0; k < middles.size(); ++k) {
        for (const double line : lines) EXPECT_GE(std::abs(middles[k] - line), 22.4);
        EXPECT_GE(k ? middles[k] - middles[k - 1] : 45, 44.9);
    }
    EXPECT_EQ(spread_between(0, 100, {}, 2, 45), (std::vector<double>{25, 75}));
    EXPECT_EQ(spread_between(0, 60, {30}, 1, 45), (std::vector<double>{30}))
        << "no room: where it would stand";
}

TEST(StaveSlots, GapsHoldWhatHangsInThemAndFillTheRoom) {
    StaveSlots slots(3);
    slots.need(0, 2, 3);
    slots.need(1, 2, 1);
    const auto tight = slots.gaps({40, 28, 60}, 60, 0);
    EXPECT_GE(tight[0] + tight[1], 120);
    const auto wide = slots.gaps({40, 28, 60}, 60, 150);
    EXPECT_NEAR(wide[0] + wide[1], 150, 1e-9);
    EXPECT_EQ(slots.shortest_gap({{2, 0}, {2, 0}, {1, 0}}), 1u);
    EXPECT_EQ(StaveSlots(5).shortest_gap({{0, 3}, {1, 0}, {2, 0}}), 3u) << "below what hangs from the top";
}

}  // namespace
}  // namespace elkit::test
