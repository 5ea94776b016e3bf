#include "drawing/stave.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <chrono>
#include <map>

#include "drawing/array.hpp"
#include "light/light.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {
using test::stave_layout;

Drawing stave(const Design& d, const Conditions& c = {}, const StaveView& view = {}) {
    return test::stave(d.circuit, c, stave_layout(d.circuit), view);
}

TEST(Stave, OrdersNetsByVoltage) {
    const Design d = test::pier_lantern();
    const auto layout = stave_layout(d.circuit);
    const auto op = test::solve(d.circuit);
    for (std::size_t i = 1; i < layout.rows.size(); ++i)
        EXPECT_GE(op.voltage(layout.rows[i - 1]), op.voltage(layout.rows[i]) - 1e-3);
    EXPECT_EQ(layout.rows.back(), "GND");
}

TEST(Stave, HoldsEveryPartOnceAndStacksStrings) {
    const Design d = test::pier_lantern();
    const auto layout = stave_layout(d.circuit);
    std::size_t count = 0;
    for (const auto& column : layout.columns) count += column.parts.size();
    EXPECT_EQ(count, d.circuit.parts.size());
    EXPECT_EQ(layout.columns.front().parts, std::vector<std::string>{"B1"}) << "the source stands first";
    EXPECT_EQ(layout.column("L1"), layout.column("R1"));
    EXPECT_EQ(layout.column("L2"), layout.column("L1"));
    EXPECT_NE(layout.column("L3"), layout.column("L1"));
}

TEST(Stave, NoSymbolOrLabelLiesOverAnother) {
    for (const int count : {2, 6, 12}) {
        const Design d = test::light({{"count", double(count)}, {"cells", 4.0}});
        const Drawing drawing = stave(d);
        std::vector<std::pair<std::string, Box>> labels;
        for (const Item& item : drawing.items)
            if (std::holds_alternative<Text>(item.shape) && item.ref.find("net:") == std::string::npos)
                labels.emplace_back(std::get<Text>(item.shape).text, bounds(item.shape));
        for (std::size_t i = 0; i < labels.size(); ++i)
            for (std::size_t k = 0; k < i; ++k)
                EXPECT_FALSE(labels[i].second.overlaps(labels[k].second))
                    << labels[i].first << " over " << labels[k].first;
    }
}

TEST(Stave, ASliderMovesNothingSideways) {
    const Design d = test::pier_lantern();
    const Drawing fresh = stave(d), flat = stave(d, {0.1, -10, {}});
    for (const Part& part : d.circuit.parts) {
        const Box a = fresh.bounds("pin:" + part.designator + "." + part.pins[0].name),
                  b = flat.bounds("pin:" + part.designator + "." + part.pins[0].name);
        EXPECT_EQ(a.x0, b.x0) << part.designator;
        EXPECT_EQ(a.y0, b.y0) << part.designator;
    }
}

TEST(Stave, AnEditOfAValueMovesNoColumn) {
    Design d = test::pier_lantern();
    const auto before = stave_layout(d.circuit).columns;
    d.circuit.find("R1")->params["value"] = 120.0;
    EXPECT_EQ(stave_layout(d.circuit).columns, before);
}

TEST(Stave, GlowsByPerceivedBrightness) {
    const Design d = test::pier_lantern();
    const auto glow = [&](const Conditions& c) {
        return glow_of(d.circuit, test::solve(d.circuit, c)).at("L1");
    };
    Conditions off;
    off.switches["S1"] = false;
    EXPECT_GT(glow({}), glow({0.4, 21, {}}));
    EXPECT_LT(glow(off), 1e-6);
}

TEST(Stave, DrawsEvenACircuitThatCannotBeSolved) {
    Design d = test::pier_lantern();
    d.circuit.find("R1")->pins[1].net = "NOWHERE";
    EXPECT_FALSE(operating_point(d.circuit, known_catalogue(), {}));
    EXPECT_GT(test::stave(d.circuit, {}, stave_layout(d.circuit)).items.size(), 20u);
}

std::vector<std::string> words_of(const Drawing& d) {
    std::vector<std::string> all;
    for (const Item& item : d.items)
        if (const Text* t = std::get_if<Text>(&item.shape)) all.push_back(t->text);
    return all;
}

TEST(Array, ShowsEachKindOfStringWithItsCurrent) {
    const Design d = test::pier_lantern();
    const auto op = test::solve(d.circuit);
    const auto glow = glow_of(d.circuit, op);
    const std::string amps = format_quantity(op.part("L1").current, Unit::ampere);
    EXPECT_EQ(lights_text(d.circuit, op, glow), "4 lights at " + amps);
    const auto words = words_of(draw_array(d.circuit, op, glow));
    EXPECT_TRUE(std::any_of(words.begin(), words.end(),
                            [&](const auto& w) { return w.starts_with("×2") && w.ends_with(amps); }));
    EXPECT_EQ(lights_text(d.circuit, op, {}), "4 lights, none lit now");
    EXPECT_EQ(lights_text(Circuit{}, op, {}), "There is no LED in this circuit yet.");
}

