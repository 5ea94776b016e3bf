// The stave of circuits with chips, transistors and knobs: every dot on its net, nothing over anything.
#include <gtest/gtest.h>

#include <algorithm>
#include <random>

#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "drawing/stave.hpp"
#include "support/circuits.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Drawing stave_of(const Circuit& c, const StaveView& view = {}) { return stave(c, {}, stave_layout(c), view); }

/// Height of a net's horizontal line; −1 if it has none.
double line_height(const Drawing& drawing, const std::string& net) {
    for (const Item& item : drawing.items)
        if (const Line* l = std::get_if<Line>(&item.shape); l && item.ref == "net:" + net && l->y1 == l->y2)
            return l->y1;
    return -1;
}

/// On the net's line, or beside its joint.
void expect_dots_on_their_nets(const Circuit& c, const Drawing& drawing, const std::string& what) {
    for (const Part& part : c.parts)
        for (const Pin& pin : part.pins) {
            if (pin.net.empty()) continue;
            int dots = 0;
            for (const Item& item : drawing.items)
                if (const Circle* dot = std::get_if<Circle>(&item.shape);
                    dot && item.ref == "pin:" + part.designator + "." + pin.name && dot->r >= 3) {
                    ++dots;
                    EXPECT_EQ(net_near(drawing, dot->x, dot->y), pin.net)
                        << what << ": " << part.designator << "." << pin.name;
                    const double line = line_height(drawing, pin.net);
                    EXPECT_NEAR(dot->y, line < 0 ? dot->y : line, 1e-6)
                        << what << ": " << part.designator << "." << pin.name;
                }
            EXPECT_EQ(dots, 1) << what << ": " << part.designator << "." << pin.name;
        }
}

/// Boxes of the parts' symbols, without their long legs: what carries the part's words.
void expect_no_words_overlap(const Drawing& drawing, const std::string& what) {
    std::vector<std::pair<std::string, Box>> words;
    for (const Item& item : drawing.items)
        if (std::holds_alternative<Text>(item.shape) && !item.ref.starts_with("net:"))
            words.emplace_back(std::get<Text>(item.shape).text, bounds(item.shape));
    for (std::size_t i = 0; i < words.size(); ++i)
        for (std::size_t k = 0; k < i; ++k)
            EXPECT_FALSE(words[i].second.overlaps(words[k].second))
                << what << ": " << words[i].first << " over " << words[k].first;
}

TEST(StaveBodies, OfEveryDemoStandOnTheirNetsWithoutOverlap) {
    for (const Demo& demo : demos()) {
        const Circuit c = read_design(demo.text).value().circuit;
        for (const bool true_height : {false, true}) {
            StaveView view;
            view.true_height = true_height;
            const Drawing drawing = stave_of(c, unfolded(stave_layout(c), view));
            if (!true_height) expect_dots_on_their_nets(c, drawing, demo.id);
            if (!true_height) expect_no_words_overlap(drawing, demo.id);
        }
    }
}

/// Every kind of part once, each between nets of a ladder of resistors.
TEST(StaveBodies, EveryKindCanBeDrawn) {
    for (const PartKind& kind : part_kinds()) {
        Circuit c = circuit({"battery B1 +=V -=0 count=3", "resistor R1 a=V b=M value=1000",
                             "resistor R2 a=M b=0 value=1000"});
        Part part;
        part.kind = kind.id, part.designator = kind.prefix + "9";
        const std::vector<std::string> nets{"V", "M", "0", "N1"};
        for (std::size_t k = 0; k < kind.pins.size(); ++k)
            part.pins.push_back({kind.pins[k], nets[k % nets.size()]});
        c.parts.push_back(part);
        if (kind.pins.size() > 3)
            c.parts.push_back(circuit({"resistor R3 a=N1 b=0 value=1000"}).parts.front());
        const Drawing drawing = stave_of(c);
        expect_dots_on_their_nets(c, drawing, kind.id);
        expect_no_words_overlap(drawing, kind.id);
    }
}

