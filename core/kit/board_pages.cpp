#include "kit/board_pages.hpp"

#include <fmt/format.h>

#include <algorithm>

namespace elkit {
namespace {

constexpr double page_left = PageWriter::left, page_right = PageWriter::right;

void true_size(PageWriter& w, const Board& board) {
    double widest = 0, highest = 0, all = 0;
    for (const BoardSide& side : board.sides)
        widest = std::max(widest, side.picture.width), highest = std::max(highest, side.picture.height),
        all += side.picture.width + 8;
    w.room(highest + 24);
    w.heading("The board, at 1:1");
    const std::string millimetres = fmt::format("{:.1f} × {:.1f} mm", board.width, board.height);
    w.paragraph(fmt::format("{}. Lay the board on the picture to check the print.",
                            board.size == millimetres ? millimetres : board.size + ", " + millimetres),
                0, 3.1, Ink::muted);
    w.gap(2);
    const bool beside = all - 8 <= page_right - page_left;
    double x = page_left;
    for (const BoardSide& side : board.sides) {
        if (!beside) w.room(side.picture.height + 6);
        w.page().text(x, w.y() + 3, side.title, 3, Ink::muted);
        if (beside) {
            x += side.picture.width + 8;
            continue;
        }
        w.gap(5);
        w.place(side.picture, page_left, std::min(1.0, (page_right - page_left) / side.picture.width));
        w.gap(side.picture.height + 3);
    }
    if (!beside) return;
    w.gap(5);
    x = page_left;
    for (const BoardSide& side : board.sides) {
        w.place(side.picture, x, 1);
        x += side.picture.width + 8;
    }
    w.gap(highest + 3);
}

/// The sides again, large enough to read hole names and bands.
void large(PageWriter& w, const Board& board) {
    if (board.sides.empty()) return;
    const Drawing& first = board.sides.front().picture;
    const double scale = std::min({3.0, (page_right - page_left) / first.width, 110 / first.height});
    if (scale < 1.2) return;
    w.heading("Large, to work from");
    for (const BoardSide& side : board.sides) {
        w.room(side.picture.height * scale + 8);
        w.page().text(page_left, w.y() + 3, side.title, 3.2, Ink::muted);
        w.gap(5);
        w.place(side.picture, page_left, scale);
        w.gap(side.picture.height * scale + 3);
    }
}

}  // namespace

void write_boards(PageWriter& w, const Board& board) {
    if (!board.differences.empty()) {
        w.paragraph("THIS BOARD DIFFERS FROM THE CIRCUIT:", 0, 4, Ink::attention, true);
        for (const std::string& d : board.differences) w.paragraph("– " + d, 3, 3.3, Ink::attention);
    }
    true_size(w, board);
    large(w, board);
}

}  // namespace elkit
