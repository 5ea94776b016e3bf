#include "design/board_file.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <set>
#include <sstream>

#include "design/json_text.hpp"

namespace elkit {
namespace {
using Json = nlohmann::ordered_json;

constexpr double longest_side = 500;  // mm of a board of copper

/// The part that an entry of a list is about; each stands there once.
std::string part_of(JsonReader& entry, std::set<std::string>& seen) {
    entry.require("part", "a designator of the circuit");
    std::string part = entry.text("part", "");
    if (!seen.insert(part).second) entry.error("part", part + " stands here twice", "each part once");
    return part;
}

void read_parts(JsonReader& b, BoardChoices& board) {
    std::set<std::string> mounted, put;
    b.list("parts", [&](JsonReader& p) {
        PartMount mount;
        mount.part = part_of(p, mounted);
        mount.footprint = p.text("footprint", ""), mount.place = p.text("place", "");
        mount.legs = p.text("legs", "");
        mount.extra = p.rest();
        board.parts.push_back(std::move(mount));
    });
    b.list("spots", [&](JsonReader& p) {
        PartSpot spot;
        spot.part = part_of(p, put);
        spot.x = p.number("x", 0, -longest_side, longest_side);
        spot.y = p.number("y", 0, -longest_side, longest_side);
        spot.turn = p.number("turn", 0, -360, 360), spot.locked = p.boolean("locked", true);
        spot.span = p.number("span", 0, 0, longest_side);
        spot.extra = p.rest();
        board.spots.push_back(std::move(spot));
    });
}

constexpr std::array<const char*, 3> sides{"solder", "component", "link"};  // as WayCorner::On

/// "solder 10.16 5.08 12.7 5.08 component 12.7 5.08": corners, each side named where it begins.
std::string way_text(const TrackWay& way) {
    std::string text;
    for (std::size_t k = 0; k < way.corners.size(); ++k) {
        const WayCorner& c = way.corners[k];
        if (k > 0) text += ' ';
        if (k == 0 || c.on != way.corners[k - 1].on)
            text += std::string(sides[static_cast<std::size_t>(c.on)]) + ' ';
        text += fmt::format("{:.7g} {:.7g}", c.x, c.y);
    }
    return text;
}

void read_way(JsonReader& w, TrackWay& way) {
    constexpr std::size_t most_corners = 2000;
    w.require("net", "a net of the circuit"), w.require("way", "corners of a track");
    way.net = w.text("net", "");
    const std::string text = w.prose("way", "");
    std::istringstream in(text);
    WayCorner corner;
    bool sided = false;
    for (std::string word; in >> word;) {
        const auto side = std::find(sides.begin(), sides.end(), word);
        if (side != sides.end()) {
            corner.on = static_cast<WayCorner::On>(side - sides.begin()), sided = true;
            continue;
        }
        std::istringstream x(word);
        const bool number = (x >> corner.x) && x.eof() && (in >> corner.y);
        const auto on_board = [](double mm) { return mm >= 0 && mm <= longest_side; };
        if (!number || !sided || !on_board(corner.x) || !on_board(corner.y) ||
            way.corners.size() >= most_corners) {
            way.corners.clear();
            return w.error("way", "\"" + word + "\"",
                           "a side (solder, component, link), then mm from the left and from above of each "
                           "corner: solder 10.16 5.08 12.7 5.08");
        }
        way.corners.push_back(corner);
    }
}

void read_drawn(JsonReader& b, BoardChoices& board) {
    b.list("keep_out", [&](JsonReader& k) {
        KeepOut keep;
        keep.x = k.number("x", 0, 0, longest_side), keep.y = k.number("y", 0, 0, longest_side);
        keep.width = k.number("width", 0, 0, longest_side);
        keep.height = k.number("height", 0, 0, longest_side);
        keep.extra = k.rest();
        board.keep_out.push_back(std::move(keep));
    });
    b.list("pulls", [&](JsonReader& p) {
        TrackPull pull;
        p.require("net", "a net of the circuit");
        pull.net = p.text("net", "");
        pull.x = p.number("x", 0, 0, longest_side), pull.y = p.number("y", 0, 0, longest_side);
        pull.component_side = p.choice("side", "solder", {"solder", "component"}) == "component";
        pull.extra = p.rest();
        board.pulls.push_back(std::move(pull));
    });
    board.ways_by = b.text("ways_by", "");
    b.list("ways", [&](JsonReader& w) {
        TrackWay way;
        read_way(w, way);
        way.extra = w.rest();
        board.ways.push_back(std::move(way));
    });
    b.list("texts", [&](JsonReader& t) {
        BoardText text;
        text.x = t.number("x", 0, 0, longest_side), text.y = t.number("y", 0, 0, longest_side);
        text.anywhere = t.boolean("anywhere", false);
        text.size = t.number("size", text.size, 0.5, 50), text.text = t.text("text", "");
        text.extra = t.rest();
        board.texts.push_back(std::move(text));
    });
}

}  // namespace

void read_board(JsonReader& b, BoardChoices& board) {
    board.method = b.text("method", board.method);
    board.columns = b.number("columns", 0, 0, 200), board.rows = b.number("rows", 0, 0, 200);
    board.breadboard = b.text("breadboard", ""), board.wire_colours = b.text("wire_colours", "");
    board.width = b.number("width", 0, 0, longest_side),
    board.height = b.number("height", 0, 0, longest_side);
    board.shape = b.choice("shape", "", {"", "rectangle", "rounded", "round", "outline"});
    board.outline = b.prose("outline", "");
    board.layers = b.number("layers", 0, 0, 2), board.track = b.number("track", 0, 0, 20);
    board.corner_holes = b.number("corner_holes", 0, 0, 10);
    board.area = b.text("area", ""), board.lights = b.choice("lights", "", {"", "free", "face"});
    board.panel_across = b.number("panel_across", 1, 1, 20),
    board.panel_down = b.number("panel_down", 1, 1, 20);
    board.panel_parting = b.choice("panel_parting", "", {"", "score", "tabs"});
    read_parts(b, board);
    read_drawn(b, board);
    board.extra = b.rest();
}

Json write_board(const BoardChoices& board) {
    Json j;
    j["method"] = board.method;
    j["columns"] = json_number(board.columns), j["rows"] = json_number(board.rows);
    for (const auto& [key, word] : {std::pair{"breadboard", &board.breadboard},
                                    {"wire_colours", &board.wire_colours},
                                    {"shape", &board.shape},
                                    {"outline", &board.outline},
                                    {"area", &board.area},
                                    {"lights", &board.lights},
                                    {"panel_parting", &board.panel_parting}})
        if (!word->empty()) j[key] = *word;
    for (const auto& [key, number] : {std::pair{"width", board.width},
                                      {"height", board.height},
                                      {"layers", board.layers},
                                      {"track", board.track},
                                      {"corner_holes", board.corner_holes}})
        if (number != 0) j[key] = json_number(number);
    if (board.panel_across != 1) j["panel_across"] = json_number(board.panel_across);
    if (board.panel_down != 1) j["panel_down"] = json_number(board.panel_down);
    for (const PartMount& m : board.parts) {
        Json mount{{"part", m.part}};
        for (const auto& [key, word] :
             {std::pair{"footprint", &m.footprint}, {"place", &m.place}, {"legs", &m.legs}})
            if (!word->empty()) mount[key] = *word;
        append_extra(mount, m.extra);
        j["parts"].push_back(std::move(mount));
    }
    for (const PartSpot& s : board.spots) {
        Json spot{{"part", s.part}, {"x", json_number(s.x)}, {"y", json_number(s.y)}};
        if (s.turn != 0) spot["turn"] = json_number(s.turn);
        if (!s.locked) spot["locked"] = false;
        if (s.span > 0) spot["span"] = json_number(s.span);
        append_extra(spot, s.extra);
        j["spots"].push_back(std::move(spot));
    }
    for (const KeepOut& k : board.keep_out) {
        Json keep{{"x", json_number(k.x)},
                  {"y", json_number(k.y)},
                  {"width", json_number(k.width)},
                  {"height", json_number(k.height)}};
        append_extra(keep, k.extra);
        j["keep_out"].push_back(std::move(keep));
    }
    for (const TrackPull& p : board.pulls) {
        Json pull{{"net", p.net}, {"x", json_number(p.x)}, {"y", json_number(p.y)}};
        if (p.component_side) pull["side"] = "component";
        append_extra(pull, p.extra);
        j["pulls"].push_back(std::move(pull));
    }
    if (!board.ways_by.empty()) j["ways_by"] = board.ways_by;
    for (const TrackWay& w : board.ways) {
        Json way{{"net", w.net}, {"way", way_text(w)}};
        append_extra(way, w.extra);
        j["ways"].push_back(std::move(way));
    }
    for (const BoardText& t : board.texts) {
        Json text;
        if (t.anywhere)
            text["anywhere"] = true;
        else
            text["x"] = json_number(t.x), text["y"] = json_number(t.y);
        text["size"] = json_number(t.size), text["text"] = t.text;
        append_extra(text, t.extra);
        j["texts"].push_back(std::move(text));
    }
    append_extra(j, board.extra);
    return j;
}

}  // namespace elkit
