#include "planning/grid_patterns.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <bitset>

namespace elkit {
namespace {

constexpr int most_lines = 64;
using Bits = std::bitset<most_lines>;

std::size_t index(int k) { return static_cast<std::size_t>(k); }

/// Its columns, row by row.
std::vector<Bits> by_rows(const GridPattern& p) {
    std::vector<Bits> rows(index(p.rows));
    for (int r = 0; r < p.rows; ++r)
        for (int c = 0; c < p.columns; ++c) rows[index(r)][index(c)] = p.at(r, c);
    return rows;
}

std::vector<int> set_bits(const Bits& bits) {
    std::vector<int> all;
    for (int k = 0; k < most_lines; ++k)
        if (bits[index(k)]) all.push_back(k);
    return all;
}

/// Rows with the same columns at once.
std::vector<GridStep> alike_rows(const GridPattern& p) {
    std::vector<std::pair<Bits, GridStep>> groups;
    const auto rows = by_rows(p);
    for (int r = 0; r < p.rows; ++r) {
        const Bits& columns = rows[index(r)];
        if (columns.none()) continue;
        const auto known =
            std::find_if(groups.begin(), groups.end(), [&](const auto& g) { return g.first == columns; });
        if (known == groups.end())
            groups.push_back({columns, {{r}, set_bits(columns)}});
        else
            known->second.rows.push_back(r);
    }
    std::vector<GridStep> steps;
    for (auto& group : groups) steps.push_back(std::move(group.second));
    return steps;
}

GridPattern turned(const GridPattern& p) {
    GridPattern t = GridPattern::dark(p.columns, p.rows);
    for (int r = 0; r < p.rows; ++r)
        for (int c = 0; c < p.columns; ++c) t.set(c, r, p.at(r, c));
    return t;
}

/// The rectangle within the wish that covers most of what is still dark, again and again. Rectangles that
/// need be tried have the columns that some rows have in common; those of one row and of pairs are tried.
std::vector<GridStep> largest_first(const GridPattern& p) {
    const auto wished = by_rows(p);
    auto left = wished;
    std::vector<GridStep> steps;
    for (;;) {
        GridStep best;
        std::size_t most = 0;
        for (std::size_t a = 0; a < wished.size(); ++a)
            for (std::size_t b = a; b < wished.size(); ++b) {
                const Bits columns = wished[a] & wished[b];
                if (columns.none()) continue;
                std::size_t gain = 0;
                GridStep step{{}, set_bits(columns)};
                for (std::size_t r = 0; r < wished.size(); ++r)
                    if ((wished[r] & columns) == columns)
                        step.rows.push_back(static_cast<int>(r)), gain += (left[r] & columns).count();
                if (gain > most) most = gain, best = std::move(step);
            }
        if (most == 0) return steps;
        for (const int r : best.rows)
            for (const int c : best.columns) left[index(r)][index(c)] = false;
        steps.push_back(std::move(best));
    }
}

}  // namespace

GridPattern GridPattern::dark(int rows, int columns) {
    return {rows, columns, std::vector<bool>(index(rows * columns), false)};
}

int GridPattern::count() const { return static_cast<int>(std::count(lit.begin(), lit.end(), true)); }

Result<GridPattern> read_pattern(const std::string& text) {
    std::vector<std::vector<bool>> rows(1);
    for (const char c : text) {
        if (c == ',' || c == '\n' || c == ';') {
            rows.emplace_back();
            continue;
        }
        if (c == ' ' || c == '\r' || c == '\t') continue;
        const bool lit = std::string("xX#1*").find(c) != std::string::npos;
        if (!lit && std::string(".-0_").find(c) == std::string::npos)
            return Error{Fault::usage, fmt::format("pattern, row {}", rows.size()), std::string(1, c),
                         "x for lit, . for dark, such as x..,.x."};
        rows.back().push_back(lit);
    }
    while (rows.size() > 1 && rows.back().empty()) rows.pop_back();
    const std::size_t columns = rows.front().size();
    if (columns == 0) return Error{Fault::usage, "pattern", "it is empty", "rows such as x..,.x."};
    if (rows.size() > most_lines || columns > most_lines)
        return Error{Fault::usage, "pattern", fmt::format("{} × {}", rows.size(), columns),
                     fmt::format("{} rows and columns at most", most_lines)};
    auto pattern = GridPattern::dark(static_cast<int>(rows.size()), static_cast<int>(columns));
    for (std::size_t r = 0; r < rows.size(); ++r) {
        if (rows[r].size() != columns)
            return Error{Fault::usage, fmt::format("pattern, row {}", r + 1),
                         fmt::format("{} lights", rows[r].size()),
                         fmt::format("{} as in the first", columns)};
        for (std::size_t c = 0; c < columns; ++c)
            pattern.set(static_cast<int>(r), static_cast<int>(c), rows[r][c]);
    }
    return pattern;
}

PatternAnswer answer_pattern(const GridPattern& wish) {
    PatternAnswer answer;
    answer.lights = GridPattern::dark(wish.rows, wish.columns);
    Bits columns;
    const auto rows = by_rows(wish);
    for (int r = 0; r < wish.rows; ++r) {
        columns |= rows[index(r)];
        if (rows[index(r)].any()) answer.closed.rows.push_back(r);
    }
    answer.closed.columns = set_bits(columns);
    for (const int r : answer.closed.rows)
        for (const int c : answer.closed.columns) {
            answer.lights.set(r, c, true);
            if (!wish.at(r, c)) answer.others.emplace_back(r, c);
        }
    answer.scan = alike_rows(wish);
    auto columns_at_once = alike_rows(turned(wish));
    for (GridStep& step : columns_at_once) std::swap(step.rows, step.columns);
    if (columns_at_once.size() < answer.scan.size()) answer.scan = std::move(columns_at_once);
    if (auto greedy = largest_first(wish); greedy.size() < answer.scan.size())
        answer.scan = std::move(greedy);
    return answer;
}

}  // namespace elkit
