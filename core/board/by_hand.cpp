#include "board/by_hand.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <sstream>
#include <tuple>
#include <utility>

#include "board/copper/geometry.hpp"
#include "board/holes/hole.hpp"
#include "board/holes/shape.hpp"

namespace elkit {
namespace {

double on_hand_grid(double mm) { return hand_grid * std::round(mm / hand_grid); }

/// By whole holes, and at least one the way it goes furthest.
std::pair<double, double> by_holes(double dx, double dy) {
    double across = std::round(dx / hole_pitch), down = std::round(dy / hole_pitch);
    if (across == 0 && down == 0 && (dx != 0 || dy != 0))
        (std::abs(dx) >= std::abs(dy) ? across : down) =
            std::copysign(1, std::abs(dx) >= std::abs(dy) ? dx : dy);
    return {across * hole_pitch, down * hole_pitch};
}

/// From where places of the design begin to the corner of the board, or back.
template <class Places>
Places shifted(Places places, const Board& board, int sign) {
    for (auto& p : places) p.x += sign * board.origin_x, p.y += sign * board.origin_y;
    return places;
}

/// The middle of the hole that is nearest.
double at_hole(double mm) { return hole_pitch * (std::round(mm / hole_pitch - 0.5) + 0.5); }

/// To a tenth of a µm, as files have it.
double as_written(double mm) { return std::round(mm * 1e4) / 1e4; }

/// True for a light that stands where the face has it.
bool has_place(const Design& design, const std::string& light) {
    const auto& places = design.face.places;
    return design.board.lights == "face" &&
           std::any_of(places.begin(), places.end(), [&](const FacePlace& p) { return p.light == light; });
}

/// Changes one part's spot in the design with all spots.
template <class Change>
Result<Design> changed(const Design& design, const Board& board, const std::string& part, Change change) {
    const BoardPart* lying = board.part(part);
    if (!lying || !design.circuit.find(part))
        return Error{Fault::design, "/board/spots", "there is no part " + part + " on the board",
                     "a part of the circuit"};
    Design next = with_spots(design, board);
    for (PartSpot& spot : next.board.spots)
        if (spot.part == part) change(spot, *lying);
    return next;
}

}  // namespace

BoardChoices lying_on(BoardChoices choices, const Board& board) {
    choices.pulls = shifted(std::move(choices.pulls), board, 1);
    choices.keep_out = shifted(std::move(choices.keep_out), board, 1);
    return choices;
}

Design with_pulls(Design design, std::vector<TrackPull> pulls, const Board* board) {
    design.board.pulls = board ? shifted(std::move(pulls), *board, -1) : std::move(pulls);
    return design;
}

Design with_keep_out(Design design, std::vector<KeepOut> areas, const Board* board) {
    design.board.keep_out = board ? shifted(std::move(areas), *board, -1) : std::move(areas);
    return design;
}

Design with_spots(Design design, const Board& board) {
    if (!spots_are_for(design.board, board.method)) design.board.spots.clear();
    for (const BoardPart& part : board.parts) {
        auto& spots = design.board.spots;
        auto at = std::find_if(spots.begin(), spots.end(),
                               [&](const PartSpot& s) { return s.part == part.designator; });
        if (at == spots.end()) {
            PartSpot fresh;
            fresh.part = part.designator, fresh.locked = has_place(design, part.designator);
            at = spots.insert(spots.end(), std::move(fresh));
        }
        at->x = part.x, at->y = part.y, at->turn = part.turn, at->span = part.span;
    }
    if (keeps_its_size(design.board, board.method)) {
        design.board.columns = std::round(board.width / hole_pitch);
        design.board.rows = std::round(board.height / hole_pitch);
    }
    design.board = lying_on(std::move(design.board), board);
    design.board.ways = board.ways, design.board.ways_by = board.method;
    for (TrackWay& way : design.board.ways)
        for (WayCorner& c : way.corners) c.x = as_written(c.x), c.y = as_written(c.y);
    return design;
}

Board as_put(Board board, const BoardChoices& made_of, const Design& design) {
    const BoardChoices& now = design.board;
    const bool untouched = now.spots == made_of.spots && now.pulls == made_of.pulls &&
                           now.keep_out == made_of.keep_out && now.ways == made_of.ways;
    if (untouched || !spots_are_for(now, board.method)) return board;
    for (BoardPart& part : board.parts)
        for (const PartSpot& spot : now.spots)
            if (spot.part == part.designator)
                part.x = spot.x, part.y = spot.y, part.turn = spot.turn, part.span = spot.span;
    if (now.ways_by == board.method) board.ways = now.ways;
    board.origin_x = board.origin_y = 0;  // places were taken over as they lay on it
    return board;
}

Result<Design> moved_by_hand(const Design& design, const Board& board, const std::string& part, double dx,
                             double dy) {
    if (board.layers == 0) std::tie(dx, dy) = by_holes(dx, dy);
    return changed(design, board, part, [&](PartSpot& spot, const BoardPart&) {
        spot.x = on_hand_grid(spot.x + dx), spot.y = on_hand_grid(spot.y + dy), spot.locked = true;
    });
}

Result<Design> turned_by_hand(const Design& design, const Board& board, const std::string& part,
                              double degrees) {
    const bool on_holes = board.layers == 0;
    return changed(design, board, part, [&](PartSpot& spot, const BoardPart& lying) {
        const Box& b = lying.footprint.body;
        const Point middle{(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2};
        const Point was = turned(middle, spot.turn), now = turned(middle, spot.turn + degrees);
        double dx = was.x - now.x, dy = was.y - now.y;
        if (on_holes)
            dx = hole_pitch * std::round(dx / hole_pitch), dy = hole_pitch * std::round(dy / hole_pitch);
        spot.x = on_hand_grid(spot.x + dx), spot.y = on_hand_grid(spot.y + dy);
        spot.turn = std::fmod(spot.turn + degrees + 720, 360), spot.locked = true;
    });
}

Result<Design> bent_by_hand(const Design& design, const Board& board, const std::string& part, double span) {
    const BoardPart* lying = board.part(part);
    if (lying && std::none_of(lying->spans.begin(), lying->spans.end(),
                              [&](double mm) { return std::abs(mm - span) < 0.01; }))
        return Error{Fault::design, "/board/spots",
                     fmt::format("the legs of {} do not reach {:g} mm", part, span),
                     lying->spans.empty() ? "a part of two legs on a board of holes"
                                          : fmt::format("one of {:g} mm", fmt::join(lying->spans, ", "))};
    return changed(design, board, part, [&](PartSpot& spot, const BoardPart& on_board) {
        spot.span = span == on_board.spans.front() ? 0 : span, spot.locked = true;
    });
}

Result<Design> locked_by_hand(const Design& design, const Board& board, const std::string& part,
                              bool locked) {
    return changed(design, board, part, [&](PartSpot& spot, const BoardPart&) { spot.locked = locked; });
}

Result<Design> pulled_by_hand(const Design& design, const Board& board, TrackPull pull) {
    const auto nets = design.circuit.nets();
    if (std::find(nets.begin(), nets.end(), pull.net) == nets.end())
        return Error{Fault::design, "/board/pulls", "there is no net " + pull.net, "a net of the circuit"};
    if (!(pull.x >= 0 && pull.y >= 0 && pull.x <= board.width && pull.y <= board.height))
        return Error{Fault::design, "/board/pulls", "the place is not on the board", "a place on it"};
    pull.component_side &= board.layers > 1;
    if (board.layers == 0)
        pull.x = at_hole(pull.x), pull.y = at_hole(pull.y);
    else
        pull.x = on_hand_grid(pull.x), pull.y = on_hand_grid(pull.y);
    Design next = with_spots(design, board);
    constexpr double same = 1.3;  // mm
    std::erase_if(next.board.pulls, [&](const TrackPull& p) {
        return p.net == pull.net && p.component_side == pull.component_side &&
               std::hypot(p.x - pull.x, p.y - pull.y) < same;
    });
    next.board.pulls.push_back(std::move(pull));
    return next;
}

Result<Design> pull_moved_by_hand(const Design& design, const Board& board, std::size_t index, double x,
                                  double y) {
    const auto& pulls = design.board.pulls;
    if (index >= pulls.size())
        return Error{Fault::design, "/board/pulls", fmt::format("there is no pulled track {}", index + 1),
                     fmt::format("one of {}", pulls.size())};
    Design next = design;
    TrackPull pull = pulls[index];
    next.board.pulls.erase(next.board.pulls.begin() + static_cast<std::ptrdiff_t>(index));
    pull.x = x, pull.y = y;
    return pulled_by_hand(next, board, std::move(pull));
}

Result<Design> pull_let_go(const Design& design, std::size_t index) {
    if (index >= design.board.pulls.size())
        return Error{Fault::design, "/board/pulls", fmt::format("there is no pulled track {}", index + 1),
                     fmt::format("one of {}", design.board.pulls.size())};
    Design next = design;
    const auto pull = next.board.pulls.begin() + static_cast<std::ptrdiff_t>(index);
    std::erase_if(next.board.ways, [&](const TrackWay& way) { return way.net == pull->net; });
    next.board.pulls.erase(pull);
    return next;
}

Result<Design> kept_free_by_hand(const Design& design, const Board& board, KeepOut area) {
    constexpr double least = 0.5;  // mm
    const double grid = board.layers == 0 ? hole_pitch : 0.1;
    const auto on_grid = [&](double mm) { return as_written(grid * std::round(mm / grid)); };
    if (board.layers == 0)  // a hole at least
        area.width = std::max(area.width, hole_pitch), area.height = std::max(area.height, hole_pitch);
    const double x1 = std::min(area.x + area.width, board.width),
                 y1 = std::min(area.y + area.height, board.height);
    area.x = on_grid(std::max(area.x, 0.0)), area.y = on_grid(std::max(area.y, 0.0));
    area.width = on_grid(x1 - area.x), area.height = on_grid(y1 - area.y);
    if (area.width < least || area.height < least)
        return Error{Fault::design, "/board/keep_out", "the area is not on the board",
                     "one of at least 0.5 × 0.5 mm on it"};
    Design next = with_spots(design, board);
    next.board.keep_out.push_back(std::move(area));
    return next;
}

Design arranged_anew(Design design) {
    std::erase_if(design.board.spots,
                  [&](const PartSpot& s) { return !s.locked || has_place(design, s.part); });
    design.board.pulls.clear();  // they were for parts that lay elsewhere
    if (design.board.spots.empty()) design.board.ways_by.clear();
    return tracks_anew(std::move(design));
}

Design tracks_anew(Design design) {
    forget_ways(design.board);
    return design;
}

namespace {

constexpr double longest_board = 500;  // mm

std::string trimmed(std::string text) {
    while (!text.empty() && text.back() == ' ') text.pop_back();
    return text.substr(std::min(text.find_first_not_of(' '), text.size()));
}

/// What stands between semicolons, without what is empty.
std::vector<std::string> entries(const std::string& text) {
    std::vector<std::string> all;
    std::istringstream in(text);
    for (std::string entry; std::getline(in, entry, ';');)
        if (entry = trimmed(entry); !entry.empty()) all.push_back(entry);
    return all;
}

bool on_any_board(double mm) { return mm >= 0 && mm <= longest_board; }

}  // namespace

std::string pulls_text(const std::vector<TrackPull>& pulls) {
    std::string text;
    for (const TrackPull& p : pulls)
        text += fmt::format("{}{} {:g} {:g}{}", text.empty() ? "" : "; ", p.net, p.x, p.y,
                            p.component_side ? " component" : "");
    return text;
}

Result<std::vector<TrackPull>> read_pulls(const std::string& text) {
    std::vector<TrackPull> all;
    for (const std::string& entry : entries(text)) {
        std::istringstream in(entry);
        std::vector<std::string> words;
        for (std::string word; in >> word;) words.push_back(word);
        TrackPull p;
        p.component_side = !words.empty() && words.back() == "component";
        if (!words.empty() && (p.component_side || words.back() == "solder")) words.pop_back();
        const auto number = [&](std::size_t from_end, double& mm) {
            char* end = nullptr;
            const std::string& word = words[words.size() - from_end];
            mm = std::strtod(word.c_str(), &end);
            return end == word.c_str() + word.size() && on_any_board(mm);
        };
        if (words.size() < 3 || !number(2, p.x) || !number(1, p.y))
            return Error{Fault::usage, "what tracks pass", "\"" + entry + "\"",
                         "net, mm from the left, mm from above, as GND 12.7 8.9; several with ; between"};
        words.resize(words.size() - 2);
        p.net = fmt::format("{}", fmt::join(words, " "));  // names of nets may have blanks
        all.push_back(std::move(p));
    }
    return all;
}

std::string keep_out_text(const std::vector<KeepOut>& areas) {
    std::string text;
    for (const KeepOut& k : areas)
        text += fmt::format("{}{:g} {:g} {:g} {:g}", text.empty() ? "" : "; ", k.x, k.y, k.width, k.height);
    return text;
}

Result<std::vector<KeepOut>> read_keep_out(const std::string& text) {
    std::vector<KeepOut> all;
    for (const std::string& entry : entries(text)) {
        KeepOut k;
        std::istringstream in(entry);
        std::string rest;
        const bool read = (in >> k.x >> k.y >> k.width >> k.height) && !(in >> rest);
        if (!read || !on_any_board(k.x) || !on_any_board(k.y) || !on_any_board(k.width) ||
            !on_any_board(k.height))
            return Error{Fault::usage, "areas that stay free", "\"" + entry + "\"",
                         "left, top, width and height in mm, as 20 10 30 15; several with ; between"};
        all.push_back(std::move(k));
    }
    return all;
}

std::string board_texts_text(const std::vector<BoardText>& texts) {
    std::string text;
    for (const BoardText& t : texts) {
        text += text.empty() ? "" : "; ";
        if (!t.anywhere) text += fmt::format("{:g} {:g} ", t.x, t.y);
        if (t.size != BoardText{}.size) text += fmt::format("{:g}: ", t.size);
        text += t.text;
    }
    return text;
}

Result<std::vector<BoardText>> read_board_texts(const std::string& text) {
    std::vector<BoardText> all;
    for (const std::string& entry : entries(text)) {
        BoardText t;
        std::istringstream in(entry);
        t.anywhere = !(in >> t.x >> t.y);
        std::string words;
        std::getline(in, words);
        words = trimmed(t.anywhere ? entry : words);
        if (t.anywhere) t.x = t.y = 0;
        double size = 0;
        int used = 0;
        if (std::sscanf(words.c_str(), "%lf :%n", &size, &used) == 1 && used > 0)
            t.size = size, words = trimmed(words.substr(static_cast<std::size_t>(used)));
        if (words.empty() || !on_any_board(t.x) || !on_any_board(t.y) || t.size < 0.5 || t.size > 50)
            return Error{Fault::usage, "words on the board", "\"" + entry + "\"",
                         "words, or mm from the left, mm from above, words: 3 20 Harbour beacon; several "
                         "with ; between"};
        t.text = words;
        all.push_back(std::move(t));
    }
    return all;
}

}  // namespace elkit
