#include <gtest/gtest.h>

#include "batch/parts_list.hpp"
#include "batch/reserve.hpp"
#include "design/file.hpp"
#include "drawer/import.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

const PartsLine& line(const PartsList& list, const std::string& key) {
    for (const auto& l : list.lines)
        if (l.key == key) return l;
    ADD_FAILURE() << "no line " << key;
    return list.lines.front();
}

TEST(PartsList, CountsTheBatchAgainstTheDrawer) {
    const Design d = test::pier_lantern();
    const PartsList list = test::ask(parts_query(d, demo_stock())).value();
    const PartsLine& leds = line(list, "led/amber-5mm");
    EXPECT_EQ(leds.per_kit.value, 4);
    EXPECT_EQ(leds.needed.value, 168) << "40 kits × 4, and 5 % spares";
    EXPECT_EQ(leds.stock, 120);
    EXPECT_EQ(leds.to_buy.value, 48);
    EXPECT_EQ(leds.packs, 1);
    EXPECT_EQ(leds.needed.working.front(), "4 a kit × 40 kits × (1 + 5 % spares) = 168");
    EXPECT_EQ(leds.to_buy.working.front(), "168 needed − 120 in the drawer = 48");
    EXPECT_EQ(leds.designators, "L1, L2, L3, L4");
    EXPECT_EQ(line(list, "resistor/62").marking, "blue red black gold");
    EXPECT_EQ(line(list, "cell/LR6").needed.value, 120) << "no spare cells";
    EXPECT_GE(line(list, "holder/3xLR6").needed.value, 40);
    EXPECT_LT(line(list, "board/pad").per_kit.value, 0.1);
}

TEST(PartsList, WhatTheDrawerDoesNotKnowIsBoughtInFull) {
    Design d = test::pier_lantern();
    d.circuit.find("L1")->params["type"] = std::string("violet-5mm");
    const PartsList list = test::ask(parts_query(d, demo_stock())).value();
    const PartsLine& violet = line(list, "led/violet-5mm");
    ASSERT_FALSE(violet.known());
    EXPECT_EQ(violet.to_buy.value, violet.needed.value);
    EXPECT_GT(violet.to_buy.value, 39);
}

TEST(PartsList, CostIsTheSumOfItsLines) {
    const Design d = test::pier_lantern();
    const PartsList list = test::ask(parts_query(d, demo_stock())).value();
    double cost = 0, spend = 0;
    for (const auto& l : list.lines) cost += l.per_kit.value * l.unit_price, spend += l.packs * l.pack_price;
    EXPECT_NEAR(list.cost_per_kit.value, cost, 1e-9);
    EXPECT_NEAR(list.to_spend.value, spend, 1e-9);
    EXPECT_EQ(list.unknown, 0);
}

TEST(PartsList, LeavesOutWhatHasNoPriceAndSaysSo) {
    Design d = test::pier_lantern();
    d.circuit.find("R1")->params["value"] = 63.4;
    const PartsList list = test::ask(parts_query(d, demo_stock())).value();
    EXPECT_EQ(list.unknown, 1);
    EXPECT_FALSE(line(list, "resistor/63.4").known());
    EXPECT_NE(list.cost_per_kit.working.back().find("unknown price"), std::string::npos);
}

TEST(PartsList, ExportsAsCsvThatReadsBack) {
    const PartsList list = test::ask(parts_query(test::pier_lantern(), demo_stock())).value();
    const auto table = parse_csv(write_csv(parts_csv(list)));
    ASSERT_TRUE(table);
    ASSERT_EQ(table.value().size(), list.lines.size() + 1);
    for (const auto& row : table.value()) EXPECT_EQ(row.size(), 10u);
    EXPECT_EQ(table.value()[0][0], "part");
}

TEST(Reserving, PromisesWhatIsFreeAndTellsWhatIsShort) {
    const PartsList list = test::ask(parts_query(test::pier_lantern(), demo_stock())).value();
    const auto items = demo_stock();
    const BatchMove move = reserve(items, list, "Pier lantern");
    const auto after = with_changes(items, move.changes);
    EXPECT_EQ(find_item(after, "led/amber-5mm")->reserved.at("Pier lantern"), 120) << "168 are needed";
    EXPECT_EQ(find_item(after, "led/amber-5mm")->stock, 120) << "still there";
    const auto short_of_leds = std::count_if(move.short_of.begin(), move.short_of.end(), [](const auto& s) {
        return s.find("120 of 168") != std::string::npos;
    });
    EXPECT_EQ(short_of_leds, 1);

    Design other = test::pier_lantern();
    other.name = "Harbour beacon";
    const PartsList theirs = test::ask(parts_query(other, after)).value();
    EXPECT_EQ(line(theirs, "led/amber-5mm").to_buy.value, 168) << "all are promised";
    EXPECT_EQ(line(theirs, "led/amber-5mm").promised, 120);
    const PartsList own = test::ask(parts_query(test::pier_lantern(), after)).value();
    EXPECT_EQ(line(own, "led/amber-5mm").to_buy.value, 48) << "promised to itself";
    EXPECT_EQ(reserve(after, list, "Pier lantern").changes, std::vector<DrawerChange>())
        << "reserving twice promises no more";
}

TEST(Reserving, UsesUpOnceAndGivesBack) {
    const PartsList list = test::ask(parts_query(test::pier_lantern(), demo_stock())).value();
    const auto reserved = with_changes(demo_stock(), reserve(demo_stock(), list, "Pier lantern").changes);
    const auto given_back = with_changes(reserved, release(reserved, "Pier lantern").changes);
    EXPECT_EQ(given_back, demo_stock());
    EXPECT_EQ(batches_reserved(reserved).size(), 1u);
    const auto used = with_changes(reserved, use_up(reserved, list, "Pier lantern").changes);
    EXPECT_EQ(find_item(used, "led/amber-5mm")->stock, 0);
    EXPECT_EQ(find_item(used, "resistor/62")->stock,
              std::max(0.0, 20 - line(list, "resistor/62").needed.value));
    EXPECT_TRUE(batches_reserved(used).empty());
    const auto back = with_changes(used, inverse(reserved, use_up(reserved, list, "Pier lantern").changes));
    EXPECT_EQ(back, reserved) << "the step leads back";
}

}  // namespace
}  // namespace elkit
