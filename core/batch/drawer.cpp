#include "batch/drawer.hpp"

#include <sqlite3.h>
#include <unistd.h>

#include <algorithm>
#include <charconv>
#include <utility>

#include "embedded.hpp"
#include "formats/csv.hpp"
#include "quantity/plain_text.hpp"

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
        return t ? std::string(reinterpret_cast<const char*>(t),
                               static_cast<std::size_t>(sqlite3_column_bytes(s_, at)))
                 : std::string();
    }
    double number(int at) const { return sqlite3_column_double(s_, at); }
    bool is_number(int at) const {
        const int type = sqlite3_column_type(s_, at);
        return type == SQLITE_INTEGER || type == SQLITE_FLOAT;
    }

  private:
    sqlite3_stmt* s_ = nullptr;
};

constexpr int busy_ms = 500;  // another program may be writing
constexpr std::size_t most_items = 20000, longest_text = 200;
constexpr double least_pack = 0.01;

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

namespace {

constexpr const char* expected_drawer = "a drawer file made by this program";

/// What a stranger's file may not do: schemas that call functions, or that are more than plain tables.
void make_careful(sqlite3* db) {
    sqlite3_db_config(db, SQLITE_DBCONFIG_TRUSTED_SCHEMA, 0, nullptr);
    sqlite3_db_config(db, SQLITE_DBCONFIG_DEFENSIVE, 1, nullptr);
    sqlite3_db_config(db, SQLITE_DBCONFIG_ENABLE_TRIGGER, 0, nullptr);
    sqlite3_db_config(db, SQLITE_DBCONFIG_ENABLE_VIEW, 0, nullptr);
    sqlite3_limit(db, SQLITE_LIMIT_LENGTH, 1 << 20);
}

Result<Drawer> placed(Result<Drawer> drawer, const std::filesystem::path& path) {
    if (drawer) return drawer;
    Error error = drawer.error();
    error.place = path.string();
    return error;
}

}  // namespace

Result<Drawer> Drawer::open(const std::filesystem::path& path) {
    std::error_code code;
    if (path != ":memory:") {
        if (std::filesystem::exists(path, code)) return open_existing(path);
        if (path.has_parent_path()) std::filesystem::create_directories(path.parent_path(), code);
    }
    sqlite3* db = nullptr;
    const int opened = sqlite3_open(path.c_str(), &db);
    Drawer drawer(db);
    if (opened != SQLITE_OK) return database_error(db, path.string());
    make_careful(db);
    sqlite3_busy_timeout(db, busy_ms);
    if (auto made = drawer.make_tables(); !made) return placed(made.error(), path);
    return drawer;
}

Result<Drawer> Drawer::open_existing(const std::filesystem::path& path) {
    std::error_code code;
    const auto status = std::filesystem::status(path, code);
    if (!std::filesystem::exists(status))
        return Error{Fault::file, path.string(), "there is no such file", expected_drawer};
    if (!std::filesystem::is_regular_file(status))  // opening a pipe would wait for ever
        return Error{Fault::file, path.string(), "this is no plain file", expected_drawer};
    if (std::filesystem::file_size(path, code) == 0)
        return Error{Fault::file, path.string(), "the file is empty", expected_drawer};
    sqlite3* db = nullptr;
    const bool may_write = ::access(path.c_str(), W_OK) == 0;
    const int opened =
        sqlite3_open_v2(path.c_str(), &db, may_write ? SQLITE_OPEN_READWRITE : SQLITE_OPEN_READONLY, nullptr);
    Drawer drawer(db);
    if (opened != SQLITE_OK) return database_error(db, path.string());
    make_careful(db);
    sqlite3_busy_timeout(db, busy_ms);
    if (auto sound = drawer.check_tables(); !sound) return placed(sound.error(), path);
    if (auto items = drawer.items(); !items) return placed(items.error(), path);
    return drawer;
}

Result<void> Drawer::make_tables() {
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

Result<void> Drawer::check_tables() {
    Statement find(db_, "SELECT type, rootpage FROM sqlite_master WHERE name = 'item'");
    if (!find) return database_error(db_, "drawer");
    const int code = find.step();
    if (code != SQLITE_ROW && code != SQLITE_DONE) return database_error(db_, "drawer");
    // a view or a virtual table has no page of its own
    if (code == SQLITE_DONE || find.text(0) != "table" || find.number(1) == 0)
        return Error{Fault::file, "drawer", "the database has no table of items", expected_drawer};
    return success();
}

Result<std::vector<DrawerItem>> Drawer::items() const {
    Statement select(db_, "SELECT key, name, stock, pack, price FROM item ORDER BY key");
    if (!select) return database_error(db_, "drawer");
    std::vector<DrawerItem> out;
    int code = SQLITE_ROW;
    while ((code = select.step()) == SQLITE_ROW) {
        DrawerItem item{select.text(0), select.text(1), select.number(2), select.number(3), select.number(4)};
        for (int column = 2; column < 5; ++column)
            if (!select.is_number(column))
                return Error{Fault::file, "drawer, " + one_line(item.key, 60),
                             "found the text \"" + one_line(select.text(column), 40) + "\"",
                             "numbers for stock, pack and price"};
        if (auto sound = check(item); !sound) {
            Error error = sound.error();
            error.fault = Fault::file;
            return error;
        }
        if (out.size() == most_items)
            return Error{Fault::file, "drawer", "has more than 20 000 items", expected_drawer};
        out.push_back(std::move(item));
    }
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
    const std::string place = "drawer, " + one_line(item.key, 60);
    for (const std::string* text : {&item.key, &item.name})
        if (std::string trouble = trouble_of_text(*text, longest_text); !trouble.empty())
            return Error{Fault::usage, place, "the text \"" + one_line(*text, 40) + "\" " + trouble,
                         "at most 200 visible characters"};
    constexpr double most = 1e9;
    const auto in = [&](double value, double least) { return value >= least && value <= most; };
    if (!in(item.stock, 0) || !in(item.pack, least_pack) || !in(item.price, 0))
        return Error{Fault::usage, place, "stock, pack or price is out of range",
                     "stock and price from 0 to 1e9, pack from 0.01"};
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
