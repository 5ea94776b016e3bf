#include "batch/drawer.hpp"

#include <sqlite3.h>

#include <algorithm>
#include <charconv>
#include <utility>

#include "embedded.hpp"
#include "formats/csv.hpp"

namespace elkit {
namespace {

/// A prepared statement that closes itself.
class Statement {
  public:
    Statement(sqlite3* db, const char* sql) { sqlite3_prepare_v2(db, sql, -1, &s_, nullptr); }
    ~Statement() { sqlite3_finalize(s_); }
    Statement(const Statement&) = delete;
    Statement& operator=(const Statement&) = delete;
    explicit operator bool() const { return s_ != nullptr; }
    void bind(int at, const std::string& text) {
        sqlite3_bind_text(s_, at, text.data(), static_cast<int>(text.size()), SQLITE_TRANSIENT);
    }
    void bind(int at, double number) { sqlite3_bind_double(s_, at, number); }
    int step() { return sqlite3_step(s_); }
    std::string text(int at) const {
        const auto* t = sqlite3_column_text(s_, at);
        return t ? reinterpret_cast<const char*>(t) : "";
    }
    double number(int at) const { return sqlite3_column_double(s_, at); }

  private:
    sqlite3_stmt* s_ = nullptr;
};

Error database_error(sqlite3* db, std::string place) {
    return {Fault::file, std::move(place), db ? sqlite3_errmsg(db) : "out of memory",
            "a drawer file made by this program"};
}

}  // namespace

Drawer::Drawer(Drawer&& other) noexcept : db_(std::exchange(other.db_, nullptr)) {}
Drawer& Drawer::operator=(Drawer&& other) noexcept {
    std::swap(db_, other.db_);
    return *this;
}
Drawer::~Drawer() { sqlite3_close(db_); }

Result<Drawer> Drawer::open(const std::filesystem::path& path) {
    if (path != ":memory:" && path.has_parent_path()) {
        std::error_code ignored;
        std::filesystem::create_directories(path.parent_path(), ignored);
    }
    sqlite3* db = nullptr;
    const int code = sqlite3_open(path.c_str(), &db);
    Drawer drawer(db);
    if (code != SQLITE_OK) return database_error(db, path.string());
    sqlite3_busy_timeout(db, 3000);
    if (auto ready = drawer.prepare_tables(); !ready) {
        Error error = ready.error();
        error.place = path.string();
        return error;
    }
    return drawer;
}

Result<void> Drawer::prepare_tables() {
    const bool there = Statement(db_, "SELECT 1 FROM sqlite_master WHERE name = 'item'").step() == SQLITE_ROW;
    if (there) return success();
    if (sqlite3_exec(db_,
                     "BEGIN; CREATE TABLE item (key TEXT PRIMARY KEY, name TEXT NOT NULL, stock REAL NOT "
                     "NULL, pack REAL NOT NULL, price REAL NOT NULL);",
                     nullptr, nullptr, nullptr) != SQLITE_OK)
        return database_error(db_, "drawer");
    for (const auto& item : demo_stock())
        if (auto put_in = put(item); !put_in) return put_in;
    if (sqlite3_exec(db_, "COMMIT", nullptr, nullptr, nullptr) != SQLITE_OK)
        return database_error(db_, "drawer");
    return success();
}

Result<std::vector<DrawerItem>> Drawer::items() const {
    Statement select(db_, "SELECT key, name, stock, pack, price FROM item ORDER BY key");
    if (!select) return database_error(db_, "drawer");
    std::vector<DrawerItem> out;
    int code = SQLITE_ROW;
    while ((code = select.step()) == SQLITE_ROW)
        out.push_back({select.text(0), select.text(1), select.number(2), select.number(3), select.number(4)});
    if (code != SQLITE_DONE) return database_error(db_, "drawer");
    return out;
}

Result<void> Drawer::put(const DrawerItem& item) {
    if (auto sound = check(item); !sound) return sound;
    Statement insert(db_, "INSERT OR REPLACE INTO item VALUES (?, ?, ?, ?, ?)");
    if (!insert) return database_error(db_, "drawer");
    insert.bind(1, item.key);
    insert.bind(2, item.name);
    insert.bind(3, item.stock);
    insert.bind(4, item.pack);
    insert.bind(5, item.price);
    if (insert.step() != SQLITE_DONE) return database_error(db_, "drawer");
    return success();
}

Result<void> Drawer::remove(const std::string& key) {
    Statement erase(db_, "DELETE FROM item WHERE key = ?");
    if (!erase) return database_error(db_, "drawer");
    erase.bind(1, key);
    if (erase.step() != SQLITE_DONE) return database_error(db_, "drawer");
    return success();
}

Result<void> check(const DrawerItem& item) {
    if (item.key.empty())
        return Error{Fault::usage, "drawer", "the part has no key", "kind/value, such as resistor/75"};
    if (!(item.stock >= 0 && item.pack > 0 && item.price >= 0))
        return Error{Fault::usage, "drawer, " + item.key, "stock, pack or price is below zero",
                     "stock and price from 0, pack from 1"};
    return success();
}

std::vector<DrawerItem> with_item(std::vector<DrawerItem> items, const std::string& key,
                                  const std::optional<DrawerItem>& item) {
    std::erase_if(items, [&](const DrawerItem& i) { return i.key == key; });
    if (item)
        items.insert(std::lower_bound(items.begin(), items.end(), *item,
                                      [](const DrawerItem& a, const DrawerItem& b) { return a.key < b.key; }),
                     *item);
    return items;
}

Digest content_digest(const std::vector<DrawerItem>& items) {
    Digester d;
    for (const DrawerItem& i : items) d << i.key << i.name << i.stock << i.pack << i.price;
    return d.digest();
}

std::vector<double> owned_resistors(const std::vector<DrawerItem>& items) {
    std::vector<double> values;
    for (const auto& item : items) {
        constexpr std::string_view prefix = "resistor/";
        if (!item.key.starts_with(prefix) || item.stock < 1) continue;
        double value = 0;
        const char* end = item.key.data() + item.key.size();
        if (std::from_chars(item.key.data() + prefix.size(), end, value).ec == std::errc{} && value > 0)
            values.push_back(value);
    }
    std::sort(values.begin(), values.end());
    return values;
}

const DrawerItem* find_item(const std::vector<DrawerItem>& items, std::string_view key) {
    const auto found =
        std::find_if(items.begin(), items.end(), [&](const auto& item) { return item.key == key; });
    return found == items.end() ? nullptr : &*found;
}

std::vector<DrawerItem> demo_stock() {
    std::vector<DrawerItem> items;
    auto table = parse_csv(embedded::demo_stock);
    if (!table) return items;
    for (std::size_t r = 1; r < table.value().size(); ++r) {
        const auto& row = table.value()[r];
        if (row.size() == 5)
            items.push_back({row[0], row[1], std::stod(row[2]), std::stod(row[3]), std::stod(row[4])});
    }
    return items;
}

}  // namespace elkit