Circuit random_circuit(unsigned seed, int stages) {
    std::mt19937 random(seed);
    std::vector<std::string> lines{"battery B1 +=V -=0 count=3"};
    const auto net = [&](int stage) {
        const int pick = static_cast<int>(random() % 4);
        return pick == 0 ? std::string("V") : pick == 1 ? std::string("0") : "C" + std::to_string(stage);
    };
    for (int k = 1; k <= stages; ++k) {
        const std::string n = std::to_string(k);
        lines.push_back("npn Q" + n + " c=C" + n + " b=B" + n + " e=0");
        lines.push_back("resistor R" + n + " a=V b=C" + n + " value=1000");
        lines.push_back("resistor RB" + n + " a=" + net(1 + static_cast<int>(random()) % k) + " b=B" + n +
                        " value=10000");
    }
    return circuit(lines);
}

TEST(StaveBodies, ASliderMovesNothingSideways) {
    for (unsigned seed = 1; seed < 12; ++seed) {
        const Circuit c = random_circuit(seed, 5);
        Design d;
        d.circuit = c;
        const StaveLayout layout = stave_layout(c);
        Conditions flat;
        flat.battery = 0.2, flat.celsius = 45;
        const Drawing a = stave(c, {}, layout), b = stave(c, flat, layout);
        for (const Part& part : c.parts) {
            const std::string pin = "pin:" + part.designator + "." + part.pins[0].name;
            EXPECT_EQ(a.bounds(pin).x0, b.bounds(pin).x0) << seed << " " << part.designator;
        }
    }
}

/// How many parts changed their neighbours on the left: what a reader has to find again.
int moved(const StaveLayout& before, const StaveLayout& after) {
    const auto order = [](const StaveLayout& l) {
        std::vector<std::string> all;
        for (const auto& column : l.columns) all.insert(all.end(), column.parts.begin(), column.parts.end());
        return all;
    };
    const auto a = order(before), b = order(after);
    int count = 0;
    for (std::size_t k = 1; k < a.size(); ++k) {
        const auto at = std::find(b.begin(), b.end(), a[k]);
        count += at == b.end() || at == b.begin() || *(at - 1) != a[k - 1];
    }
    return count;
}

TEST(StaveBodies, OneEditMovesFewColumns) {
    for (unsigned seed = 1; seed < 12; ++seed) {
        const Circuit c = random_circuit(seed, 6);
        const StaveLayout before = stave_layout(c);
        const Circuit more = duplicate_part(c, "R3").value();
        EXPECT_LE(moved(before, stave_layout(more, &before)), 4) << "seed " << seed << ", a part more";
        const Circuit other = move_pin(c, "RB6", "a", "V").value();
        EXPECT_LE(moved(before, stave_layout(other, &before)), 5) << "seed " << seed << ", a dot moved";
    }
}

TEST(StaveBodies, LinesKeepTheirOrderByVoltage) {
    const Circuit c = random_circuit(3, 6);
    const Drawing drawing = stave_of(c);
    const StaveLayout layout = stave_layout(c);
    for (std::size_t k = 1; k < layout.rows.size(); ++k)
        for (std::size_t j = 0; j < k; ++j)
            EXPECT_EQ(line_height(drawing, layout.rows[j]) < line_height(drawing, layout.rows[k]),
                      layout.tracks[j] < layout.tracks[k]);
}

/// Each colour's own triangle, also where one comes from above and another from below.
TEST(StaveBodies, TheColoursOfALightStandSideBySide) {
    const Drawing drawing =
        stave_of(circuit({"supply PS1 +=V -=0 voltage=5", "resistor R1 a=V b=R value=470",
                          "resistor R2 a=V b=G value=470", "resistor R3 a=V b=B value=1000000",
                          "resistor R4 a=B b=0 value=1000", "rgb L1 r=R g=G b=B common=0"}));
    std::vector<double> middles;
    for (const Item& item : drawing.items)
        if (const auto* shape = std::get_if<Polygon>(&item.shape);
            shape && item.ref == "part:L1" && item.style.fill == Ink::rgb && shape->points.size() == 3)
            middles.push_back(shape->points.back().first);
    ASSERT_EQ(middles.size(), 3u);
    std::sort(middles.begin(), middles.end());
    EXPECT_GE(middles[1] - middles[0], 18);
    EXPECT_GE(middles[2] - middles[1], 18);
}

}  // namespace
}  // namespace elkit::test
