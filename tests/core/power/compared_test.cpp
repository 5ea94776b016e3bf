// The same light from other supplies: every cell, one to six in a row, on circuits with and without recipes.
#include <algorithm>
#include <cmath>
#include <set>

#include "catalogue/catalogue.hpp"
#include "light/strings.hpp"
#include "power/life.hpp"
#include "power/supplies.hpp"
#include "recipes/blocks.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

std::vector<SupplyRow> compared(const Design& design, SupplyPolicy policy = SupplyPolicy::sized_anew) {
    Store store;
    const auto rows = Ask(store)(SuppliesQuery(design, {}, policy, SupplyScope::all));
    EXPECT_TRUE(rows) << rows.error().text();
    return *rows;
}

const SupplyRow& named(const std::vector<SupplyRow>& rows, const std::string& name) {
    for (const SupplyRow& row : rows)
        if (row.name == name) return row;
    throw std::out_of_range(name);
}

/// A lantern that nobody's recipe made.
Design by_hand() {
    Design d = test::demo("pier-lantern");
    d.blocks.clear();
    return d;
}

TEST(SuppliesCompared, EveryCellOneToSixOnce) {
    const auto rows = compared(by_hand());
    std::set<std::string> names;
    for (const SupplyRow& row : rows) EXPECT_TRUE(names.insert(row.name).second) << row.name;
    for (const CellType& cell : known_catalogue().cells) EXPECT_TRUE(names.count(cell.id)) << cell.id;
    EXPECT_TRUE(names.count("6 × LR6"));
    EXPECT_FALSE(names.count("2 × USB"));
    EXPECT_TRUE(rows.front().present);
    EXPECT_EQ(rows.front().name, "3 × LR6");
    const auto serves = [](const SupplyRow& r) { return r.possible && r.lasts && r.reason.empty(); };
    const auto first_bad = std::find_if_not(rows.begin() + 1, rows.end(), serves);
    for (auto row = rows.begin() + 2; row < first_bad; ++row)
        EXPECT_GE((row - 1)->run_time.value, row->run_time.value) << row->name;
    EXPECT_TRUE(std::none_of(first_bad, rows.end(), serves)) << "those that serve stand first";
}

TEST(SuppliesCompared, ResistorsThatNoRecipeSizedAreScaledToAsMuchLight) {
    const Design d = by_hand();
    const auto rows = compared(d);
    for (const char* name : {"4 × LR6", "6LR61", "2 × Li-ion-1S", "Lead-12V"}) {
        const SupplyRow& row = named(rows, name);
        ASSERT_TRUE(row.possible) << name << row.reason;
        EXPECT_FALSE(row.scaled.empty()) << name;
        EXPECT_NEAR(row.start.value, 100, 4) << name;
        const auto next = with_supply_row(d, row, SupplyPolicy::sized_anew);
        ASSERT_TRUE(next);
        Store store;
        const auto life = Ask(store)(LifeQuery(next.value(), next.value().circuit, {}));
        ASSERT_TRUE(life);
        EXPECT_NEAR(life->run_time.value, row.run_time.value, 0.02 * row.run_time.value)
            << name << ": what the table promises is what the design does";
    }
}

TEST(SuppliesCompared, ARecipeSizesItsOwn) {
    const auto rows = compared(test::demo("pier-lantern"));
    EXPECT_TRUE(named(rows, "6LR61").scaled.empty());
    EXPECT_NEAR(named(rows, "6LR61").start.value, 100, 5);
}

TEST(SuppliesCompared, TheSamePartsStayTheSameWhenTaken) {
    const Design d = test::demo("pier-lantern");
    const auto rows = compared(d, SupplyPolicy::same_parts);
    const SupplyRow& row = named(rows, "4 × LR6");
    const auto next = with_supply_row(d, row, SupplyPolicy::same_parts);
    ASSERT_TRUE(next);
    EXPECT_EQ(next.value().circuit.source()->number("count"), 4);
    EXPECT_EQ(next.value().circuit.find("R1")->number("value"), d.circuit.find("R1")->number("value"));
    EXPECT_EQ(next.value().blocks.size(), d.blocks.size());
}

