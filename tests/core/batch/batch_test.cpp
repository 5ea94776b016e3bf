#include <gtest/gtest.h>
#include <sqlite3.h>
#include <sys/stat.h>

#include <fstream>

#include "batch/drawer.hpp"
#include "batch/parts_list.hpp"
#include "design/file.hpp"
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

TEST(Drawer, ShipsWithStockAndKeepsChanges) {
    test::TemporaryFolder folder;
    const auto path = folder / "data/drawer.sqlite";
    {
        auto drawer = Drawer::open(path);
        ASSERT_TRUE(drawer) << drawer.error().text();
        EXPECT_EQ(drawer.value().items().value().size(), demo_stock().size());
        ASSERT_TRUE(drawer.value().put({"resistor/62", "62 Ω resistor", 500, 100, 1.5}));
    }
    auto again = Drawer::open(path);
    const auto items = again.value().items().value();
    EXPECT_EQ(items.size(), demo_stock().size());
    EXPECT_EQ(find_item(items, "resistor/62")->stock, 500);
}

TEST(Drawer, RefusesNonsenseAndForeignFiles) {
    test::TemporaryFolder folder;
    auto drawer = Drawer::open(":memory:");
    EXPECT_EQ(drawer.value().put({"resistor/1", "", -1, 1, 1}).error().fault, Fault::usage);
    EXPECT_FALSE(drawer.value().put({"", "", 1, 1, 1}));
    std::ofstream(folder / "not.sqlite") << "this is no database, but long enough to look at its first page";
    const auto foreign = Drawer::open(folder / "not.sqlite");
    ASSERT_FALSE(foreign);
    EXPECT_EQ(foreign.error().fault, Fault::file);
}

/// A database file made by these statements.
std::filesystem::path database(const std::filesystem::path& path, const std::string& statements) {
    sqlite3* db = nullptr;
    sqlite3_open(path.c_str(), &db);
    EXPECT_EQ(sqlite3_exec(db, statements.c_str(), nullptr, nullptr, nullptr), SQLITE_OK)
        << sqlite3_errmsg(db);
    sqlite3_close(db);
    return path;
}

constexpr const char* item_table = "CREATE TABLE item (key TEXT, name TEXT, stock, pack, price);";

TEST(Drawer, RefusesWhatIsNoDrawerAndNamesThePlace) {
    test::TemporaryFolder folder;
    const auto insert = [&](const char* name, const std::string& values) {
        return database(folder / name, item_table + ("INSERT INTO item VALUES (" + values + ");"));
    };
    std::ofstream(folder / "empty").flush();
    ASSERT_EQ(::mkfifo((folder / "pipe").c_str(), 0600), 0);
    std::string damaged = read_file(Drawer::open(folder / "good") ? folder / "good" : folder / "").value();
    for (std::size_t k = 200; k < damaged.size(); k += 3) damaged[k] = 'x';
    std::ofstream(folder / "damaged") << damaged;
    struct Bad {
        std::filesystem::path file;
        const char* says;
    };
    const std::vector<Bad> all{
        {folder / "empty", "empty"},
        {folder / "pipe", "no plain file"},
        {folder.path(), "no plain file"},
        {"/dev/zero", "no plain file"},
        {folder / "damaged", ""},
        {database(folder / "foreign", "CREATE TABLE other (x);"), "no table of items"},
        {database(folder / "view",
                  "CREATE VIEW item AS WITH RECURSIVE c(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM c) "
                  "SELECT x AS key, x AS name, 1 AS stock, 1 AS pack, 1 AS price FROM c;"),
         "no table of items"},
        {database(folder / "columns", "CREATE TABLE item (key TEXT);"), "no such column"},
        {insert("nothing", "'resistor/75', 'x', 1, 0, 1"), "out of range"},
        {insert("below", "'resistor/75', 'x', -1, 1, 1"), "out of range"},
        {insert("endless", "'resistor/75', 'x', 9e999, 1, 1"), "out of range"},
        {insert("text", "'resistor/75', 'x', 'many', 1, 1"), "\"many\""},
        {insert("null", "'resistor/75', 'x', NULL, 1, 1"), "numbers"},
        {insert("control", "'resistor/75', 'x' || char(27), 1, 1, 1"), "control"},
        {insert("no key", "'', 'x', 1, 1, 1"), "no key"},
    };
    for (const Bad& bad : all) {
        const auto before = std::filesystem::is_regular_file(bad.file) ? read_file(bad.file).value() : "";
        const auto drawer = Drawer::open(bad.file);
        ASSERT_FALSE(drawer) << bad.file;
        EXPECT_EQ(drawer.error().fault, Fault::file) << bad.file;
        EXPECT_NE(drawer.error().text().find(bad.file.string()), std::string::npos) << drawer.error().text();
        EXPECT_NE(drawer.error().text().find(bad.says), std::string::npos) << drawer.error().text();
        if (!before.empty()) {
            EXPECT_EQ(read_file(bad.file).value(), before) << "a stranger's file is not changed";
        }
    }
}

TEST(Drawer, AHeldDrawerIsAnErrorAtOnce) {
    test::TemporaryFolder folder;
    ASSERT_TRUE(Drawer::open(folder / "held"));
    sqlite3* other = nullptr;
    sqlite3_open((folder / "held").c_str(), &other);
    sqlite3_exec(other, "BEGIN EXCLUSIVE", nullptr, nullptr, nullptr);
    const auto drawer = Drawer::open(folder / "held");
    ASSERT_FALSE(drawer);
    EXPECT_NE(drawer.error().text().find("locked"), std::string::npos) << drawer.error().text();
    sqlite3_close(other);
    EXPECT_TRUE(Drawer::open(folder / "held"));
}

TEST(Drawer, OffersTheResistorsInStock) {
    const auto owned = owned_resistors(demo_stock());
    EXPECT_TRUE(std::is_sorted(owned.begin(), owned.end()));
    EXPECT_EQ(std::count(owned.begin(), owned.end(), 82.0), 1);
    EXPECT_EQ(std::count(owned.begin(), owned.end(), 75.0), 0) << "none of 75 Ω left";
}

}  // namespace
}  // namespace elkit
