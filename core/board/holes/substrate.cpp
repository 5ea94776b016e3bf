#include "board/holes/substrate.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>

namespace elkit {
namespace {

// Rows of a breadboard from above: two rails, a gap, five holes, the channel of 7.62 mm, five holes, a gap,
// two rails. Its channel is two rows wide on the grid, so that a chip of 7.62 mm stands across it.
constexpr int rails_and_gap = 3, half = 5, channel = 2;
constexpr int with_rails = 2 * rails_and_gap + 2 * half + channel, without_rails = 2 * half + channel;

Substrate sized(Substrate::Kind kind, int columns, int rows) {
    return {kind, columns, rows, fmt::format("{} × {} holes", columns, rows), {}, {}, {}, {}, {}, {}};
}

bool has_rails(const Substrate& s) { return !s.rails.empty(); }
int board_rows(const Substrate& s) { return has_rails(s) ? with_rails : without_rails; }

/// What a row of a breadboard is: a letter, "+", "−" or nothing.
std::string row_of_breadboard(const Substrate& s, int row) {
    static constexpr std::array<const char*, with_rails> names{"+", "−", "",  "a", "b", "c", "d", "e", "",
                                                               "",  "f", "g", "h", "i", "j", "",  "+", "−"};
    const int in_board = row % board_rows(s);
    return names[static_cast<std::size_t>(has_rails(s) ? in_board : in_board + rails_and_gap)];
}

}  // namespace

bool Substrate::has(Hole h) const {
    if (!on_grid(h)) return false;
    if (std::any_of(off.begin(), off.end(), [&](const Box& b) { return b.contains(h.column, h.row); }))
        return false;
    return kind != Kind::sockets || !row_of_breadboard(*this, h.row).empty();
}

std::string Substrate::column_name(int column) const {
    if (kind == Kind::sockets) return std::to_string(column + 1);
    std::string letters;
    for (int c = column; c >= 0; c = c / 26 - 1)
        letters.insert(letters.begin(), static_cast<char>('A' + c % 26));
    return letters;
}

std::string Substrate::row_name(int row) const {
    return kind == Kind::sockets ? row_of_breadboard(*this, row) : std::to_string(row + 1);
}

std::string Substrate::name(Hole h) const {
    if (kind != Kind::sockets) return column_name(h.column) + row_name(h.row);
    const int boards = rows / board_rows(*this), board = h.row / board_rows(*this);
    const std::string row = row_name(h.row), which = boards > 1 ? fmt::format("{}:", board + 1) : "";
    if (row != "+" && row != "−") return which + column_name(h.column) + row;
    const bool upper = h.row % board_rows(*this) < rails_and_gap;
    return fmt::format("{}{}{}{}", which, row, column_name(h.column), upper ? "" : "'");
}

Substrate pad_substrate(int columns, int rows) { return sized(Substrate::Kind::pads, columns, rows); }

Substrate strip_substrate(int columns, int rows) {
    Substrate s = sized(Substrate::Kind::strips, columns, rows);
    for (int row = 0; row < rows; ++row) {
        s.groups.emplace_back();
        for (int column = 0; column < columns; ++column) s.groups.back().push_back({column, row});
    }
    return s;
}

const std::vector<BreadboardSize>& breadboard_sizes() {
    static const std::vector<BreadboardSize> all{{"small", "small, 17 columns, no rails", 17, false, 1},
                                                 {"half", "half size, 30 columns", 30, true, 1},
                                                 {"full", "full size, 63 columns", 63, true, 1},
                                                 {"two", "two of full size, joined", 63, true, 2},
                                                 {"four", "four of full size, joined", 63, true, 4}};
    return all;
}

Substrate breadboard(const BreadboardSize& size) {
    const int each = size.with_rails ? with_rails : without_rails;
    Substrate s{
        Substrate::Kind::sockets, size.columns, each * size.boards, size.name, {}, {}, {}, {}, {}, {}};
    const int first = size.with_rails ? rails_and_gap : 0;
    for (int board = 0; board < size.boards; ++board)
        for (int column = 0; column < size.columns; ++column)
            for (const int from : {first, first + half + channel}) {
                s.groups.emplace_back();
                for (int k = 0; k < half; ++k) s.groups.back().push_back({column, board * each + from + k});
            }
    for (int board = 0; size.with_rails && board < size.boards; ++board)
        for (const int row : {0, 1, each - 2, each - 1}) {
            s.rails.push_back(s.groups.size());
            s.groups.emplace_back();
            for (int column = 0; column < size.columns; ++column)
                s.groups.back().push_back({column, board * each + row});
        }
    return s;
}

}  // namespace elkit
