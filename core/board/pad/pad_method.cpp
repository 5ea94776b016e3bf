// The pad board as a board: layout → outline, read-back, pictures, work, material.
#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "board/holes/layout_query.hpp"
#include "board/holes/works.hpp"
#include "board/pad/kept_joints.hpp"
#include "board/pad/pad_board.hpp"

namespace elkit {
namespace {

/// The bridges of one net as straight runs "L2–L7", walked from an end.
std::vector<std::string> straight_runs(std::vector<Bridge> left, const Substrate& board) {
    std::vector<std::string> runs;
    const auto degree = [&](Hole h) {
        return std::count_if(left.begin(), left.end(), [&](const Bridge& b) { return b.a == h || b.b == h; });
    };
    while (!left.empty()) {
        Hole at = left.front().a;
        for (const Bridge& b : left)
            for (const Hole h : {b.a, b.b})
                if (degree(h) == 1) at = h;
        for (bool going = true; going;) {
            going = false;
            const Hole start = at;
            std::optional<Hole> step;
            for (std::size_t i = 0; i < left.size();) {
                const Bridge b = left[i];
                const Hole to = b.a == at ? b.b : b.a, move{to.column - at.column, to.row - at.row};
                if ((b.a != at && b.b != at) || (step && move != *step)) {
                    ++i;
                    continue;
                }
                step = move, at = to;
                left.erase(left.begin() + static_cast<std::ptrdiff_t>(i));
                i = 0;
            }
            if (at != start) runs.push_back(board.name(start) + "–" + board.name(at)), going = true;
        }
    }
    return runs;
}

/// Bridges that touch each other, together.
std::vector<std::vector<Bridge>> bridge_groups(const std::vector<Bridge>& bridges) {
    std::vector<std::vector<Bridge>> groups;
    std::vector<bool> used(bridges.size());
    for (std::size_t i = 0; i < bridges.size(); ++i) {
        if (used[i]) continue;
        std::vector<Bridge> group{bridges[i]};
        used[i] = true;
        for (bool grown = true; grown;) {
            grown = false;
            for (std::size_t k = 0; k < bridges.size(); ++k) {
                const Bridge& b = bridges[k];
                const bool touches =
                    !used[k] && std::any_of(group.begin(), group.end(), [&](const Bridge& g) {
                        return g.a == b.a || g.a == b.b || g.b == b.a || g.b == b.b;
                    });
                if (touches) group.push_back(b), used[k] = true, grown = true;
            }
        }
        groups.push_back(std::move(group));
    }
    return groups;
}

void add_pad_works(Board& board, const HoleLayout& l) {
    board.works.push_back(
        cut_out(l, "pad board", "Score along a row of holes, break over an edge, smooth with a file."));
    add_shape_works(board, l);
    const auto nets = hole_nets(l);
    for (const auto& group : bridge_groups(l.bridges)) {
        std::set<Hole> holes;
        for (const Bridge& b : group) holes.insert(b.a), holes.insert(b.b);
        const std::string& net = nets.at(*holes.begin());
        board.works.push_back(
            {BoardWork::When::join, fmt::format("bridge.{}.{}", net, l.board.name(*holes.begin())),
             fmt::format("Join {} pads of {}", holes.size(), net),
             fmt::format("{} {}, on the solder side. Nothing else may touch it.",
                         holes.size() > 3 ? "Lay bare tinned wire along" : "Bridge with solder",
                         fmt::join(straight_runs(group, l.board), ", ")),
             "", "net:" + net});
    }
    add_wire_works(board, l);
}

Result<Board> make_pad_board(const Keyed<Circuit>& circuit, const BoardChoices& choices, const Ask& ask) {
    const auto parts = hole_parts(*circuit, choices);
    if (!parts) return parts.error();
    const auto layout = ask(HoleLayoutQuery{"pad", circuit, choices, hole_parts, lay_out_pads});
    if (!layout) return layout.error();
    const HoleLayout& l = *layout;
    Board b = board_of(l, parts.value());
    add_sides(b, l, parts.value());
    b.method = "pad";
    b.effort = effort_of(l);
    b.ways = ways_of_pads(l);
    add_face_work(b, parts.value());
    add_pad_works(b, l);
    b.materials.push_back(sheet_share(b, "board/pad", "pad board 100 × 160 mm"));
    b.materials.push_back({"wire/tinned", "tinned wire 0.5 mm, 1 m", "", 0.2});
    b.summary =
        fmt::format("{}, {}, {}, {} to keep clear", counted(l.bridges.size(), "joint"),
                    counted(l.count(Wire::Kind::link), "link"),
                    counted(l.count(Wire::Kind::jumper), "jumper"), counted(isolation_gaps(l).size(), "gap"));
    if (!l.board.shape.empty()) b.summary = l.board.shape + ", " + b.summary;
    return b;
}

}  // namespace

BoardMethod pad_method() {
    return {"pad",
            "pad board",
            "2.54 mm grid, joined by solder and wire on the back",
            {"columns", "rows", "corner_holes"},
            make_pad_board,
            "iron, side cutter",
            "a joint too much or too few: each is made by hand",
            true,
            false,
            true};
}

}  // namespace elkit
