#pragma once
#include <filesystem>
#include <utility>
#include <vector>

#include "drawer/item.hpp"

struct sqlite3;

namespace elkit {

/// The parts owned, shared by all designs: an SQLite file. A new file starts with the made-up stock of
/// data/drawer. A file of an earlier version is brought up to this one when it is opened, in one transaction;
/// one that may not be written is read as it is.
class Drawer {
  public:
    /// Opens the file, or makes it if there is none; ":memory:" for a drawer that leaves nothing. File error
    /// if it is there and not a drawer.
    static Result<Drawer> open(const std::filesystem::path& path);
    /// Opens a drawer that is there. File error for anything else, at once: no file, an empty or foreign one,
    /// a pipe, one that another program holds, one with an item that check() refuses, one of a later version.
    static Result<Drawer> open_existing(const std::filesystem::path& path);
    Drawer(Drawer&&) noexcept;
    Drawer& operator=(Drawer&&) noexcept;
    ~Drawer();

    Result<std::vector<DrawerItem>> items() const;  ///< sorted by key, as the file has them now
    /// Those that were read when it was opened; once, then none.
    std::vector<DrawerItem> take_opened() { return std::move(opened_); }
    /// All of them or none. Usage error as check(); file error where the file cannot be written.
    Result<void> apply(const std::vector<DrawerChange>& changes);
    Result<void> put(const DrawerItem& item) { return apply({{item.key, item}}); }  ///< adds or replaces

  private:
    explicit Drawer(sqlite3* db) : db_(db) {}
    Result<void> make_tables();
    Result<void> check_tables();
    Result<void> migrate();
    Result<void> run(const char* sql);
    Result<void> write(const std::vector<DrawerChange>& changes);  ///< within a transaction
    Result<int> version() const;
    sqlite3* db_ = nullptr;
    std::vector<DrawerItem> opened_;
};

/// Puts a drawer that cannot be read out of the way, beside where it stood: "drawer.sqlite.damaged",
/// ".damaged2", … Returns its new place; file error if it cannot be moved.
Result<std::filesystem::path> set_aside(const std::filesystem::path& path);

}  // namespace elkit
