#pragma once
#include <algorithm>
#include <vector>

#include "drawing/stave.hpp"
#include "drawing/stave_runs.hpp"

namespace elkit {

/// A column with the lines it stands on.
struct PlacedColumn {
    StaveColumn drawn;
    std::vector<int> rows;  ///< every row a dot of this column stands on
    bool alone = false;     ///< no other column may stand above or below it
    int top() const { return *std::min_element(rows.begin(), rows.end()); }
    int bottom() const { return *std::max_element(rows.begin(), rows.end()); }
};

struct StaveColumns {
    std::vector<PlacedColumn> columns;
    std::size_t sources = 0;  ///< how many of them, at the front, hold sources
};

/// The columns in the circuit's order: sources, bodies with what hangs on their legs, then all other runs;
/// three or more that are alike are one. Looks up the rows of `layout`.
StaveColumns stave_columns(const Circuit& circuit, std::vector<StaveRun> runs, const StaveLayout& layout);

}  // namespace elkit
