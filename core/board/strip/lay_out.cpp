#include <algorithm>

#include "board/holes/grouped_placer.hpp"
#include "board/holes/put.hpp"
#include "board/holes/search.hpp"
#include "board/holes/shape.hpp"
#include "board/holes/works.hpp"
#include "board/strip/strip_board.hpp"

namespace elkit {
namespace {

constexpr GroupedPlacer::Prices strip_prices{2, 5, 0.25};
constexpr double strips_room = 1.3;  // that links and cuts take beside what parts do on pads
constexpr double strips_take = 0.3;

/// Legs in a line stand across the strips, each on its own.
int longest_line(const HoleParts& parts) {
    int longest = 4;
    for (const HolePart& p : parts.all) {
        const auto& pins = p.shapes.front().pins;
        if (pins.size() < 3) continue;
        const auto [a, b] = std::minmax_element(pins.begin(), pins.end(), [](const auto& x, const auto& y) {
            return x.second.column < y.second.column;
        });
        longest = std::max(longest, b->second.column - a->second.column);
    }
    return longest + 1;
}

/// What a board costs in work, as joints on pads do.
double strip_score(const HoleLayout& l) {
    constexpr double jumper = 40, link = 6, cut = 2.5, hole = 0.5, link_hole = 0.2, beyond = 10;
    double sum = jumper * static_cast<double>(l.count(Wire::Kind::jumper)) +
                 cut * static_cast<double>(l.cuts.size()) + hole * l.columns() * l.rows() +
                 beyond * beyond_sheet(l);
    for (const Wire& w : l.wires)
        if (w.kind == Wire::Kind::link) sum += link + link_hole * holes_between(w.a, w.b);
    return sum;
}

BoardFamily family_of(const HoleParts& parts, const BoardMaker& board) {
    return {board, strips_room, longest_line(parts) + 1, StringShape::stairs};
}

Result<HoleLayout> lay_out_on(const HoleParts& parts, const BoardChoices& choices, const BoardMaker& board,
                              const Progress& progress) {
    const bool stay = parts.any_fixed();
    constexpr std::size_t few = 16;  // nets, of which joining takes little
    const int orders = parts.circuit->nets().size() <= few ? 8 : 3;
    HoleSearch search{
        round_what_stays(board_tries(parts, choices, family_of(parts, board)), parts, choices, board),
        [&](const BoardTry& t, std::uint64_t seed) {
            return std::make_unique<GroupedPlacer>(parts, clusters(parts, t.widest, StringShape::stairs),
                                                   t.board, t.airy, seed, strip_prices);
        },
        [&](HoleLayout l, const HoleSearch::Care& care) {
            const auto cropped = [&](HoleLayout& whole) {
                crop(whole, parts, choices.columns == 0, choices.rows == 0, board);
            };
            HoleLayout close = l;
            join_strips(l, parts, care.thorough ? orders : 2);
            cropped(l);
            if (!parts.all_put()) return l;
            cropped(close);  // links go round the parts only where that is worth the room
            join_strips(close, parts, orders);
            return strip_score(close) < strip_score(l) ? close : l;
        },
        strip_score,
        board,
        choices.columns == 0 && !stay,
        choices.rows == 0 && !stay,
        strips_take};
    if (stay) search.larger = "other places for what stays, or a larger board";
    if (auto wrong = what_cannot_stay(parts)) return *wrong;
    if (parts.all_put()) return layout_as_put(parts, choices, search);
    auto best = best_layout(parts, search, progress);
    const bool turned_alike = choices.shape != "outline";
    if (best && !stay && turned_alike) turn_to_read(best.value(), *parts.circuit);
    return best;
}

}  // namespace

Result<HoleLayout> lay_out_strips(const HoleParts& parts, const BoardChoices& choices,
                                  const Progress& progress) {
    return on_chosen_board(parts, choices, family_of(parts, strip_substrate), lay_out_on, progress);
}

}  // namespace elkit
