#include "drawer/drawer.hpp"

#include <gtest/gtest.h>
#include <sqlite3.h>
#include <sys/stat.h>
#include <unistd.h>

#include <fstream>

#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "design/file.hpp"
#include "drawer/identity.hpp"
#include "drawer/import.hpp"
#include "drawer/search.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

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

constexpr const char* version_1 =
    "CREATE TABLE item (key TEXT PRIMARY KEY, name TEXT NOT NULL, stock REAL NOT NULL, pack REAL NOT NULL, "
    "price REAL NOT NULL); INSERT INTO item VALUES ('led/red-5mm', 'red LED', 7, 50, 4.5);";

TEST(Drawer, BringsAnEarlierFileUpToDate) {
    test::TemporaryFolder folder;
    const auto path = database(folder / "old", version_1);
    auto drawer = Drawer::open(path);
    ASSERT_TRUE(drawer) << drawer.error().text();
    DrawerItem item = drawer.value().items().value().at(0);
    EXPECT_EQ(item, (DrawerItem{"led/red-5mm", "red LED", 7, 50, 4.5}));
    item.place = "box 3", item.least = 20, item.reserved["Pier lantern"] = 5, item.counted = "2026-11-27";
    ASSERT_TRUE(drawer.value().put(item));
    EXPECT_EQ(Drawer::open(path).value().items().value().at(0), item);
    EXPECT_TRUE(item.low());
}

TEST(Drawer, ReadsAnEarlierFileThatMayNotBeWritten) {
    if (::geteuid() == 0) GTEST_SKIP() << "root writes everything";
    test::TemporaryFolder folder;
    const auto path = database(folder / "old", version_1);
    std::filesystem::permissions(path, std::filesystem::perms::owner_read);
    auto drawer = Drawer::open(path);
    ASSERT_TRUE(drawer) << drawer.error().text();
    EXPECT_EQ(drawer.value().items().value().size(), 1u);
    EXPECT_FALSE(drawer.value().put({"led/red-5mm", "x"}));
}

TEST(Drawer, RefusesALaterVersionAndLeavesIt) {
    test::TemporaryFolder folder;
    const auto path = database(folder / "later", version_1 + std::string("PRAGMA user_version = 3;"));
    const std::string before = read_file(path).value();
    const auto drawer = Drawer::open(path);
    ASSERT_FALSE(drawer);
    EXPECT_NE(drawer.error().text().find("version 3"), std::string::npos) << drawer.error().text();
    EXPECT_EQ(read_file(path).value(), before);
}

TEST(Drawer, ChangesAllOrNothing) {
    auto drawer = Drawer::open(":memory:").value();
    const auto before = drawer.items().value();
    EXPECT_FALSE(drawer.apply({{"resistor/82", std::nullopt}, {"x", DrawerItem{"x", "x", -1}}}));
    EXPECT_EQ(drawer.items().value(), before);
    const std::vector<DrawerChange> changes{{"resistor/82", std::nullopt},
                                            {"own/felt", DrawerItem{"own/felt", "felt", 3}}};
    ASSERT_TRUE(drawer.apply(changes));
    EXPECT_EQ(drawer.items().value(), with_changes(before, changes));
    ASSERT_TRUE(drawer.apply(inverse(before, changes)));
    EXPECT_EQ(drawer.items().value(), before);
}

TEST(Drawer, IsNeverFilledBeyondWhatItCanRead) {
    auto drawer = Drawer::open(":memory:").value();
    const auto before = drawer.items().value();
    std::vector<DrawerChange> many;
    for (int k = 0; k < 200001; ++k) {
        const std::string key = "own/" + std::to_string(k);
        many.push_back({key, DrawerItem{key, key, 1}});
    }
    const auto refused = drawer.apply(many);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().fault, Fault::usage);
    EXPECT_EQ(drawer.items().value(), before);
}

