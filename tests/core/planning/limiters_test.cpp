// Ways to keep the current of strings, as circuits that the engine solves.
#include "planning/limiters.hpp"

#include <cmath>

#include "support/designs.hpp"

namespace elkit {
namespace {

LimiterQuestion question(const Part& source, int count, int per_string, double current,
                         const std::string& led = "amber-5mm") {
    LimiterQuestion q;
    q.array.source = source;
    q.array.led = {"L1", "led", {{"type", led}}, {}, {}};
    q.array.count = count, q.array.current = current;
    q.per_string = per_string;
    return q;
}

Part cells(const std::string& cell, double count) {
    return {"B1", "battery", {{"cell", cell}, {"count", count}}, {{"+", "V+"}, {"-", "GND"}}, {}};
}

Part steady(double volts) {
    return {"PS1", "supply", {{"voltage", volts}, {"max_current", 2.0}}, {{"+", "V+"}, {"-", "GND"}}, {}};
}

const LimiterRow& row(const std::vector<LimiterRow>& rows, const std::string& id) {
    for (const LimiterRow& r : rows)
        if (r.id == id) return r;
    throw std::out_of_range(id);
}

TEST(Limiters, EachIsTheCurrentOfItsArrangement) {
    const LimiterQuestion q = question(cells("LR6", 3), 4, 2, 0.012);
    const auto rows = limiters(q);
    ASSERT_TRUE(rows) << rows.error().text();
    const auto arranged = arrangements(q.array);
    for (const Arrangement& a : arranged.value())
        if (a.per_string == 2) {
            const LimiterRow& each = row(rows.value(), "each");
            EXPECT_NEAR(each.current.value, a.strings.front().current.value, 1e-6);
            EXPECT_NEAR(*each.current.high, *a.strings.front().current.high, 1e-5);
            EXPECT_NEAR(each.efficiency.value, a.efficiency.value, 0.2);
        }
}

TEST(Limiters, ACurrentSourceHoldsWhereAResistorDoesNot) {
    const auto rows = limiters(question(steady(9), 3, 3, 0.015, "red-5mm"));
    ASSERT_TRUE(rows);
    const LimiterRow &each = row(rows.value(), "each"), &source = row(rows.value(), "transistors");
    ASSERT_TRUE(source.possible) << source.reason;
    EXPECT_NEAR(source.current.value, 0.015, 0.003);
    EXPECT_LT(source.spread.value, each.spread.value);
    EXPECT_NE(source.parts.back().find("2 ×"), std::string::npos) << source.parts.back();
}

TEST(Limiters, ARegulatorNeedsItsVoltsAndHoldsTheCurrent) {
    const auto rows = limiters(question(steady(12), 2, 2, 0.015, "white-5mm"));
    const LimiterRow& r = row(rows.value(), "regulator");
    ASSERT_TRUE(r.possible) << r.reason;
    EXPECT_NEAR(r.current.value, 0.015, 0.001);
    EXPECT_LT(r.spread.value, 1.2);
    EXPECT_NEAR(r.headroom.value, 3.3, 0.5) << "its own voltage";
    const auto low = limiters(question(steady(9), 2, 2, 0.015, "white-5mm"));
    EXPECT_FALSE(row(low.value(), "regulator").possible);
    EXPECT_NE(row(low.value(), "regulator").reason.find("needs"), std::string::npos);
}

TEST(Limiters, ACoinCellLimitsItselfLargerCellsDoNot) {
    const auto coin = limiters(question(cells("CR2032", 1), 1, 1, 0.005, "red-5mm"));
    ASSERT_TRUE(coin);
    EXPECT_TRUE(row(coin.value(), "source").possible);
    EXPECT_EQ(row(coin.value(), "source").reason.find("do not limit"), std::string::npos);
    const auto round = limiters(question(cells("LR6", 3), 2, 2, 0.012));
    EXPECT_FALSE(row(round.value(), "source").reason.empty());
}

TEST(Limiters, DiodesTakeWhatIsLeftOver) {
    const auto rows = limiters(question(cells("LR6", 2), 1, 1, 0.015, "red-5mm"));
    const LimiterRow& r = row(rows.value(), "diodes");
    ASSERT_TRUE(r.possible) << r.reason;
    EXPECT_NE(r.parts.front().find("diode"), std::string::npos);
    EXPECT_GT(r.current.value, 1e-3);
}

TEST(Limiters, ResistorsAreRatedForTheirHeatAndOtherPartsKnowTheirLimits) {
    LimiterQuestion q = question(steady(12), 1, 1, 0.1, "red-5mm");
    q.array.led.params["max_current"] = 0.5;
    const auto rows = limiters(q);
    EXPECT_EQ(row(rows.value(), "each").parts.front().find("¼ W"), std::string::npos)
        << "a watt of heat: " << row(rows.value(), "each").parts.front();
    EXPECT_NE(row(rows.value(), "transistors").reason.find("bears"), std::string::npos)
        << "a watt in a small transistor: " << row(rows.value(), "transistors").reason;
}

TEST(Limiters, PricesAndImpossibleOnesHaveTheirReasons) {
    LimiterQuestion q = question(cells("LR6", 3), 4, 2, 0.012);
    q.drawer = demo_stock();
    const auto rows = limiters(q);
    EXPECT_GT(row(rows.value(), "each").cost.value, 0);
    EXPECT_GT(row(rows.value(), "pairs").cost.value, row(rows.value(), "each").cost.value);
    q.array.count = 2;
    const auto one = limiters(q);
    EXPECT_FALSE(row(one.value(), "shared").possible);
    for (const LimiterRow& r : one.value()) EXPECT_TRUE(r.possible || !r.reason.empty()) << r.id;
    q.per_string = 3;
    EXPECT_EQ(limiters(q).error().place, "in series");
}

}  // namespace
}  // namespace elkit
