// The pad board as a board: layout → outline, read-back, pictures, work, material.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

#include "board/pad/layout.hpp"

namespace elkit {
namespace {

constexpr double sheet_width = 160, sheet_height = 100;  // mm, the pad board as bought

/// The bridges of one net as straight runs "L2–L7", walked from an end.
std::vector<std::string> straight_runs(std::vector<Bridge> left) {
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
            if (at != start) runs.push_back(hole_name(start) + "–" + hole_name(at)), going = true;
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

void add_works(Board& board, const PadLayout& l) {
    board.works.push_back(
        {BoardWork::When::first, "prepare.board", "Cut the pad board",
         fmt::format(
             "{} × {} holes, {:.0f} × {:.0f} mm. Score along a row of holes, break over an edge, smooth "
             "with a file.",
             l.columns, l.rows, l.width(), l.height()),
         "Board dust irritates: file outdoors or wipe wet, do not blow.", ""});
    const auto nets = pad_nets(l);
    for (const auto& group : bridge_groups(l.bridges)) {
        std::set<Hole> holes;
        for (const Bridge& b : group) holes.insert(b.a), holes.insert(b.b);
        const std::string& net = nets.at(*holes.begin());
        board.works.push_back(
            {BoardWork::When::join, fmt::format("bridge.{}.{}", net, hole_name(*holes.begin())),
             fmt::format("Join {} pads of {}", holes.size(), net),
             fmt::format("{} {}, on the solder side. Nothing else may touch it.",
                         holes.size() > 3 ? "Lay bare tinned wire along" : "Bridge with solder",
                         fmt::join(straight_runs(group), ", ")),
             "", "net:" + net});
    }
    int n = 0;
    for (const Jumper& j : l.jumpers)
        board.works.push_back(
            {BoardWork::When::wire, fmt::format("jumper.{}.{}", hole_name(j.a), hole_name(j.b)),
             fmt::format("Wire jumper {}", ++n),
             fmt::format("Insulated wire from {} to {}, on the solder side, joint to joint.", hole_name(j.a),
                         hole_name(j.b)),
             "", ""});
}

/// Boards that one bought sheet gives, whichever way round.
double boards_a_sheet(double width, double height) {
    const auto fit = [](double w, double h) {
        return std::max(1.0, std::floor(sheet_width / w) * std::floor(sheet_height / h));
    };
    return std::max(fit(width, height), fit(height, width));
}

Result<Board> make(const Circuit& circuit, const BoardChoices& choices, const Progress& progress) {
    auto laid = lay_out_board(circuit, choices, progress);
    if (!laid) return laid.error();
    const PadLayout& l = laid.value();
    Board b;
    b.method = "pad";
    b.width = l.width(), b.height = l.height();
    b.size = fmt::format("{} × {} holes", l.columns, l.rows);
    for (const PinHole& pin : l.pins)
        b.pins.push_back({pin.designator, pin.pin, pin.net, hole_name(pin.hole)});
    for (const Part& part : circuit.parts)
        if (is(part, Role::on_leads) || footprint(part).id == "wires") b.on_wires.push_back(part.designator);
    b.groups = extract_groups(l);
    b.differences = layout_differences(l, circuit);
    const auto nets = pad_nets(l);
    std::map<std::pair<std::string, std::string>, std::vector<std::string>> gaps;
    for (const Bridge& gap : isolation_gaps(l))
        gaps[std::minmax(nets.at(gap.a), nets.at(gap.b))].push_back(hole_name(gap.a) + "|" +
                                                                    hole_name(gap.b));
    for (auto& [pair, places] : gaps) b.neighbours.push_back({pair.first, pair.second, std::move(places)});
    for (Drawing side : {draw_component_side(l, circuit), draw_solder_side(l, circuit)}) {
        std::string title = side.title;
        b.sides.push_back({std::move(title), std::move(side)});
    }
    add_works(b, l);
    b.materials.push_back(
        {"board/pad", "pad board 100 × 160 mm", b.size, 1 / boards_a_sheet(b.width, b.height)});
    b.materials.push_back({"wire/tinned", "tinned wire 0.5 mm, 1 m", "", 0.2});
    b.summary = fmt::format("{} joints, {} jumpers, {} gaps to keep clear", l.bridges.size(),
                            l.jumpers.size(), isolation_gaps(l).size());
    return b;
}

}  // namespace

BoardMethod pad_method() {
    return {
        "pad", "pad board", "2.54 mm grid, joined by solder and wire on the back", {"columns", "rows"}, make};
}

}  // namespace elkit
