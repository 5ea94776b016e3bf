#include "kit/trial_sheet.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "kit/page_writer.hpp"

namespace elkit {

std::vector<Drawing> trial_sheet(const Trial& trial, const std::string& name) {
    constexpr double left = PageWriter::left, right = PageWriter::right;
    PageWriter w(name + ", trial");
    w.heading("The trial, on a breadboard");
    w.paragraph(fmt::format("{}: {}.", trial.board.size, trial.board.summary), 0, 3.3, Ink::muted);
    for (const BoardSide& side : trial.board.sides) {
        const double scale = std::min(2.0, (right - left) / side.picture.width);
        w.place(side.picture, left, scale);
        w.gap(side.picture.height * scale + 3);
    }
    w.heading("Wires");
    int number = 0;
    for (const BoardWire& wire : trial.board.wires) {
        w.room(6);
        w.tick_box(left, w.y());
        w.page().text(left + 10.5, w.y() + 2.8, fmt::format("{}", ++number), 3.3, Ink::muted, false,
                      Anchor::end);
        w.page().text(left + 13, w.y() + 2.8, fmt::format("{} to {}", wire.from, wire.to), 3.3, Ink::ink,
                      true);
        w.page().text(left + 50, w.y() + 2.8, fmt::format("{:.0f} mm, {}", wire.length, wire.colour), 3.3);
        w.page().text(left + 90, w.y() + 2.8, wire.net, 3, Ink::muted);
        w.gap(5.6);
    }
    write_steps(w, trial.steps, trial_phase_name);
    w.heading("What will be different on the board");
    for (const std::string& text : trial.differs) w.paragraph(text, 0, 3.3);
    return w.finish();
}

CsvTable board_wires_csv(const Board& board) {
    CsvTable table{{"number", "what", "from", "to", "net", "length_mm", "colour"}};
    int number = 0;
    for (const BoardWire& w : board.wires)
        table.push_back(
            {std::to_string(++number), w.what, w.from, w.to, w.net, fmt::format("{:g}", w.length), w.colour});
    return table;
}

}  // namespace elkit
