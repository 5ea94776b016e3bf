#include "kit/board_sheet.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "kit/page_writer.hpp"

namespace elkit {
namespace {

constexpr double paper_width = PageWriter::right - PageWriter::left, most_large = 2.5,
                 tallest = 110;  // mm; times; mm

void add_sides(PageWriter& w, const Board& b) {
    double widest = 1, highest = 1;
    for (const BoardSide& s : b.sides)
        widest = std::max(widest, s.picture.width), highest = std::max(highest, s.picture.height);
    w.heading(widest > paper_width ? "As large as the paper is" : "True size");
    const bool beside = 2 * widest + 6 <= paper_width && b.sides.size() == 2;
    if (beside) {
        w.room(highest + 8);
        w.page().place(b.sides[1].picture, PageWriter::left + widest + 6, w.y());
        w.place(b.sides[0].picture, PageWriter::left, 1);
        w.gap(highest + 4);
    } else {
        for (const BoardSide& s : b.sides)
            w.place(s.picture, PageWriter::left, std::min(1.0, paper_width / widest)),
                w.gap(s.picture.height + 4);
    }
    const double scale = std::min({most_large, paper_width / widest, tallest / highest});
    if (scale < 1.2) return;
    w.heading(fmt::format("{:.1f} times as large", scale));
    for (const BoardSide& s : b.sides) {
        w.room(s.picture.height * scale + 10);
        w.paragraph(s.title, 0, 3.3, Ink::muted);
        w.place(s.picture, PageWriter::left, scale);
        w.gap(s.picture.height * scale + 4);
    }
}

}  // namespace

std::vector<Drawing> board_sheet(const Board& b, const std::string& name) {
    PageWriter w(name + ", board");
    w.heading(fmt::format("{}: {}, {}", name, b.size, b.summary));
    if (!b.differences.empty()) {
        w.paragraph("THIS BOARD DIFFERS FROM THE CIRCUIT:", 0, 4, Ink::attention, true);
        for (const std::string& d : b.differences) w.paragraph("– " + d, 3, 3.3, Ink::attention);
    }
    add_sides(w, b);
    if (!b.works.empty()) w.heading("What is to be done");
    for (const BoardWork& work : b.works) {
        w.paragraph(work.title, 0, 3.5, Ink::ink, true);
        w.paragraph(work.text, 4);
        if (!work.caution.empty()) w.paragraph(work.caution, 4, 3.3, Ink::attention);
    }
    if (!b.wires.empty()) w.heading("Wires");
    for (const BoardWire& wire : b.wires)
        w.paragraph(fmt::format("{} from {} to {}, {:.0f} mm{}", wire.what, wire.from, wire.to, wire.length,
                                wire.net.empty() ? "" : ", " + wire.net));
    return w.finish();
}

}  // namespace elkit
