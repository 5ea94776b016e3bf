#include "board/holes/put.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "board/holes/candidate.hpp"

namespace elkit {
namespace {

/// Columns and rows from the corner to the last that parts need where they were put.
Hole extent(const HoleParts& parts, bool only_what_stays) {
    Hole last = parts.wishes.extent();
    for (const HolePart& p : parts.all) {
        if (!p.put || (only_what_stays && !p.stays)) continue;
        const Box b = room_taken(p, *p.put);
        last = {std::max(last.column, static_cast<int>(std::ceil(b.x1)) + 1),
                std::max(last.row, static_cast<int>(std::ceil(b.y1)) + 1)};
    }
    return last;
}

Error error(std::string found) {
    return {Fault::design, "/board/spots", std::move(found), "other places, or parts that need not stay"};
}

/// What is wrong with parts that stay on this board.
Error cannot_lie(const HoleParts& parts, const Substrate& board) {
    if (auto wrong = what_cannot_stay(parts)) return *wrong;
    for (const HolePart& a : parts.all) {
        if (!a.stays) continue;
        const Box x = room_taken(a, *a.put);
        const bool off =
            std::any_of(board.off.begin(), board.off.end(), [&](const Box& b) { return b.overlaps(x); });
        if (off || x.x0 < -1 || x.y0 < -1 || x.x1 > board.columns || x.y1 > board.rows)
            return error(fmt::format("{} lies beside the board of {}", a.part->designator, board.size));
    }
    return error(fmt::format("there is no room on {} beside the parts that stay", board.size));
}

}  // namespace

std::optional<Error> what_cannot_stay(const HoleParts& parts) {
    for (const HolePart& a : parts.all) {
        if (!a.stays) continue;
        const Box x = room_taken(a, *a.put);
        for (const Box& b : parts.wishes.free)
            if (b.overlaps(x))
                return error(fmt::format("{} lies in an area that stays free", a.part->designator));
        for (const HolePart& b : parts.all)
            if (&b != &a && b.stays && room_taken(b, *b.put).overlaps(x))
                return error(fmt::format("{} lies over {}", a.part->designator, b.part->designator));
    }
    return {};
}

Result<HoleLayout> layout_as_put(const HoleParts& parts, const BoardChoices& choices,
                                 const HoleSearch& search) {
    const Hole last = extent(parts, false);
    const int columns = choices.columns > 0 ? static_cast<int>(choices.columns) : last.column + room_to_move,
              rows = choices.rows > 0 ? static_cast<int>(choices.rows) : last.row + room_to_move;
    constexpr double airy = 2;
    Candidate candidate(parts, search, {search.board(columns, rows), airy, columns});
    switch (candidate.put()) {
        case Candidate::Put::no_room:
            return cannot_lie(parts, search.board(columns, rows));
        case Candidate::Put::not_to_be_joined:
            return error(
                "two nets meet in one strip with no hole between to cut, or one has no hole left for a wire");
        case Candidate::Put::fits:
            break;
    }
    return std::move(candidate.layout);
}

std::vector<BoardTry> round_what_stays(std::vector<BoardTry> tries, const HoleParts& parts,
                                       const BoardChoices& choices, const BoardMaker& board) {
    const Hole last = extent(parts, true);
    for (BoardTry& t : tries)
        t.board = board(choices.columns > 0 ? t.board.columns : std::max(t.board.columns, last.column),
                        choices.rows > 0 ? t.board.rows : std::max(t.board.rows, last.row));
    return tries;
}

}  // namespace elkit
