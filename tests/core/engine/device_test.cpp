#include <gtest/gtest.h>

#include <cmath>

#include "engine/models.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

Part battery(const char* cell, double count) {
    Part b{"B1", "battery", {}, {{"+", "V"}, {"-", "0"}}, {}};
    b.params["cell"] = std::string(cell);
    b.params["count"] = count;
    b.params["lead_length"] = 0.0;
    return b;
}

Thevenin model(const Part& part, const Conditions& conditions = {}) {
    const auto m = source_model(part, known_catalogue(), conditions);
    EXPECT_TRUE(m) << (m ? "" : m.error().text());
    return m ? m.value() : Thevenin{};
}

struct Cell {
    const char* id;
    double fresh, empty, resistance;
};
class Cells : public ::testing::TestWithParam<Cell> {};

TEST_P(Cells, HaveTheTypicalValuesOfTheirType) {
    const Cell& c = GetParam();
    EXPECT_NEAR(model(battery(c.id, 1)).voltage, c.fresh, 1e-9);
    EXPECT_NEAR(model(battery(c.id, 1), {0, 21, {}}).voltage, c.empty, 1e-9);
    EXPECT_NEAR(model(battery(c.id, 1)).resistance, c.resistance, 1e-9);
}

INSTANTIATE_TEST_SUITE_P(Types, Cells,
                         ::testing::Values(Cell{"LR6", 1.60, 0.9, 0.15}, Cell{"LR03", 1.60, 0.9, 0.25},
                                           Cell{"6LR61", 9.6, 5.4, 1.7}, Cell{"LR44", 1.58, 0.9, 4},
                                           Cell{"CR2032", 3.2, 2.0, 12}, Cell{"CR2450", 3.2, 2.0, 8},
                                           Cell{"NiMH-AA", 1.38, 1.0, 0.03},
                                           Cell{"NiMH-AAA", 1.38, 1.0, 0.08},
                                           Cell{"Li-ion-1S", 4.20, 3.0, 0.1},
                                           Cell{"Lead-12V", 12.8, 11.0, 0.03}));

TEST(Source, CellsInSeriesAddVoltageAndResistance) {
    const Thevenin one = model(battery("LR6", 1)), three = model(battery("LR6", 3));
    EXPECT_NEAR(three.voltage, 3 * one.voltage, 1e-12);
    EXPECT_NEAR(three.resistance, 3 * one.resistance, 1e-12);
}

TEST(Source, VoltageFallsAndResistanceRisesOverTheCharge) {
    Thevenin before = model(battery("LR6", 3));
    for (double charge = 0.95; charge >= 0; charge -= 0.05) {
        const Thevenin now = model(battery("LR6", 3), {charge, 21, {}});
        EXPECT_LT(now.voltage, before.voltage) << charge;
        EXPECT_GE(now.resistance, before.resistance) << charge;
        before = now;
    }
}

TEST(Source, ColdRaisesTheResistance) {
    EXPECT_NEAR(model(battery("LR6", 1), {1, 0, {}}).resistance, 0.15 * 1.8, 1e-9);
    EXPECT_LT(model(battery("LR6", 1), {1, 40, {}}).resistance, 0.15);
}

TEST(Source, HoldsTheChargeBetweenEmptyAndFresh) {
    EXPECT_EQ(model(battery("LR6", 1), {2, 21, {}}).voltage, model(battery("LR6", 1)).voltage);
    EXPECT_EQ(model(battery("LR6", 1), {-1, 21, {}}).voltage, model(battery("LR6", 1), {0, 21, {}}).voltage);
}

TEST(Source, LeadsFollowTheResistivityOfCopper) {
    Part b = battery("LR6", 1);
    b.params["lead_length"] = 1.0;
    b.params["lead_area"] = 0.14;
    EXPECT_NEAR(lead_resistance(b, 20), 2 * 0.0172 / 0.14, 1e-12) << "out and back";
    EXPECT_NEAR(lead_resistance(b, 70) / lead_resistance(b, 20), 1 + 50 * 0.0039, 1e-12);
    EXPECT_NEAR(model(b).resistance - model(battery("LR6", 1)).resistance, lead_resistance(b, 21), 1e-12);
}

TEST(Source, IsRefusedAboveSixtyVolts) {
    EXPECT_TRUE(source_model(battery("6LR61", 6), known_catalogue(), {}));
    const auto seven = source_model(battery("6LR61", 7), known_catalogue(), {});
    ASSERT_FALSE(seven);
    EXPECT_EQ(seven.error().place, "part B1");
    // not even an empty stack of so many cells passes: it will be replaced by a fresh one
    EXPECT_FALSE(source_model(battery("6LR61", 7), known_catalogue(), {0, 21, {}}));
}

TEST(Source, NamesAnUnknownCell) {
    const auto none = source_model(battery("LR99", 1), known_catalogue(), {});
    ASSERT_FALSE(none);
    EXPECT_NE(none.error().found.find("LR99"), std::string::npos);
}

