// A trial as a board: layout → size, read-back, picture, wires.
#include <fmt/format.h>

#include <algorithm>

#include "board/holes/layout_query.hpp"
#include "board/trial/trial_board.hpp"

namespace elkit {
namespace {

/// What lies in the rails comes first, then from left to right.
void in_order(std::vector<Wire>& wires, const Substrate& board) {
    const auto rank = [&](const Wire& w) {
        const auto in_rail = [&](Hole h) {
            return board.row_name(h.row) == "+" || board.row_name(h.row) == "−";
        };
        return std::tuple(2 - in_rail(w.a) - in_rail(w.b), std::min(w.a, w.b));
    };
    for (Wire& w : wires)
        if (w.b < w.a) std::swap(w.a, w.b);
    std::sort(wires.begin(), wires.end(), [&](const Wire& a, const Wire& b) { return rank(a) < rank(b); });
}

Result<Board> make_trial_board(const Keyed<Circuit>& circuit, const BoardChoices& choices, const Ask& ask) {
    const std::string school =
        choices.wire_colours.empty() ? wire_schools().front().id : choices.wire_colours;
    if (std::none_of(wire_schools().begin(), wire_schools().end(),
                     [&](const auto& s) { return s.id == school; }))
        return Error{Fault::design, "/board/wire_colours", "there is no school \"" + school + "\"",
                     "use or length"};
    const auto parts = trial_parts(*circuit, choices);
    if (!parts) return parts.error();
    const auto layout = ask(HoleLayoutQuery{"trial", circuit, choices, trial_parts, lay_out_trial});
    if (!layout) return layout.error();
    HoleLayout l = *layout;
    in_order(l.wires, l.board);
    colour_wires(l, *circuit, school);
    Board b = board_of(l, parts.value());
    b.method = "trial";
    b.neighbours.clear();  // nothing is soldered
    b.sides.push_back({"Breadboard", draw_trial(l, parts.value())});
    int n = 0;
    double longest = 0;
    for (const Wire& w : l.wires) {
        const std::string from = l.board.name(w.a), to = l.board.name(w.b);
        longest = std::max(longest, wire_length(w));
        b.works.push_back({BoardWork::When::wire, fmt::format("plug.{}.{}", from, to),
                           fmt::format("Wire {}: {}, {:.0f} mm", ++n, w.colour, wire_length(w)),
                           fmt::format("From {} to {}: {}.", from, to, w.net), "",
                           fmt::format("wire:{}-{}", from, to)});
    }
    b.summary = fmt::format("{} wires, the longest {:.0f} mm", l.wires.size(), longest);
    return b;
}

}  // namespace

BoardMethod trial_method() {
    return {"trial",       "breadboard", "plugged together without solder", {}, make_trial_board, "none",
            "loose wires", false};
}

}  // namespace elkit
