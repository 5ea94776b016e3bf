#pragma once
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "drawer/item.hpp"
#include "formats/csv.hpp"

/// The drawer as a table: out in one form, in from whatever spreadsheets and people make of it.
namespace elkit {

/// What a column of a table may be.
enum class ItemColumn {
    none,  ///< left out
    key,
    kind,
    name,
    value,
    tolerance,
    rating,
    package,
    stock,
    place,
    pack,
    price,       ///< of a pack
    unit_price,  ///< of one
    least,
    note,
    supplier,
    photo,
    counted
};
inline constexpr std::size_t item_columns = 18;
/// "stock"; "–" for none.
std::string_view heading_of(ItemColumn column);

/// All items with all that is told of them; reads back as the same.
std::string drawer_csv(const std::vector<DrawerItem>& items);

/// A table, with what its columns seem to mean; a person may mean otherwise.
struct DrawerSheet {
    CsvTable rows;  ///< behind the headings
    std::vector<std::string> titles;
    std::vector<ItemColumn> columns;
    bool headings = false;        ///< the first row named the columns
    bool decimal_commas = false;  ///< "1,20" is a number; else "1,200" is one
};
inline constexpr std::uintmax_t largest_table = 256u << 20;  ///< bytes of a file

/// Reads a text of commas, semicolons or tabs, with a heading row or without, in UTF-8, UTF-16 or Latin-1.
/// Usage error for an open quote, more than a million rows, or no row at all.
Result<DrawerSheet> read_drawer_sheet(std::string_view bytes);

/// The number in a cell as people write it: "1,20 €", "1.234,5", "12 pcs", "~40"; nothing if there is none.
std::optional<double> loose_number(std::string_view cell, bool decimal_commas);

}  // namespace elkit