TEST(Array, ShowsLightsInsideOtherParts) {
    const Circuit c = test::circuit({"supply PS1 +=V -=0 voltage=12", "strip LS1 +=V -=0 length=0.5",
                                     "resistor R1 a=V b=R value=680", "rgb L1 r=R common=0"});
    const auto op = test::solve(c);
    const Drawing a = draw_array(c, op, glow_of(c, op));
    const auto words = words_of(a);
    for (const char* part : {"LS1, LED strip", "L1, RGB LED"})
        EXPECT_NE(std::find(words.begin(), words.end(), part), words.end()) << part;
    std::map<std::string, int> dots;
    for (const Item& item : a.items)
        if (std::get_if<Circle>(&item.shape) && item.style.fill == Ink::card) ++dots[item.ref];
    double lights = 0;
    for (const LightDie& die : dies(*c.find("LS1"), known_catalogue()))
        lights += die.in_series * die.side_by_side;
    EXPECT_EQ(dots["part:LS1"], std::round(lights));
    EXPECT_EQ(dots["part:L1"], 1) << "the colour that is connected";
}

TEST(Array, SaysTheTruthOfMixedStrings) {
    Design d = test::pier_lantern();
    d.circuit.find("R2")->params["value"] = 220.0;
    const auto op = test::solve(d.circuit);
    auto glow = glow_of(d.circuit, op);
    EXPECT_EQ(alike_strings(d.circuit, op, glow).size(), 2u);
    EXPECT_EQ(lights_text(d.circuit, op, glow),
              "4 lights at " + format_quantity(op.part("L3").current, Unit::ampere) + "–" +
                  format_quantity(op.part("L1").current, Unit::ampere));
    glow["L3"] = glow["L4"] = 0;
    EXPECT_EQ(lights_text(d.circuit, op, glow),
              "4 lights, 2 lit now: " + format_quantity(op.part("L1").current, Unit::ampere));
}

TEST(Array, EveryLightIsSeenAndEveryWordCanBeRead) {
    for (const int count : {1, 6, 25, 100})
        for (const auto& [width, height] : {std::pair{230.0, 170.0}, {420.0, 320.0}, {900.0, 500.0}}) {
            const Design d = test::light({{"count", double(count)}, {"cells", 4.0}});
            const auto op = test::solve(d.circuit);
            const Drawing a = draw_array(d.circuit, op, glow_of(d.circuit, op), width, height);
            std::vector<Box> words;
            int dots = 0;
            for (const Item& item : a.items) {
                if (const Text* t = std::get_if<Text>(&item.shape)) {
                    EXPECT_GE(t->size, 11);
                    for (const Box& other : words) EXPECT_FALSE(other.overlaps(bounds(*t))) << t->text;
                    words.push_back(bounds(*t));
                }
                const Circle* c = std::get_if<Circle>(&item.shape);
                dots += c && item.style.fill == Ink::card;
                EXPECT_LE(bounds(item.shape).x1, a.width + 8) << item.ref;
            }
            EXPECT_EQ(dots, count) << width;
        }
}

TEST(Drawing, FindsTheTopmostItemAndWrapsText) {
    Drawing d;
    d.add(Rect{0, 0, 10, 10}, {}, "below");
    d.add(Circle{5, 5, 2}, {}, "above");
    EXPECT_EQ(d.hit(5, 5, 0), "above");
    EXPECT_EQ(d.hit(1, 1, 0), "below");
    EXPECT_EQ(d.hit(30, 30, 0), "");
    const auto lines = wrap_text("one two three four five six seven eight nine ten", 60, 10);
    EXPECT_GT(lines.size(), 2u);
    for (const auto& line : lines) EXPECT_LE(text_width(line, 10), 60);
}

TEST(Stave, TakesPartsOfOnePinAndManyOfThem) {
    Circuit c{{test::supply("V", "0", 5, 1), test::resistor("R1", "V", "0", 1000)}};
    for (int k = 1; k <= 9; ++k)
        c.parts.push_back({"TP" + std::to_string(k), "testpoint", {}, {{"1", k % 2 ? "V" : "0"}}, {}});
    c.parts.push_back({"J1", "connector", {}, {{"1", "V"}}, {}});
    const StaveLayout layout = test::stave_layout(c);
    const StaveLayout again = test::stave_layout(c, &layout);
    EXPECT_EQ(layout.columns.size(), again.columns.size());
    const Drawing drawing = test::stave(c, {}, layout);
    for (const Part& part : c.parts)
        EXPECT_TRUE(std::any_of(drawing.items.begin(), drawing.items.end(), [&](const Item& item) {
            return item.ref.find(":" + part.designator) != std::string::npos;
        })) << part.designator;
}

TEST(Stave, LaysOutAThousandPartsInTimeThatFitsTheirNumber) {
    const auto seconds = [](int lights) {
        Circuit c{{test::supply("V", "0", 5, 1)}};
        for (int k = 1; k <= lights; ++k) {
            const std::string n = std::to_string(k);
            c.parts.push_back(test::resistor("R" + n, "V", "A" + n, 150));
            c.parts.push_back(test::led("L" + n, "A" + n, "0"));
        }
        const auto since = std::chrono::steady_clock::now();
        EXPECT_EQ(test::stave(c, {}, test::stave_layout(c)).items.empty(), false);
        return std::chrono::duration<double>(std::chrono::steady_clock::now() - since).count();
    };
    const double few = seconds(60), many = seconds(480);
    EXPECT_LT(many, 200 * (few + 0.01))
        << "eight times as many parts took 500 times as long when it grew with the cube";
}

}  // namespace
}  // namespace elkit
