#include "command/parts_table.hpp"

#include <gtest/gtest.h>

#include "command/command.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

TEST(PartsTable, ReadsWhatItWrites) {
    for (const Demo& demo : demos()) {
        const Circuit c = read_design(demo.text).value().circuit;
        const auto back = with_parts_from_table({}, parts_as_csv(c.parts), Merge::replace);
        ASSERT_TRUE(back) << demo.id << ": " << back.error().text();
        EXPECT_EQ(back.value().circuit.parts, c.parts) << demo.id;
    }
}

TEST(PartsTable, ReadsBackCurrentsOfAnySize) {
    for (const double amps : {0.002, 0.5, 1.0, 1.5, 12.0}) {
        const Circuit c{{{"PS1", "supply", {{"max_current", amps}}, {{"+", "V"}, {"-", "0"}}, {}}}};
        const auto back = with_parts_from_table({}, parts_as_csv(c.parts), Merge::replace);
        ASSERT_TRUE(back) << amps << ": " << back.error().text();
        EXPECT_EQ(back.value().circuit.parts, c.parts) << amps;
    }
}

TEST(PartsTable, TakesRowsAsASpreadsheetGivesThem) {
    const auto d = with_parts_from_table({},
                                         "part\tkind\tvalue\tfrom\tto\nB1\tbattery\tLR03\tV+\tGND\n"
                                         "R1\tr\t4k7\tV+\tA\n\tled\tred\tA\tGND\n",
                                         Merge::replace);
    ASSERT_TRUE(d) << d.error().text();
    const Circuit& c = d.value().circuit;
    EXPECT_EQ(c.find("R1")->number("value"), 4700);
    EXPECT_EQ(c.find("B1")->text("cell"), "LR03");
    ASSERT_NE(c.find("L1"), nullptr) << "a row without a name gets a free one";
    EXPECT_EQ(c.find("L1")->net("k"), "GND");
    const auto bare = with_parts_from_table({}, "Q1;npn;;C B E\nR1;resistor;1 k;C B\n", Merge::replace);
    ASSERT_TRUE(bare) << bare.error().text();
    EXPECT_EQ(bare.value().circuit.find("Q1")->net("b"), "B");
}

TEST(PartsTable, ReadsKindsAndValuesInWords) {
    const auto d = with_parts_from_table({},
                                         "part,kind,value,nets\nB1,3 AA,,V+ GND\nL1,white led,,V+ A\n"
                                         "C1,electrolytic,100u 16V,V+ GND\nL2,led,blue 3mm,V+ A\n",
                                         Merge::replace);
    ASSERT_TRUE(d) << d.error().text();
    const Circuit& c = d.value().circuit;
    EXPECT_EQ(c.find("B1")->number("count"), 3);
    EXPECT_EQ(c.find("L1")->text("type"), "white-5mm");
    EXPECT_NEAR(c.find("C1")->number("value"), 1e-4, 1e-12);
    EXPECT_EQ(c.find("C1")->number("rating"), 16);
    EXPECT_EQ(c.find("L2")->text("type"), "blue-3mm");
}

TEST(PartsTable, ReplacesOrRenamesWhatIsThere) {
    const Design d = pier_lantern();
    const std::string row = "part,kind,nets,value\nR1,resistor,V+ GND,1k\n";
    EXPECT_EQ(with_parts_from_table(d, row, Merge::replace).value().circuit.find("R1")->number("value"),
              1000);
    const Circuit more = with_parts_from_table(d, row, Merge::rename).value().circuit;
    EXPECT_EQ(more.find("R1")->number("value"), d.circuit.find("R1")->number("value"));
    EXPECT_EQ(more.find("R3")->number("value"), 1000);
}

TEST(PartsTable, NamesTheRowAndColumnThatIsWrong) {
    const auto fault = [](const std::string& text) {
        const auto d = with_parts_from_table({}, text, Merge::replace);
        EXPECT_FALSE(d) << text;
        return d ? Error{} : d.error();
    };
    EXPECT_EQ(fault("part,kind,nets\nR1,resistance,A B\n").place, "row 2, column kind");
    EXPECT_EQ(fault("part,kind,nets\nR1,resistor,A B\nR2,resistor,A\n").place, "row 3, column nets");
    EXPECT_EQ(fault("part,kind,nets,value\nR1,resistor,A B,lots\n").place, "row 2, column value");
    EXPECT_EQ(fault("part,kind,nets\nR1,resistor,A B C\n").place, "row 2, column nets");
    EXPECT_EQ(fault("").place, "table");
    EXPECT_FALSE(fault("part,kind,nets\n\"R1,resistor,A B\n").text().empty());
}

TEST(Points, AreTypedInTheUnitsOfTheirPart) {
    Design d;
    d.circuit = circuit({"battery B1 +=V -=0", "thermistor TH1 a=V b=M", "resistor R1 a=M b=0",
                         "nmos Q1 d=V g=M s=0", "led L1 a=V k=0"});
    const auto th = set_parameter(d, "TH1", "points", "0°C 32k; 25°C 10k; 60°C 2k5");
    ASSERT_TRUE(th) << th.error().text();
    const PointList pairs = *th.value().circuit.find("TH1")->points("points");
    EXPECT_EQ(pairs[0][1], 32000);
    EXPECT_EQ(points_text(pairs, {Unit::celsius, Unit::ohm}), "0°C 32000Ω; 25°C 10000Ω; 60°C 2500Ω");
    EXPECT_FALSE(set_parameter(d, "TH1", "points", "0°C 32k; 25°C 10k")) << "three pairs are wanted";
    const auto fet = set_parameter(d, "Q1", "points", "2V 100mA; 3V 1.5A");
    ASSERT_TRUE(fet) << fet.error().text();
    EXPECT_FALSE(set_parameter(d, "Q1", "points", "3V 100mA; 3V 1.5A"));
    const auto refused = set_parameter(d, "Q1", "points", "many");
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().expected.find("2V 100mA"), std::string::npos);
    EXPECT_FALSE(set_parameter(d, "L1", "points", "0A 2V")) << "no LED curve goes through zero";
}

}  // namespace
}  // namespace elkit::test
