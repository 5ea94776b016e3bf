#include "board/board.hpp"

#include <fmt/format.h>

#include "board/copper/copper_method.hpp"
#include "board/pad/pad_board.hpp"
#include "board/strip/strip_board.hpp"
#include "board/trial/trial_board.hpp"

namespace elkit {
namespace {

Figure side(const char* id, const char* label, double mm, const std::string& size) {
    Figure f{id, label, mm / 1000, Unit::metre, {}, {}, {}};
    f.working = {fmt::format("{}: {}", size, f.text())};
    return f;
}

}  // namespace

Figure Board::width_figure() const { return side("board.width", "board width", width, size); }
Figure Board::height_figure() const { return side("board.height", "board height", height, size); }

bool Board::fits(double room_width, double room_height) const {
    const auto within = [](double side, double room) { return room <= 0 || side <= room; };
    return (within(width, room_width) && within(height, room_height)) ||
           (within(height, room_width) && within(width, room_height));
}

const BoardPart* Board::highest() const {
    const BoardPart* most = nullptr;
    for (const BoardPart& p : parts)
        if (p.place == PartPlace::board && (!most || p.footprint.height > most->footprint.height)) most = &p;
    return most;
}

double Board::depth() const {
    constexpr double legs = 2, thickness = 1.6;  // mm, as legs are cut and boards are usually sold
    const BoardPart* most = highest();
    return legs + thickness + (most ? most->footprint.height : 0);
}

std::string room_text(double width, double height) {
    if (width > 0 && height > 0) return fmt::format("{} × {} mm", format_plain(width), format_plain(height));
    if (width > 0) return format_plain(width) + " mm wide";
    return height > 0 ? format_plain(height) + " mm high" : "no limit";
}

const BoardPart* Board::part(std::string_view designator) const {
    for (const BoardPart& p : parts)
        if (p.designator == designator) return &p;
    return nullptr;
}

std::vector<std::string> Board::on_wires() const {
    std::vector<std::string> names;
    for (const BoardPart& p : parts)
        if (p.place != PartPlace::board) names.push_back(p.designator);
    return names;
}

const PlacedPin* Board::pin_of(std::string_view designator, std::string_view pin) const {
    for (const PlacedPin& p : pins)
        if (p.designator == designator && p.pin == pin) return &p;
    return nullptr;
}

std::string Board::probe(std::string_view net) const {
    for (const PlacedPin& p : pins)
        if (p.net == net) return fmt::format("{} ({} {})", p.place, p.designator, p.pin);
    return std::string(net);
}

const std::vector<BoardMethod>& board_methods() {
    static const std::vector<BoardMethod> all = [] {
        std::vector<BoardMethod> methods{pad_method(), strip_method()};
        for (const Making& m : makings().methods) methods.push_back(copper_method(m.id));
        return methods;
    }();
    return all;
}

const BoardMethod* find_board_method(std::string_view id) {
    for (const BoardMethod& m : board_methods())
        if (m.id == id) return &m;
    static const BoardMethod trial = trial_method();
    return id == trial.id ? &trial : nullptr;
}

std::string known_board_methods() {
    std::string known;
    for (const BoardMethod& m : board_methods()) known += (known.empty() ? "" : ", ") + m.id;
    return known;
}

Drawing side_on_paper(const Board& board, std::size_t side) {
    Drawing picture = board.sides[side].picture;
    if (!board.differences.empty())
        picture.text(picture.width / 2, 2.2, "DIFFERS FROM THE CIRCUIT: " + board.differences.front(), 1.4,
                     Ink::attention, true, Anchor::middle);
    return picture;
}

Digest BoardQuery::key() const {
    BoardChoices read = choices;  // colours of the trial's wires lay no other board out anew
    if (read.method != trial_method().id) read.breadboard.clear(), read.wire_colours.clear();
    read.panel_across = read.panel_down = 1, read.panel_parting.clear();  // each board stays as it is
    Digester d;
    d << circuit.digest() << content_digest(read);
    return d.digest();
}

Result<Board> BoardQuery::compute(const Ask& ask) const {
    const BoardMethod* method = find_board_method(choices.method);
    if (!method)
        return Error{Fault::design, "/board/method", "there is no method \"" + choices.method + "\"",
                     "one of " + known_board_methods()};
    return method->make(circuit, choices, ask);
}

Result<Board> BoardGlanceQuery::compute(const Ask&) const {
    const BoardMethod* method = find_board_method(board.choices.method);
    if (!method || !method->glance)
        return Error{Fault::design, "/board/method",
                     "\"" + board.choices.method + "\" has no board at a glance", "another method"};
    return method->glance(*board.circuit, board.choices);
}

}  // namespace elkit
