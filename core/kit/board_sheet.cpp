#include "kit/board_sheet.hpp"

#include <fmt/format.h>

#include "kit/board_pages.hpp"
#include "kit/page_writer.hpp"

namespace elkit {

std::vector<Drawing> board_sheet(const Board& b, const std::string& name) {
    PageWriter w(name + ", board");
    w.heading(fmt::format("{}: {}, {}", name, b.size, b.summary));
    write_boards(w, b);
    if (!b.works.empty()) w.heading("What is to be done");
    std::string told;  // a caution stands once where several works in a row have it
    for (const BoardWork& work : b.works) {
        w.paragraph(work.title, 0, 3.5, Ink::ink, true);
        w.paragraph(work.text, 4);
        if (!work.caution.empty() && work.caution != told) w.paragraph(work.caution, 4, 3.3, Ink::attention);
        told = work.caution;
    }
    if (!b.wires.empty()) w.heading("Wires");
    for (const BoardWire& wire : b.wires)
        w.paragraph(fmt::format("{} from {} to {}, {:.0f} mm{}", wire.what, wire.from, wire.to, wire.length,
                                wire.net.empty() ? "" : ", " + wire.net));
    return w.finish();
}

}  // namespace elkit
