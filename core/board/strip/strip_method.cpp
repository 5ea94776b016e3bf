// The strip board as a board: layout → outline, read-back, pictures, work, material.
#include <fmt/format.h>

#include "board/holes/layout_query.hpp"
#include "board/holes/works.hpp"
#include "board/strip/strip_board.hpp"

namespace elkit {
namespace {

void add_strip_works(Board& board, const HoleLayout& l) {
    board.works.push_back(
        cut_out(l, "strip board",
                "The strips run along its rows. Saw it, or score it deeply across the strips and break it."));
    add_shape_works(board, l);
    std::string holes;
    for (const Hole h : l.cuts) holes += (holes.empty() ? "" : ", ") + l.board.name(h);
    if (!l.cuts.empty())
        board.works.push_back(
            {BoardWork::When::first, "cuts", fmt::format("Cut the strips at {} holes", l.cuts.size()),
             fmt::format(
                 "Turn the board over: columns count from the right there. Mark and check each hole first, "
                 "then turn a 4 mm drill in it by hand until the copper is gone all across: {}. Beep "
                 "across every cut: silent.",
                 holes),
             "Copper burrs cut fingers and join strips: brush them off, look along every cut with a "
             "magnifier.",
             ""});
    add_wire_works(board, l);
}

Result<Board> make_strip_board(const Keyed<Circuit>& circuit, const BoardChoices& choices, const Ask& ask) {
    const auto parts = hole_parts(*circuit, choices);
    if (!parts) return parts.error();
    const auto layout = ask(HoleLayoutQuery{"strip", circuit, choices, hole_parts, lay_out_strips});
    if (!layout) return layout.error();
    const HoleLayout& l = *layout;
    Board b = board_of(l, parts.value());
    add_sides(b, l, parts.value());
    b.method = "strip";
    b.effort = effort_of(l);
    add_face_work(b, parts.value());
    add_strip_works(b, l);
    b.materials.push_back(sheet_share(b, "board/strip", "strip board 100 × 160 mm"));
    if (l.count(Wire::Kind::link) > 0)
        b.materials.push_back({"wire/tinned", "tinned wire 0.5 mm, 1 m", "", 0.1});
    b.summary = fmt::format("{}, {}, {}, {} to keep clear", counted(l.cuts.size(), "cut"),
                            counted(static_cast<std::size_t>(l.count(Wire::Kind::link)), "link"),
                            counted(static_cast<std::size_t>(l.count(Wire::Kind::jumper)), "jumper"),
                            counted(isolation_gaps(l).size(), "gap"));
    if (!l.board.shape.empty()) b.summary = l.board.shape + ", " + b.summary;
    return b;
}

}  // namespace

BoardMethod strip_method() {
    return {"strip",
            "strip board",
            "2.54 mm grid, strips of copper along the rows, cut where they must not join",
            {"columns", "rows", "corner_holes"},
            make_strip_board,
            "iron, 4 mm drill in the hand, side cutter",
            "a cut that is not through, or a hair of solder between strips",
            true,
            false,
            true};
}

}  // namespace elkit
