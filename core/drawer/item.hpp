#pragma once
#include <map>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "quantity/result.hpp"
#include "store/digest.hpp"

namespace elkit {

/// One kind of part that the workshop owns or can buy. What it is (kind, value, tolerance, rating) stands in
/// its key: identity.hpp.
struct DrawerItem {
    std::string key;   ///< "resistor/75", "resistor/75/1%", "led/amber-5mm", "cell/LR6", "own/felt feet"
    std::string name;  ///< as a shop calls it
    double stock = 0;  ///< pieces owned
    double pack = 1;   ///< pieces in a pack
    double price = 0;  ///< of a pack, workshop's currency
    double least = 0;  ///< pieces that should be there: fewer are low stock
    std::string package{}, place{}, note{}, supplier{}, photo{};
    std::string counted{};                     ///< day of the last count, ISO 8601; empty: never
    std::map<std::string, double> reserved{};  ///< pieces promised, by the batch that needs them

    double unit_price() const { return pack > 0 ? price / pack : 0; }
    double promised(std::string_view but_to = {}) const;  ///< pieces, without those of one batch
    /// Pieces that this batch may take: neither gone nor promised to others.
    double free_for(std::string_view batch) const;
    bool low() const { return least > 0 && stock - promised() < least; }
    bool operator==(const DrawerItem&) const = default;
};

Digest content_digest(const std::vector<DrawerItem>& items);

/// Usage error for an empty key, a text that is long or not plain, a number out of range, a pack of nothing,
/// or a day that is none.
Result<void> check(const DrawerItem& item);

/// Another item in the place of this key; with none the item goes.
struct DrawerChange {
    std::string key;
    std::optional<DrawerItem> item;
    bool operator==(const DrawerChange&) const = default;
};
/// The items after these changes, sorted by key.
std::vector<DrawerItem> with_changes(std::vector<DrawerItem> items, const std::vector<DrawerChange>& changes);
/// The changes that lead back.
std::vector<DrawerChange> inverse(const std::vector<DrawerItem>& items,
                                  const std::vector<DrawerChange>& changes);

/// By key, among items sorted by key; nullptr if there is none.
const DrawerItem* find_item(const std::vector<DrawerItem>& items, std::string_view key);
/// Values [Ω] of the resistors in stock, ascending.
std::vector<double> owned_resistors(const std::vector<DrawerItem>& items);
/// Likewise of capacitors of any kind [F].
std::vector<double> owned_capacitors(const std::vector<DrawerItem>& items);

}  // namespace elkit