TEST(Drawer, IsReadOnceWhenItIsOpened) {
    test::TemporaryFolder folder;
    auto made = Drawer::open(folder / "drawer.sqlite").value();
    EXPECT_EQ(made.take_opened(), demo_stock());
    EXPECT_TRUE(made.take_opened().empty()) << "once";
    ASSERT_TRUE(made.put({"own/felt", "felt", 3}));
    auto again = Drawer::open(folder / "drawer.sqlite").value();
    Drawer moved = std::move(again);
    EXPECT_EQ(moved.take_opened(), made.items().value());
}

TEST(Drawer, ADamagedOneIsPutAsideNotLost) {
    test::TemporaryFolder folder;
    std::ofstream(folder / "drawer.sqlite") << "no drawer";
    EXPECT_EQ(set_aside(folder / "drawer.sqlite").value(), folder / "drawer.sqlite.damaged");
    EXPECT_TRUE(Drawer::open(folder / "drawer.sqlite"));
    EXPECT_EQ(set_aside(folder / "drawer.sqlite").value(), folder / "drawer.sqlite.damaged2");
    EXPECT_EQ(read_file(folder / "drawer.sqlite.damaged").value(), "no drawer");
}

TEST(DrawerKeys, AreReadAsTheyAreWritten) {
    for (const PartKind& kind : part_kinds()) {
        if (kind.identity.by_pins || kind.is(Role::bench)) continue;
        Part part;
        part.kind = kind.id;
        for (const ParamInfo& info : kind.params) {
            if (info.key == "tolerance") part.params[info.key] = 0.02;
            if (info.key == "rating") part.params[info.key] = info.unit == Unit::watt ? 2.0 : 63.0;
        }
        const auto read = part_of_key(drawer_key(part));
        ASSERT_TRUE(read) << drawer_key(part);
        EXPECT_EQ(drawer_key(*read), drawer_key(part));
        EXPECT_EQ(shop_name(*read), shop_name(part));
    }
    EXPECT_FALSE(part_of_key("board/pad"));
    EXPECT_FALSE(part_of_key("resistor"));
    EXPECT_FALSE(part_of_key("resistor/seventy"));
    EXPECT_FALSE(part_of_key(""));
    const ItemWords words = words_of_key("resistor/4700/1%/0.5W");
    EXPECT_EQ(words.value, "4.7\u00a0kΩ");
    EXPECT_EQ(words.tolerance, "1\u00a0%");
    EXPECT_EQ(words.rating, "½ W");
}

TEST(DrawerSearch, FindsWordsValuesAndStates) {
    auto items =
        with_changes(demo_stock(), {{"resistor/5100/1%", DrawerItem{"resistor/5100/1%", "metal film", 5}},
                                    {"capacitor/1e-07", DrawerItem{"capacitor/1e-07", "disc", 0}}});
    const auto found = [&](const DrawerFilter& filter) {
        std::vector<std::string> keys;
        for (const DrawerItem& item : found_items(items, filter)) keys.push_back(item.key);
        return keys;
    };
    using Keys = std::vector<std::string>;
    EXPECT_EQ(found({"5k1"}), Keys{"resistor/5100/1%"});
    EXPECT_EQ(found({"5,1k film"}), Keys{"resistor/5100/1%"});
    EXPECT_EQ(found({"100nF"}), Keys{"capacitor/1e-07"});
    EXPECT_EQ(found({"AMBER 5 mm"}), Keys{"led/amber-5mm"});
    EXPECT_EQ(found({"100nF", true}), Keys{});
    EXPECT_EQ(found({"", true}).size(), items.size() - 3) << "75 Ω, CR2450 and the disc are out";
    EXPECT_TRUE(found({"", false, true}).empty());
    items[0].least = items[0].stock + 1;
    EXPECT_EQ(found({"", false, true}), Keys{items[0].key});
    const DrawerIndex before(items);
    items.erase(items.begin() + 3);
    items[5].place = "shelf 9";
    const DrawerIndex after(items, before);
    EXPECT_EQ(after.find(items, {"shelf"}), std::vector<std::size_t>{5});
    for (std::size_t k = 0; k < items.size(); ++k)
        EXPECT_EQ(after.words(k).value, words_of_key(items[k].key).value) << items[k].key;
}

}  // namespace
}  // namespace elkit
