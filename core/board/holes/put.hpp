#pragma once
#include <optional>
#include <vector>

#include "board/holes/search.hpp"

namespace elkit {

/// Design error: parts that stay lie over each other, or in an area that stays free.
std::optional<Error> what_cannot_stay(const HoleParts& parts);

/// The board of parts that were all put by hand: they lie there, but for what lies under one that stays,
/// which moves aside. Sides that are not chosen are as long as it takes. Design errors: parts that stay lie
/// over each other, or beside a board of chosen sides; there is no room to move aside.
Result<HoleLayout> layout_as_put(const HoleParts& parts, const BoardChoices& choices,
                                 const HoleSearch& search);

/// The tries of a search, each as large as what stays needs.
std::vector<BoardTry> round_what_stays(std::vector<BoardTry> tries, const HoleParts& parts,
                                       const BoardChoices& choices, const BoardMaker& board);

}  // namespace elkit
