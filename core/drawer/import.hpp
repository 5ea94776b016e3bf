#pragma once
#include <string>
#include <vector>

#include "drawer/sheet.hpp"
#include "quantity/progress.hpp"

namespace elkit {

enum class ImportCounts { set, add };  ///< a stock that is read replaces the one known, or adds to it

struct ImportedRow {
    std::size_t line = 0;  ///< row of the table, from 1, its headings counted
    enum class Effect { fresh, changed, same, left_out } effect = Effect::left_out;
    DrawerItem item;   ///< as it will be
    std::string told;  ///< why it is left out, or how it was taken
};

struct ImportPlan {
    std::vector<ImportedRow> rows;
    std::size_t fresh = 0, changed = 0, same = 0, left_out = 0;
    std::vector<DrawerChange> changes() const;  ///< one for each key, the last word on it
};

/// What a sheet would do to these items. What the sheet does not tell stays as it is. Rows of the same part
/// are counted together. A part that no kind of the catalogue fits is taken by its name. Asks `progress` now
/// and then; where it says so the rest is not read.
ImportPlan plan_import(const DrawerSheet& sheet, const std::vector<DrawerItem>& known, ImportCounts counts,
                       const Progress& progress = {});

/// The part that these words mean ("4k7 resistor 1 %"), with none in stock; by its name where no kind of the
/// catalogue fits.
DrawerItem described_item(const std::string& words);

/// The stock that ships with Elkit.
std::vector<DrawerItem> demo_stock();

}  // namespace elkit
