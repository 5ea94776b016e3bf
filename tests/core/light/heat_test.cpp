// How warm lights and resistors get.
#include "light/heat.hpp"

#include <cmath>

#include "light/judgement.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

Circuit torch(const char* led, double ohms, double rating, double volts = 5) {
    return {{{"PS1", "supply", {{"voltage", volts}, {"max_current", 2.0}}, {{"+", "V+"}, {"-", "GND"}}, {}},
             {"R1", "resistor", {{"value", ohms}, {"rating", rating}}, {{"a", "V+"}, {"b", "A"}}, {}},
             {"L1", "led", {{"type", std::string(led)}}, {{"a", "A"}, {"k", "GND"}}, {}}}};
}

const HeatRow& row(const Heat& heat, const char* designator) {
    for (const HeatRow& r : heat.rows)
        if (r.parts.front() == designator) return r;
    throw std::out_of_range(designator);
}

Heat heat_of(const Circuit& c, double celsius = 20) {
    Store store;
    Conditions conditions;
    conditions.celsius = celsius;
    const auto found = Ask(store)(HeatQuery(Keyed<Circuit>(c), conditions));
    EXPECT_TRUE(found) << found.error().text();
    return *found;
}

TEST(Heat, AHandWorkedTorch) {
    const Circuit c = torch("white-1W", 5.6, 1);
    const Heat heat = heat_of(c);
    Store store;
    Conditions conditions;
    conditions.celsius = 20;
    const auto op = Ask(store)(RestQuery(Keyed<Circuit>(c), conditions));
    const double led = op->part("L1").power(), resistor = op->part("R1").power();
    EXPECT_NEAR(heat.lights.value, led, 1e-9);
    EXPECT_NEAR(heat.resistors.value, resistor, 1e-9);
    EXPECT_NEAR(row(heat, "L1").inside.value, 20 + 80 * led, 1e-6) << "80 K/W in all";
    EXPECT_NEAR(row(heat, "L1").outside.value, 20 + 70 * led, 1e-6) << "10 K/W of them inside";
    EXPECT_NEAR(row(heat, "R1").outside.value, 20 + 85 * resistor, 1e-6) << "(155 − 70) °C at 1 W";
    EXPECT_GE(*row(heat, "L1").inside.high, row(heat, "L1").inside.value);
}

TEST(Heat, DeratesInWarmAir) {
    const Heat cool = heat_of(torch("white-1W", 22, 1), 20), warm = heat_of(torch("white-1W", 22, 1), 90);
    EXPECT_GT(row(cool, "L1").allowed.value, row(warm, "L1").allowed.value);
    EXPECT_NEAR(row(cool, "R1").allowed.value, 1, 1e-9);
    EXPECT_NEAR(row(warm, "R1").allowed.value, 65.0 / 85, 1e-9) << "(155 − 90) of 85 °C";
    const double amps = row(warm, "L1").allowed.value;
    EXPECT_GT(amps, 0);
    EXPECT_LT(amps, 0.1) << "10 °C are left, at 80 K/W some 125 mW";
}

TEST(Heat, SaysWhatToDo) {
    const Heat hot = heat_of(torch("white-1W", 4.7, 0.25));
    EXPECT_TRUE(row(hot, "R1").too_much);
    EXPECT_NE(row(hot, "R1").remark.find("side by side"), std::string::npos);
    EXPECT_TRUE(row(hot, "L1").burns);
    EXPECT_FALSE(row(hot, "L1").remark.empty());
    const Heat cold = heat_of(torch("red-5mm", 150, 0.25));
    EXPECT_TRUE(cold.wrong_way.empty());
    for (const HeatRow& r : cold.rows) EXPECT_TRUE(r.remark.empty()) << r.what << r.remark;
}

TEST(Heat, AResistorThatWastesMoreThanItLightsIsTheWrongWay) {
    EXPECT_FALSE(heat_of(torch("white-1W", 27, 5, 12)).wrong_way.empty());
    EXPECT_TRUE(heat_of(torch("white-1W", 4.7, 2, 4.2)).wrong_way.empty());
}

TEST(Heat, AlikePartsAreOneRow) {
    const Heat ring = heat_of(test::demo("herbarium-ring").circuit);
    std::size_t lights = 0;
    for (const HeatRow& r : ring.rows)
        if (r.parts.front().front() == 'L') lights = std::max(lights, r.parts.size());
    EXPECT_EQ(lights, 24U);
}

}  // namespace
}  // namespace elkit
