#include "drawer/drawer.hpp"

#include <fmt/format.h>
#include <sqlite3.h>
#include <unistd.h>

#include <algorithm>
#include <array>
#include <utility>

#include "drawer/import.hpp"
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
    /// To its end, and ready to be bound again; false if it failed.
    bool run() {
        const bool done = step() == SQLITE_DONE;
        sqlite3_reset(s_);
        return done;
    }
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
constexpr std::size_t most_items = 200000;
constexpr const char* expected_drawer = "a drawer file made by this program";

/// The columns of an item behind key and name: numbers, then texts. The first three are of version 1.
constexpr std::array number_columns{"stock", "pack", "price", "least"};
constexpr std::array text_columns{"package", "place", "note", "supplier", "photo", "counted"};
constexpr std::size_t numbers_of_version_1 = 3;
constexpr int present_version = 2;

double* number_of(DrawerItem& item, std::size_t at) {
    return std::array{&item.stock, &item.pack, &item.price, &item.least}[at];
}
std::string* text_of(DrawerItem& item, std::size_t at) {
    return std::array{&item.package, &item.place, &item.note, &item.supplier, &item.photo, &item.counted}[at];
}

constexpr const char* reserved_table =
    "CREATE TABLE reserved (key TEXT NOT NULL, batch TEXT NOT NULL, pieces REAL NOT NULL, PRIMARY KEY (key, "
    "batch));";

/// The missing columns, and what is reserved.
std::string migration_from_1() {
    std::string sql;
    for (std::size_t k = numbers_of_version_1; k < number_columns.size(); ++k)
        sql += fmt::format("ALTER TABLE item ADD COLUMN {} REAL NOT NULL DEFAULT 0;", number_columns[k]);
    for (const char* text : text_columns)
        sql += fmt::format("ALTER TABLE item ADD COLUMN {} TEXT NOT NULL DEFAULT '';", text);
    return sql + reserved_table;
}

std::string set_version() { return fmt::format("PRAGMA user_version = {};", present_version); }

Error database_error(sqlite3* db, std::string place) {
    if (!db) return {Fault::file, std::move(place), "out of memory", expected_drawer};
    const int code = sqlite3_errcode(db) & 0xff;
    if (code == SQLITE_BUSY || code == SQLITE_LOCKED)
        return {Fault::file, std::move(place), "another program holds the drawer (database is locked)",
                "that it is closed there"};
    return {Fault::file, std::move(place), sqlite3_errmsg(db), expected_drawer};
}

}  // namespace

Drawer::Drawer(Drawer&& other) noexcept
    : db_(std::exchange(other.db_, nullptr)), opened_(std::move(other.opened_)) {}
Drawer& Drawer::operator=(Drawer&& other) noexcept {
    std::swap(db_, other.db_);
    std::swap(opened_, other.opened_);
    return *this;
}
Drawer::~Drawer() { sqlite3_close(db_); }

namespace {

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
    drawer.opened_ = demo_stock();
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
    auto items = drawer.items();
    if (!items) return placed(items.error(), path);
    drawer.opened_ = std::move(items).value();
    if (may_write)  // only what was read whole is written
        if (auto done = drawer.migrate(); !done) return placed(done.error(), path);
    return drawer;
}

Result<void> Drawer::run(const char* sql) {
    if (sqlite3_exec(db_, sql, nullptr, nullptr, nullptr) != SQLITE_OK) {
        const Error error = database_error(db_, "drawer");
        sqlite3_exec(db_, "ROLLBACK", nullptr, nullptr, nullptr);
        return error;
    }
    return success();
}

Result<int> Drawer::version() const {
    Statement ask(db_, "PRAGMA user_version");
    if (!ask || ask.step() != SQLITE_ROW) return database_error(db_, "drawer");
    const auto number = static_cast<int>(ask.number(0));
    if (number > present_version)
        return Error{Fault::file, "drawer", fmt::format("is of version {}, made by a later Elkit", number),
                     fmt::format("version {} or earlier", present_version)};
    return std::max(number, 1);  // the first one said none
}

