#include "board/holes/put.hpp"
#include "board/holes/search.hpp"
#include "board/holes/shape.hpp"
#include "board/holes/works.hpp"
#include "board/pad/kept_joints.hpp"
#include "board/pad/pad_board.hpp"
#include "board/pad/pad_placer.hpp"

namespace elkit {
namespace {

// joints; the last for each hole that it is longer than boards are sold
constexpr double jumper_price = 40, bare_price = 15, hole_price = 0.5, beyond_price = 10;

double pad_score(const HoleLayout& l) {
    return jumper_price * static_cast<double>(l.count(Wire::Kind::jumper)) +
           bare_price * static_cast<double>(l.count(Wire::Kind::link)) + hole_price * l.columns() * l.rows() +
           beyond_price * beyond_sheet(l) + static_cast<double>(l.bridges.size());
}

Result<HoleLayout> lay_out_on(const HoleParts& parts, const BoardChoices& choices, const BoardMaker& board,
                              const Progress& progress) {
    const bool stay = parts.any_fixed();
    const auto kept =
        choices.ways_by == "pad" && parts.all_put() ? read_pad_ways(choices.ways, parts.shift) : KeptJoints{};
    HoleSearch search{
        round_what_stays(board_tries(parts, choices, BoardFamily{board}), parts, choices, board),
        [&](const BoardTry& t, std::uint64_t seed) {
            return std::make_unique<PadPlacer>(parts, clusters(parts, t.widest), t.board, t.airy, seed);
        },
        [&](HoleLayout l, const HoleSearch::Care& care) {
            if (!kept.joints.empty())
                mend_board(l, kept, TopSide(l, parts));
            else
                route_board(l, {care.thorough ? RouteEffort::thorough : RouteEffort::quick, care.wires,
                                TopSide(l, parts)});
            crop(l, parts, choices.columns == 0, choices.rows == 0, board);
            return l;
        },
        pad_score,
        board,
        choices.columns == 0 && !stay,
        choices.rows == 0 && !stay};
    if (stay) search.larger = "other places for what stays, or a larger board";
    if (auto wrong = what_cannot_stay(parts)) return *wrong;
    if (parts.all_put()) return layout_as_put(parts, choices, search);
    auto best = best_layout(parts, search, progress);
    const bool turned_alike = choices.shape != "outline";
    if (best && !stay && turned_alike) turn_to_read(best.value(), *parts.circuit);
    return best;
}

}  // namespace

Result<HoleLayout> lay_out_pads(const HoleParts& parts, const BoardChoices& choices,
                                const Progress& progress) {
    return on_chosen_board(parts, choices, BoardFamily{pad_substrate}, lay_out_on, progress);
}

}  // namespace elkit
