#include "board/by_hand.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <sstream>

#include "board/copper/geometry.hpp"

namespace elkit {
namespace {

double on_hand_grid(double mm) { return hand_grid * std::round(mm / hand_grid); }

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

Design with_spots(Design design, const Board& board) {
    for (const BoardPart& part : board.parts) {
        auto& spots = design.board.spots;
        const auto at = std::find_if(spots.begin(), spots.end(),
                                     [&](const PartSpot& s) { return s.part == part.designator; });
        if (at == spots.end())
            spots.push_back(
                {part.designator, part.x, part.y, part.turn, has_place(design, part.designator), false, {}});
        else
            at->x = part.x, at->y = part.y, at->turn = part.turn;
    }
    return design;
}

Result<Design> moved_by_hand(const Design& design, const Board& board, const std::string& part, double dx,
                             double dy) {
    return changed(design, board, part, [&](PartSpot& spot, const BoardPart&) {
        spot.x = on_hand_grid(spot.x + dx), spot.y = on_hand_grid(spot.y + dy), spot.locked = true;
    });
}

Result<Design> turned_by_hand(const Design& design, const Board& board, const std::string& part,
                              double degrees) {
    return changed(design, board, part, [&](PartSpot& spot, const BoardPart& lying) {
        const Box& b = lying.footprint.body;
        const Point middle{(b.x0 + b.x1) / 2, (b.y0 + b.y1) / 2};
        const Point was = turned(middle, spot.turn), now = turned(middle, spot.turn + degrees);
        spot.x = on_hand_grid(spot.x + was.x - now.x), spot.y = on_hand_grid(spot.y + was.y - now.y);
        spot.turn = std::fmod(spot.turn + degrees + 720, 360), spot.locked = true;
    });
}

Result<Design> locked_by_hand(const Design& design, const Board& board, const std::string& part,
                              bool locked) {
    return changed(design, board, part, [&](PartSpot& spot, const BoardPart&) { spot.locked = locked; });
}

Design arranged_anew(Design design) {
    std::erase_if(design.board.spots,
                  [&](const PartSpot& s) { return !s.locked || has_place(design, s.part); });
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
        text += fmt::format("{}{:g} {:g} ", text.empty() ? "" : "; ", t.x, t.y);
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
        const bool read = static_cast<bool>(in >> t.x >> t.y);
        std::string words;
        std::getline(in, words);
        words = trimmed(words);
        double size = 0;
        int used = 0;
        if (std::sscanf(words.c_str(), "%lf :%n", &size, &used) == 1 && used > 0)
            t.size = size, words = trimmed(words.substr(static_cast<std::size_t>(used)));
        if (!read || words.empty() || !on_any_board(t.x) || !on_any_board(t.y) || t.size < 0.5 || t.size > 50)
            return Error{
                Fault::usage, "words on the board", "\"" + entry + "\"",
                "mm from the left, mm from above, words: 3 20 Harbour beacon; several with ; between"};
        t.text = words;
        all.push_back(std::move(t));
    }
    return all;
}

}  // namespace elkit
