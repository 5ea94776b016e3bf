#pragma once
#include <compare>
#include <string>

namespace elkit {

inline constexpr double hole_pitch = 2.54;  ///< mm between holes

/// A hole of a board, counted from 0 at the top left of the component side.
struct Hole {
    int column = 0, row = 0;
    auto operator<=>(const Hole&) const = default;
};

/// Holes from one to the other, across and down.
inline int holes_between(Hole a, Hole b) {
    const int across = a.column > b.column ? a.column - b.column : b.column - a.column,
              down = a.row > b.row ? a.row - b.row : b.row - a.row;
    return across + down;
}

}  // namespace elkit