Result<void> Drawer::make_tables() {
    std::string sql = "BEGIN; CREATE TABLE item (key TEXT PRIMARY KEY, name TEXT NOT NULL";
    for (std::size_t k = 0; k < numbers_of_version_1; ++k)
        sql += fmt::format(", {} REAL NOT NULL", number_columns[k]);
    sql += ");" + migration_from_1() + set_version();
    if (auto done = run(sql.c_str()); !done) return done;
    std::vector<DrawerChange> first;
    for (DrawerItem& item : demo_stock()) first.push_back({item.key, item});
    if (auto done = write(first); !done) return done;
    return run("COMMIT");
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

Result<void> Drawer::migrate() {
    const auto before = version();
    if (!before) return before.error();
    if (before.value() == present_version) return success();
    return run(("BEGIN IMMEDIATE;" + migration_from_1() + set_version() + "COMMIT").c_str());
}

Result<std::vector<DrawerItem>> Drawer::items() const {
    const auto of = version();
    if (!of) return of.error();
    const bool whole = of.value() >= present_version;
    const std::size_t most_numbers = whole ? number_columns.size() : numbers_of_version_1;
    std::string sql = "SELECT key, name";
    for (std::size_t k = 0; k < most_numbers; ++k) sql += fmt::format(", {}", number_columns[k]);
    if (whole)
        for (const char* text : text_columns) sql += fmt::format(", {}", text);
    Statement select(db_, (sql + " FROM item ORDER BY key").c_str());
    if (!select) return database_error(db_, "drawer");
    std::vector<DrawerItem> out;
    int code = SQLITE_ROW;
    while ((code = select.step()) == SQLITE_ROW) {
        DrawerItem item;
        item.key = select.text(0), item.name = select.text(1);
        int column = 2;
        for (std::size_t k = 0; k < most_numbers; ++k, ++column) {
            if (!select.is_number(column))
                return Error{Fault::file, "drawer, " + one_line(item.key, 60),
                             "found the text \"" + one_line(select.text(column), 40) + "\"",
                             "numbers for stock, pack and price"};
            *number_of(item, k) = select.number(column);
        }
        if (whole)
            for (std::size_t k = 0; k < text_columns.size(); ++k, ++column)
                *text_of(item, k) = select.text(column);
        if (out.size() == most_items)
            return Error{Fault::file, "drawer", fmt::format("has more than {} items", most_items),
                         expected_drawer};
        out.push_back(std::move(item));
    }
    if (code != SQLITE_DONE) return database_error(db_, "drawer");
    if (whole) {
        Statement promised(db_, "SELECT key, batch, pieces FROM reserved ORDER BY key, batch");
        if (!promised) return database_error(db_, "drawer");
        auto item = out.begin();
        while ((code = promised.step()) == SQLITE_ROW) {
            const std::string key = promised.text(0);
            while (item != out.end() && item->key < key) ++item;
            if (item != out.end() && item->key == key) item->reserved[promised.text(1)] = promised.number(2);
        }
        if (code != SQLITE_DONE) return database_error(db_, "drawer");
    }
    for (const DrawerItem& item : out)
        if (auto sound = check(item); !sound) {
            Error error = sound.error();
            error.fault = Fault::file;
            return error;
        }
    return out;
}

Result<void> Drawer::apply(const std::vector<DrawerChange>& changes) {
    for (const DrawerChange& change : changes)
        if (change.item)
            if (auto sound = check(*change.item); !sound) return sound;
    if (auto begun = run("BEGIN IMMEDIATE"); !begun) return begun;
    if (auto done = write(changes); !done) {
        sqlite3_exec(db_, "ROLLBACK", nullptr, nullptr, nullptr);
        return done;
    }
    return run("COMMIT");
}

Result<void> Drawer::write(const std::vector<DrawerChange>& changes) {
    std::string sql = "INSERT INTO item (key, name", marks = "?, ?";
    for (const char* column : number_columns) sql += fmt::format(", {}", column), marks += ", ?";
    for (const char* column : text_columns) sql += fmt::format(", {}", column), marks += ", ?";
    Statement insert(db_, (sql + ") VALUES (" + marks + ")").c_str());
    Statement promise(db_, "INSERT INTO reserved VALUES (?, ?, ?)");
    Statement erase(db_, "DELETE FROM item WHERE key = ?");
    Statement release(db_, "DELETE FROM reserved WHERE key = ?");
    if (!insert || !promise || !erase || !release) return database_error(db_, "drawer");
    for (const DrawerChange& change : changes) {
        erase.bind(1, change.key), release.bind(1, change.key);
        if (!erase.run() || !release.run()) return database_error(db_, "drawer");
        if (!change.item) continue;
        DrawerItem item = *change.item;
        insert.bind(1, item.key), insert.bind(2, item.name);
        int at = 3;
        for (std::size_t k = 0; k < number_columns.size(); ++k) insert.bind(at++, *number_of(item, k));
        for (std::size_t k = 0; k < text_columns.size(); ++k) insert.bind(at++, *text_of(item, k));
        if (!insert.run()) return database_error(db_, "drawer");
        for (const auto& [batch, pieces] : item.reserved) {
            promise.bind(1, item.key), promise.bind(2, batch), promise.bind(3, pieces);
            if (!promise.run()) return database_error(db_, "drawer");
        }
    }
    Statement count(db_, "SELECT count(*) FROM item");
    if (!count || count.step() != SQLITE_ROW) return database_error(db_, "drawer");
    if (count.number(0) > static_cast<double>(most_items))
        return Error{Fault::usage, "drawer", fmt::format("would have {:.0f} items", count.number(0)),
                     fmt::format("at most {}", most_items)};
    return success();
}

Result<std::filesystem::path> set_aside(const std::filesystem::path& path) {
    std::error_code code;
    for (int n = 1; n < 1000; ++n) {
        std::filesystem::path to = path;
        to += n == 1 ? ".damaged" : fmt::format(".damaged{}", n);
        if (std::filesystem::exists(to, code)) continue;
        std::filesystem::rename(path, to, code);
        if (code) break;
        return to;
    }
    return Error{Fault::file, path.string(), "it cannot be moved (" + code.message() + ")",
                 "a folder that may be written"};
}

}  // namespace elkit
