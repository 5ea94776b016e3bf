#include <fmt/format.h>

#include <algorithm>

#include "board/holes/grouped_placer.hpp"
#include "board/holes/search.hpp"
#include "board/trial/trial_board.hpp"

namespace elkit {
namespace {

constexpr GroupedPlacer::Prices trial_prices{0, 6, 0.6};
constexpr double trial_takes = 0.5;

std::vector<int> owners(const Substrate& board, const Circuit& circuit) {
    const auto nets = circuit.nets();
    std::vector<int> all;
    for (const std::string& net : rail_nets(board, circuit)) {
        const auto at = std::find(nets.begin(), nets.end(), net);
        all.push_back(net.empty() || at == nets.end() ? -1 : static_cast<int>(at - nets.begin()));
    }
    return all;
}

/// Wires count most; then how far they go, how much of the board is taken, and how large it is.
double trial_score(const HoleLayout& l) {
    constexpr double wire = 10, hole = 0.8, size = 0.02, column = 0.5, apart = 400;
    double sum = size * l.columns() * l.rows();
    int first = l.columns(), last = 0;
    for (const PinHole& p : l.pins)
        first = std::min(first, p.hole.column), last = std::max(last, p.hole.column);
    for (const Wire& w : l.wires) sum += wire + hole * holes_between(w.a, w.b);
    std::vector<std::string> nets;
    for (const PinHole& p : l.pins)
        if (!p.net.empty()) nets.push_back(p.net);
    std::sort(nets.begin(), nets.end());
    nets.erase(std::unique(nets.begin(), nets.end()), nets.end());
    const double unjoined = static_cast<double>(extract_groups(l).size()) - static_cast<double>(nets.size());
    return sum + column * std::max(0, last - first) + apart * std::max(0.0, unjoined);
}

Result<std::vector<BoardTry>> tries(const BoardChoices& choices) {
    std::vector<BoardTry> all;
    std::string known;
    for (const BreadboardSize& size : breadboard_sizes()) {
        known += (known.empty() ? "" : ", ") + size.id;
        if (choices.breadboard.empty() || choices.breadboard == size.id)
            all.push_back({breadboard(size), 1, size.columns});
    }
    if (all.empty())
        return Error{Fault::design, "/board/breadboard",
                     "there is no breadboard \"" + choices.breadboard + "\"", known};
    return all;
}

}  // namespace

Result<HoleLayout> lay_out_trial(const HoleParts& parts, const BoardChoices& choices,
                                 const Progress& progress) {
    auto boards = tries(choices);
    if (!boards) return boards.error();
    const Circuit& circuit = *parts.circuit;
    const HoleSearch search{
        std::move(boards).value(),
        [&](const BoardTry& t, std::uint64_t seed) {
            return std::make_unique<GroupedPlacer>(parts, single_parts(parts), t.board, t.airy, seed,
                                                   trial_prices, owners(t.board, circuit));
        },
        [&](HoleLayout l, const HoleSearch::Care&) {
            join_trial(l, parts);
            return l;
        },
        trial_score,
        nullptr,
        false,
        false,
        trial_takes,
        "/board/breadboard",
        "a larger breadboard, or a trial of one string of each kind: the others repeat it"};
    auto best = best_layout(parts, search, progress);
    if (!best) return best;
    if (const auto differences = layout_differences(best.value(), circuit); !differences.empty())
        return Error{
            Fault::design, "/board/breadboard",
            fmt::format("on {} no free sockets are left: {}", best.value().board.size, differences.front()),
            "a larger breadboard, or the trial of fewer parts at a time"};
    return best;
}

}  // namespace elkit
