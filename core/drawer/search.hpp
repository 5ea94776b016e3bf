#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "drawer/identity.hpp"
#include "drawer/item.hpp"

namespace elkit {

/// Which items of the drawer are asked for.
struct DrawerFilter {
    std::string words;      ///< each must stand somewhere in the item; "4k7" also finds 4.7 kΩ
    bool in_stock = false;  ///< at least one piece
    bool low = false;       ///< low stock
    bool reserved = false;  ///< promised to a batch
};

/// The items of a drawer, prepared for being searched at every key that is typed.
class DrawerIndex {
  public:
    DrawerIndex() = default;
    /// Takes over from the index before what a key told there, where most items are the same.
    explicit DrawerIndex(const std::vector<DrawerItem>& items, const DrawerIndex& before = {});
    const ItemWords& words(std::size_t at) const { return rows_[at].words; }
    /// Places of the items found, in the order of `items`, which are those of the constructor.
    std::vector<std::size_t> find(const std::vector<DrawerItem>& items, const DrawerFilter& filter) const;

  private:
    struct Row {
        std::string key;
        ItemWords words;
        std::string text;  ///< all its words in small letters
    };
    std::vector<Row> rows_;
};

/// The items found by a filter.
std::vector<DrawerItem> found_items(const std::vector<DrawerItem>& items, const DrawerFilter& filter);

/// Pieces, and what they are worth at their pack prices; how many items are low.
struct DrawerTotals {
    std::size_t kinds = 0, low = 0;
    double pieces = 0, worth = 0;
};
DrawerTotals totals(const std::vector<DrawerItem>& items);

}  // namespace elkit
