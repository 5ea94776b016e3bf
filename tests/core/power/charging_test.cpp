// A lithium cell charged: against a cell that can be solved by hand, and in designs.
#include "power/charging.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <cmath>

#include "circuit/part_kind.hpp"
#include "design/file.hpp"
#include "review/findings.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

/// U = 3 V + 1.2 V s behind 0.2 Ω, 1 Ah.
CellType straight_cell() {
    CellType cell;
    cell.name = "straight cell", cell.chemistry = "lithium-ion";
    cell.open_circuit.points = {{0, 3}, {1, 4.2}};
    cell.resistance.points = {{0, 0.2}, {1, 0.2}};
    cell.capacity.points = {{0.1, 1}, {1, 1}};
    return cell;
}

TEST(Charging, AStraightCellAsWorkedByHand) {
    const Charge c = charge_cell(straight_cell(), 0.5, 5);
    EXPECT_NEAR(c.at_current, (11.0 / 12) / 0.5, 2e-3) << "until 3 + 1.2 s + 0.5 × 0.2 = 4.2";
    EXPECT_NEAR(c.hours - c.at_current, std::log(10) / 6, 0.01) << "I falls with Q R / 1.2 V = 1/6 h";
    EXPECT_NEAR(c.delivered, 1 - 1.0 / 120, 2e-3) << "6 A (1 − s) is a tenth of 0.5 A";
    EXPECT_NEAR(c.most_heat, (5 - 3.1) * 0.5, 2e-3) << "empty, it takes most from the charger";
    EXPECT_GT(c.energy, 3.0 * c.delivered);
    EXPECT_LT(c.energy, 4.2 * c.delivered);
}

Charging charging_of(const Design& design) { return test::ask(ChargingQuery{design, {}}).value(); }

TEST(Charging, CurrentsOfADesignsCellByItsCharge) {
    const Charging found = charging_of(test::demo("rock-pool-torch"));
    ASSERT_GE(found.rows.size(), 3u);
    for (std::size_t k = 0; k < found.rows.size(); ++k) {
        const ChargeRow& row = found.rows[k];
        EXPECT_NEAR(row.rate.value, row.current / 2.6, 1e-9);
        EXPECT_EQ(row.verdict == ChargeRow::Verdict::no, row.current > 2.6) << row.current;
        if (k == 0) continue;
        EXPECT_LT(row.time.value, found.rows[k - 1].time.value);
        EXPECT_GT(row.heat.value, found.rows[k - 1].heat.value);
    }
    EXPECT_NEAR(found.full.value, 4.2, 1e-9);
    EXPECT_TRUE(found.charger.empty());
    EXPECT_FALSE(test::ask(ChargingQuery{test::pier_lantern(), {}})) << "alkaline cells are not charged";
}

TEST(Charging, AChargerIsPutInAndSet) {
    const Design torch = test::demo("rock-pool-torch");
    const auto with = with_charger(torch, 1.0);
    ASSERT_TRUE(with) << with.error().text();
    EXPECT_EQ(with.value().circuit.parts.size(), torch.circuit.parts.size() + 2) << "and a plug for it";
    const Charging found = charging_of(with.value());
    EXPECT_FALSE(found.charger.empty());
    int present = 0;
    for (const ChargeRow& row : found.rows)
        if (row.present) {
            ++present;
            EXPECT_NEAR(row.current, 1.0, 1e-9);
        }
    EXPECT_EQ(present, 1);
    for (const Finding& f : test::findings(with.value())) EXPECT_NE(f.severity, Severity::error) << f.title;
    const auto slower = with_charger(with.value(), 0.123);
    ASSERT_TRUE(slower);
    EXPECT_EQ(slower.value().circuit.parts.size(), with.value().circuit.parts.size());
    EXPECT_NEAR(charging_of(slower.value()).rows.front().current, 0.123, 1e-9) << "one of its own is listed";
}

TEST(Charging, NothingElseGetsACharger) {
    for (const char* name : {"pier-lantern", "firefly-jar", "harbour-diorama", "coat-badge"})
        EXPECT_FALSE(with_charger(test::demo(name), 0.1)) << name;
    Design torch = test::demo("rock-pool-torch");
    EXPECT_FALSE(with_charger(torch, 3)) << "more than it bears in an hour";
    torch.circuit.find("B1")->params["count"] = 2.0;
    EXPECT_FALSE(with_charger(torch, 0.5)) << "two in a row";
}

TEST(Charging, ACellBesideTheChargedOneIsNotMeant) {
    Design d;
    d.circuit = test::circuit({"battery B1 +=V -=0 cell=LR6 count=3", "resistor R1 a=V b=A value=150",
                               "led L1 a=A k=0", "battery B2 +=W -=0 cell=Li-ion-1S",
                               "resistor R2 a=W b=B value=150", "led L2 a=B k=0",
                               "charger M1 in+=IN in-=0 b+=W max_current=0.1", "connector X1 1=IN 2=0"});
    for (const Finding& f : test::findings(d)) EXPECT_NE(f.rule, "charger-cell") << f.title;
}

TEST(Charging, WhatGoesOnBelowTheCellsLimitIsSaid) {
    Design torch = test::demo("rock-pool-torch");
    torch.circuit.find("B1")->params["cell"] = std::string("INR19-66");
    torch.brief.end_brightness = 0.02;
    const Charging found = charging_of(torch);
    EXPECT_NE(fmt::format("{}", fmt::join(found.cautions, "; ")).find("nothing locks it"), std::string::npos);
}

}  // namespace
}  // namespace elkit
