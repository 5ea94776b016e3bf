#pragma once
#include <string>
#include <utility>
#include <vector>

#include "quantity/result.hpp"

namespace elkit {

/// Which lights of a grid of rows × columns are on.
struct GridPattern {
    int rows = 1, columns = 1;
    std::vector<bool> lit;  ///< row by row

    static GridPattern dark(int rows, int columns);
    bool at(int row, int column) const { return lit[static_cast<std::size_t>(row * columns + column)]; }
    void set(int row, int column, bool on) { lit[static_cast<std::size_t>(row * columns + column)] = on; }
    int count() const;
    bool operator==(const GridPattern&) const = default;
};

/// Reads "x..,.x." (rows by commas or line ends; x, #, 1 or * is lit; ., -, 0 or _ is dark). Usage error with
/// the row for another sign, rows of unequal length, or more than 64 of either.
Result<GridPattern> read_pattern(const std::string& text);

/// Rows and columns that are closed at the same time.
struct GridStep {
    std::vector<int> rows, columns;  ///< from 0
};

/// What a wish takes.
struct PatternAnswer {
    GridStep closed;                          ///< the rows and columns that plain switches must close for it
    GridPattern lights;                       ///< what they light: at least the wish
    std::vector<std::pair<int, int>> others;  ///< lit without being wished: row, column
    bool reachable() const { return others.empty(); }
    /// Steps in which a scanner shows exactly the wish, one after the other: each lights rows × columns that
    /// are all wished, together they light all of it. One if it is reachable, none if the wish is dark.
    std::vector<GridStep> scan;
};

/// With plain switches a light is on where its row and its column are closed, so a wish lights all crossings
/// of its rows and columns. The fewest steps of a scan are a smallest cover by rectangles of a 0-1 matrix,
/// which is hard in general (Orlin 1977); given is the best of: alike rows together, alike columns together,
/// and the largest rectangle first.
PatternAnswer answer_pattern(const GridPattern& wish);

}  // namespace elkit