TEST(JunctionModel, SpansTheBinsOfItsType) {
    for (const auto& type : known_catalogue().leds) {
        const Part led = test::led("L1", "A", "0", type.id);
        const auto vf = [&](double bin) {
            return junction_model(led, known_catalogue(), 25, bin).value().voltage_at(type.test_current);
        };
        EXPECT_NEAR(vf(-1), type.vf_low, 1e-9) << type.id;
        EXPECT_NEAR(vf(0), type.vf_typical, 1e-9) << type.id;
        EXPECT_NEAR(vf(1), type.vf_high, 1e-9) << type.id;
    }
}

TEST(JunctionModel, AStatedBinNarrowsTheSpread) {
    Part led = test::led("L1", "A", "0", "amber-5mm");
    led.params["bin"] = std::string("low");
    const auto vf = [&](double bin) {
        return junction_model(led, known_catalogue(), 25, bin).value().voltage_at(0.02);
    };
    EXPECT_NEAR(vf(-1), 1.9, 1e-9);
    EXPECT_LT(vf(1), 2.1);
    led.params["bin"] = std::string("high");
    EXPECT_NEAR(vf(1), 2.4, 1e-9);
    EXPECT_GT(vf(-1), 2.1);
}

TEST(JunctionModel, PassesThroughMeasuredPointsWhateverTheBin) {
    Part led = test::led("L1", "A", "0", "amber-5mm");
    led.params["points"] = PointList{{0.002, 1.86}, {0.010, 1.97}, {0.020, 2.07}};
    for (const double bin : {-1.0, 0.0, 1.0}) {
        const Junction j = junction_model(led, known_catalogue(), 25, bin).value();
        EXPECT_NEAR(j.voltage_at(0.002), 1.86, 2e-3);
        EXPECT_NEAR(j.voltage_at(0.010), 1.97, 2e-3);
        EXPECT_NEAR(j.voltage_at(0.020), 2.07, 2e-3);
    }
}

TEST(JunctionModel, NamesThePartWhoseTypeOrPointsAreWrong) {
    Part led = test::led("L7", "A", "0", "pink");
    EXPECT_EQ(junction_model(led, known_catalogue(), 25, 0).error().place, "part L7");
    led = test::led("L8", "A", "0", "red-5mm");
    led.params["points"] = PointList{{0.01, 2.0}, {0.02, 1.8}};
    EXPECT_EQ(junction_model(led, known_catalogue(), 25, 0).error().place, "part L8");
}

TEST(Diode, DropsWhatItsTypeSays) {
    for (const auto& type : known_catalogue().diodes) {
        Part d{"D1", "diode", {}, {{"a", "V"}, {"k", "0"}}, {}};
        d.params["type"] = type.id;
        const Junction j = junction_model(d, known_catalogue(), 25, 0).value();
        EXPECT_NEAR(j.voltage_at(type.test_current), type.vf_typical, 1e-9) << type.id;
    }
}

TEST(Diode, InSeriesTakesItsShareOfTheSupply) {
    Part d{"D1", "diode", {}, {{"a", "V"}, {"k", "A"}}, {}};
    const auto op = test::solve({{test::supply("V", "0", 5, 0.1), d, test::resistor("R1", "A", "0", 1000)}});
    EXPECT_GT(op.part("D1").voltage, 0.5);
    EXPECT_LT(op.part("D1").voltage, 0.75);
    EXPECT_NEAR(op.part("D1").voltage + op.part("R1").voltage, op.voltage("V"), 1e-9);
}

TEST(Switch, OpenLetsNothingThroughAndClosedLosesLittle) {
    const Design d = test::pier_lantern();
    const auto closed = test::solve(d.circuit);
    EXPECT_LT(closed.part("S1").voltage, 0.01);
    Conditions c;
    c.switches["S1"] = false;
    EXPECT_LT(std::abs(test::solve(d.circuit, c).part("L1").current), 1e-10);
    Design rest = d;
    rest.circuit.find("S1")->params["on"] = 0.0;
    EXPECT_LT(std::abs(test::solve(rest.circuit).part("L1").current), 1e-10) << "it stands as in the design";
    c.switches["S1"] = true;
    EXPECT_GT(test::solve(rest.circuit, c).part("L1").current, 0.01) << "and can be closed";
}

TEST(Corner, MovesEveryResistorWithinItsTolerance) {
    const Circuit c{{test::supply("V", "0", 10, 0), test::resistor("R1", "V", "0", 1000)}};
    EXPECT_NEAR(test::solve(c, {}, {0, 1, 0}).part("R1").current, 10.0 / 1050, 1e-8);
    EXPECT_NEAR(test::solve(c, {}, {0, -1, 0}).part("R1").current, 10.0 / 950, 1e-8);
}

}  // namespace
}  // namespace elkit
