#include "board/pad/top_side.hpp"

#include <algorithm>

namespace elkit {
namespace {

/// Every hole from one end to the other of a straight way.
template <class Visit>
void each_between(Hole a, Hole b, Visit visit) {
    for (int row = std::min(a.row, b.row); row <= std::max(a.row, b.row); ++row)
        for (int column = std::min(a.column, b.column); column <= std::max(a.column, b.column); ++column)
            visit(Hole{column, row});
}

}  // namespace

TopSide::TopSide(const HoleLayout& l, const HoleParts& parts)
    : columns_(l.columns()), covered_(covered_holes(l, parts)) {}

bool TopSide::is_clear(Hole a, Hole b) const {
    bool clear = true;
    each_between(a, b, [&](Hole h) { clear &= is_clear(h); });
    return clear;
}

void TopSide::lay(Hole a, Hole b) {
    each_between(a, b, [&](Hole h) { covered_[place(h)] = 1; });
}

}  // namespace elkit
