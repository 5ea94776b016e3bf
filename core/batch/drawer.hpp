#pragma once
#include <filesystem>
#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "quantity/result.hpp"
#include "store/digest.hpp"

struct sqlite3;

namespace elkit {

/// One kind of part that the workshop owns or can buy.
struct DrawerItem {
    std::string key;  ///< "resistor/75", "led/amber-5mm", "cell/LR6", …
    std::string name;
    double stock = 0;  ///< pieces owned
    double pack = 1;   ///< pieces in a pack
    double price = 0;  ///< of a pack, workshop's currency
    double unit_price() const { return pack > 0 ? price / pack : 0; }
    bool operator==(const DrawerItem&) const = default;
};

Digest content_digest(const std::vector<DrawerItem>& items);

/// Usage error for an empty key, a text that is long or not plain, a number out of range, or a pack of
/// nothing.
Result<void> check(const DrawerItem& item);
/// The items with another in the place of `key`, or without it; sorted by key.
std::vector<DrawerItem> with_item(std::vector<DrawerItem> items, const std::string& key,
                                  const std::optional<DrawerItem>& item);

/// The parts owned, shared by all designs: an SQLite file. A new file starts with the made-up stock of
/// data/drawer.
class Drawer {
  public:
    /// Opens the file, or makes it if there is none; ":memory:" for a drawer that leaves nothing. File error
    /// if it is there and not a drawer.
    static Result<Drawer> open(const std::filesystem::path& path);
    /// Opens a drawer that is there. File error for anything else, at once: no file, an empty or foreign one,
    /// a pipe, one that another program holds, one with an item that check() refuses.
    static Result<Drawer> open_existing(const std::filesystem::path& path);
    Drawer(Drawer&&) noexcept;
    Drawer& operator=(Drawer&&) noexcept;
    ~Drawer();

    Result<std::vector<DrawerItem>> items() const;  ///< sorted by key
    Result<void> put(const DrawerItem& item);       ///< adds or replaces; usage error as check()
    Result<void> remove(const std::string& key);    ///< nothing happens if there is no such item

  private:
    explicit Drawer(sqlite3* db) : db_(db) {}
    Result<void> make_tables();
    Result<void> check_tables();
    sqlite3* db_ = nullptr;
};

/// Values [Ω] of the resistors in stock, ascending.
std::vector<double> owned_resistors(const std::vector<DrawerItem>& items);
const DrawerItem* find_item(const std::vector<DrawerItem>& items, std::string_view key);
/// The stock that ships with Elkit.
std::vector<DrawerItem> demo_stock();

}  // namespace elkit
