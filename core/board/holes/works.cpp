// What is to be done and bought for any board of holes.
#include "board/holes/works.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace elkit {
namespace {

constexpr double sheet_width = 160, sheet_height = 100;  // mm, as bought

struct WireWords {
    const char *id, *title, *text;
};
WireWords words_for(Wire::Kind kind) {
    switch (kind) {
        case Wire::Kind::jumper:
            return {"jumper", "Wire jumper",
                    "Insulated wire from {} to {}, on the solder side, joint to joint."};
        case Wire::Kind::link:
            return {"link", "Link", "Bare wire from {} to {}, straight and flat on the component side."};
        case Wire::Kind::plugged:
            break;
    }
    return {"plug", "Wire", "From {} to {}."};
}

}  // namespace

int beyond_sheet(const HoleLayout& l) {
    constexpr int across = static_cast<int>(sheet_width / hole_pitch),
                  down = static_cast<int>(sheet_height / hole_pitch);
    return std::max(0, std::max(l.columns(), l.rows()) - across) +
           std::max(0, std::min(l.columns(), l.rows()) - down);
}

void add_shape_works(Board& board, const HoleLayout& l) {
    const Substrate& s = l.board;
    if (!s.shape.empty())
        board.works.push_back({BoardWork::When::first, "prepare.shape", "Saw the board to its shape",
                               "Lay the print of the component side at true size on it, mark the outline, "
                               "saw beside it and file "
                               "to the line.",
                               "Wear eye protection; clamp the board, and saw away from your hands.", ""});
    if (s.screws.empty()) return;
    std::vector<std::string> places;
    for (const Substrate::Screw& screw : s.screws) places.push_back(s.name(screw.hole));
    board.works.push_back({BoardWork::When::first, "prepare.screws", "Drill the holes for screws",
                           fmt::format("To {:g} mm, at {}. No part and no joint comes under their heads.",
                                       s.screws.front().diameter, fmt::join(places, ", ")),
                           "Wear eye protection; clamp the board, never hold it by hand under the drill.",
                           ""});
}

BoardWork cut_out(const HoleLayout& l, const std::string& what, const std::string& how) {
    return {BoardWork::When::first,
            "prepare.board",
            "Cut the " + what,
            fmt::format("{} × {} holes, {:.0f} × {:.0f} mm. {}{}", l.columns(), l.rows(), l.board.width(),
                        l.board.height(), how,
                        beyond_sheet(l) > 0 ? fmt::format(" It is larger than a board of {:.0f} × {:.0f} mm: "
                                                          "buy one that holds it.",
                                                          sheet_height, sheet_width)
                                            : ""),
            "Board dust irritates: file outdoors or wipe wet, do not blow.",
            ""};
}

void add_wire_works(Board& board, const HoleLayout& l) {
    std::map<Wire::Kind, int> count;
    for (const Wire& w : l.wires) {
        const WireWords words = words_for(w.kind);
        const std::string a = l.board.name(w.a), b = l.board.name(w.b);
        board.works.push_back({w.kind == Wire::Kind::link ? BoardWork::When::link : BoardWork::When::wire,
                               fmt::format("{}.{}.{}", words.id, a, b),
                               fmt::format("{} {}", words.title, ++count[w.kind]),
                               fmt::format(fmt::runtime(words.text), a, b), "", "hole:" + a});
    }
}

void add_face_work(Board& board, const HoleParts& parts) {
    if (parts.face.furthest.empty()) return;
    constexpr double exact = 0.15;  // mm
    const std::string beside =
        parts.face.beside < exact
            ? "Their holes are where the face has them."
            : fmt::format(
                  "Holes are not quite where the face has them: {} stands furthest beside its place, by "
                  "{:.1f} mm.",
                  parts.face.furthest, parts.face.beside);
    board.works.push_back({BoardWork::When::join, "lights.face", "Set the lights to the face",
                           beside +
                               " Solder one leg of each, lay the face over them, lean each into its hole, "
                               "then solder the other legs.",
                           "", "part:" + parts.face.furthest});
}

Board::Effort effort_of(const HoleLayout& l) {
    // minutes, estimated for one who has done it before
    constexpr double prepare = 10, joint = 0.8, bridge = 0.3, wire = 2.5, link = 1.2, cut = 0.7;
    const auto count = [](std::size_t n) { return static_cast<double>(n); };
    return {prepare,
            joint * count(l.pins.size()) + bridge * count(l.bridges.size()) +
                wire * count(l.count(Wire::Kind::jumper)) + link * count(l.count(Wire::Kind::link)) +
                cut * count(l.cuts.size()),
            0, 0, 0};
}

BoardMaterial sheet_share(const Board& board, const std::string& key, const std::string& name) {
    const auto fit = [](double w, double h) {
        return std::max(1.0, std::floor(sheet_width / w) * std::floor(sheet_height / h));
    };
    return {key, name, board.size,
            1 / std::max(fit(board.width, board.height), fit(board.height, board.width))};
}

std::string counted(std::size_t count, const std::string& what) {
    return std::to_string(count) + " " + what + (count == 1 ? "" : "s");
}

}  // namespace elkit