TEST(SuppliesCompared, FarVoltagesAreNotTried) {
    const auto rows = compared(by_hand());
    const SupplyRow& one = named(rows, "LR6");
    EXPECT_FALSE(one.possible);
    EXPECT_NE(one.reason.find("in place of"), std::string::npos);
}

TEST(SuppliesCompared, CellsSayRoomPriceShelfLifeAndCare) {
    Design d = by_hand();
    d.brief.width = 45, d.brief.height = 60;
    const auto rows = compared(d);
    const SupplyRow& three = named(rows, "3 × LR6");
    EXPECT_NEAR(three.width, 3 * 14.5 + 6, 1e-9);
    EXPECT_NEAR(three.height, 56.5, 1e-9);
    EXPECT_FALSE(three.fits) << "49.5 mm are more than the narrow side";
    EXPECT_NEAR(three.cost.value, 1.35, 1e-9);
    EXPECT_NEAR(three.keeps.value, std::log(0.8) / std::log(0.97), 1e-9);
    EXPECT_NE(named(rows, "CR2032").care.find("swallowed"), std::string::npos);
    EXPECT_NE(named(rows, "INR19-66").care.find("protection"), std::string::npos);
    EXPECT_TRUE(std::isinf(named(rows, "USB").keeps.value));
}

TEST(SuppliesCompared, AFuseThatTripsDoesNotLeadAstray) {
    const auto rows = compared(test::demo("herbarium-ring"));
    const SupplyRow& row = named(rows, "2 × Lead-12V");
    ASSERT_TRUE(row.possible) << row.reason;
    for (const auto& [name, resistor] : row.scaled) {
        const double heat = row.current.value * row.current.value * resistor.ohms;
        EXPECT_GE(resistor.rating, 1.8 * heat) << name << ": more volts are more heat in it";
    }
    EXPECT_FALSE(row.scaled.empty());
    EXPECT_NEAR(row.start.value, 100, 5) << "the scaling starts from volts, not from a tripped fuse";
}

TEST(SuppliesCompared, CellsThatAreRechargedCountByTheirCharges) {
    const auto rows = compared(by_hand());
    const SupplyRow &primary = named(rows, "3 × LR03"), &charged = named(rows, "Li-ion-1S");
    const CellType &lr03 = *known_catalogue().cell("LR03"), &lithium = *known_catalogue().cell("Li-ion-1S");
    EXPECT_NEAR(primary.cost_per_hour.value, 3 * lr03.price / primary.run_time.value, 1e-12);
    EXPECT_NEAR(primary.waste.value, 100 * 3 * lr03.mass / primary.run_time.value, 1e-9);
    EXPECT_NEAR(charged.cost_per_hour.value, lithium.price / charged.run_time.value / 300, 1e-12);
    EXPECT_LT(charged.waste.value, primary.waste.value);
    EXPECT_EQ(named(rows, "USB").waste.value, 0);
}

TEST(SuppliesCompared, WhatAnotherBeatsInBothIsNotTheOneToTake) {
    const auto row = [](double cost, double hours, const char* reason = "") {
        SupplyRow r;
        r.possible = true, r.cost.value = cost, r.run_time.value = hours, r.reason = reason;
        return r;
    };
    const std::vector<SupplyRow> rows{row(2, 10), row(1, 10), row(3, 30), row(3, 20), row(1, 90, "too dim")};
    const std::vector<bool> expected{false, false, false, true, true};
    for (std::size_t k = 0; k < rows.size(); ++k)
        EXPECT_EQ(beaten(rows, k, SupplyTakes::cost), expected[k]) << k;
    EXPECT_FALSE(runs_out(SupplyRow{}));
}

}  // namespace
}  // namespace elkit
