#include "kit/leaflet.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "drawing/layout_query.hpp"
#include "drawing/stave_systems.hpp"
#include "kit/board_pages.hpp"
#include "kit/page_writer.hpp"
#include "kit/wire_list.hpp"
#include "light/light.hpp"
#include "power/life.hpp"
#include "quantity/preferred.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

constexpr double left = PageWriter::left, right = PageWriter::right, top = PageWriter::top,
                 bottom = PageWriter::bottom;

void title(PageWriter& w, const Design& design) {
    w.page().text(left, w.y() + 8, design.name, 10, Ink::ink, true);
    w.gap(13);
    if (!design.brief.purpose.empty()) w.paragraph(design.brief.purpose, 0, 3.8, Ink::muted);
    if (design.brief.for_children)
        w.paragraph("To be built and handled with a grown-up.", 0, 3.3, Ink::attention, true);
}

void stave(PageWriter& w, const Drawing& picture) {
    w.heading("The circuit");
    w.paragraph(
        "Each line is a net; the higher it lies, the higher its voltage from fresh cells. Parts hang between "
        "their nets.",
        0, 3.1, Ink::muted);
    w.gap(2);
    const double scale = picture.unit_mm;  // at which its words can be read
    for (const Drawing& system : stave_systems(picture, (right - left) / scale)) {
        const double fits = std::min({scale, (right - left) / system.width, (bottom - top) / system.height});
        w.place(system, left, fits);
        w.gap(system.height * fits + 3);
    }
}

void band_picture(PageWriter& w, double x, double y, const std::string& marking) {
    w.page().add(Rect{x, y + 0.3, 16, 2.9, 1}, {Ink::muted, 0.2, Ink::card});
    double at = x + 2;
    std::size_t from = 0;
    while (from < marking.size()) {
        const std::size_t to = std::min(marking.find(' ', from), marking.size());
        const bool last = to == marking.size();
        w.page().add(Rect{last ? x + 13 : at, y + 0.3, 1.3, 2.9, 0},
                     {Ink::none, 0, Ink::rgb, 1, band_rgb(marking.substr(from, to - from))});
        at += 2.6;
        from = to + 1;
    }
}

void parts(PageWriter& w, const PartsList& list) {
    w.heading("In the bag");
    for (const auto& line : list.lines) {
        w.room(6);
        w.tick_box(left, w.y());
        const std::string count = line.per_kit.value < 1 ? "" : fmt::format("{:.0f} ×", line.per_kit.value);
        w.page().text(left + 13, w.y() + 2.8, count, 3.3, Ink::ink, true, Anchor::end);
        w.page().text(left + 15, w.y() + 2.8, line.name, 3.3);
        w.page().text(left + 84, w.y() + 2.8, line.designators, 3.3, Ink::muted);
        if (line.bands) {
            band_picture(w, left + 118, w.y(), line.marking);
            w.page().text(left + 138, w.y() + 2.8, line.marking, 3, Ink::muted);
        } else {
            w.page().text(left + 118, w.y() + 2.8, line.marking, 3, Ink::muted);
        }
        w.gap(5.6);
    }
}

/// How long it lasts, as the user of the kit wants to know it.
void run_time(PageWriter& w, const PowerResult& power) {
    w.heading("How long it lasts");
    w.paragraph(std::isfinite(power.run_time.value)
                    ? fmt::format("{} from fresh cells, lit without a pause ({}). It ends by: {}.",
                                  power.run_time.text(), power.run_time.spread_text(), power.typical.ended_by)
                    : "As long as it is plugged in: the supply does not empty.",
                0, 3.3);
    if (std::isfinite(power.standby.value))
        w.paragraph(fmt::format("Switched off, the cells keep {}.", power.standby.text()), 0, 3.3);
}

/// How what sits off the board is joined.
void wires(PageWriter& w, const WireList& list) {
    w.heading("The wires");
    w.paragraph(
        "For modules, lamps and contacts that sit beside the board, or for doing without one. Join them "
        "from top to bottom, with the supply off.",
        0, 3.1, Ink::muted);
    w.gap(1.5);
    int number = 0;
    for (const ListedWire& wire : list.wires) {
        w.room(6);
        w.tick_box(left, w.y());
        w.page().text(left + 10.5, w.y() + 2.8, fmt::format("{}", ++number), 3.3, Ink::muted, false,
                      Anchor::end);
        w.page().text(left + 13, w.y() + 2.8, wire.purpose, 3.3);
        w.page().text(left + 66, w.y() + 2.8, wire.from.text() + " to " + wire.to.text(), 3.3, Ink::ink,
                      true);
        w.page().text(left + 126, w.y() + 2.8,
                      fmt::format("{}, {:g} mm², {}", wire.current.text(2), wire.area, wire.colour), 3,
                      Ink::muted);
        w.gap(5.6);
    }
    for (const std::string& note : list.notes) w.paragraph(note, 13, 3.1);
    for (const PinFunction& pin : list.pins)
        w.paragraph(fmt::format("{} {}: {}, net {}", pin.part, pin.pin, pin.function, pin.net), 13, 3.1,
                    Ink::muted);
}

/// What recipes draw to work by, such as how to wind a core.
void pictures_of_blocks(PageWriter& w, const Design& design) {
    for (const Block& block : design.blocks) {
        const Recipe* recipe = find_recipe(block.recipe);
        if (!recipe || !recipe->picture) continue;
        const auto picture = recipe->picture(goals_of(design, block), environment_in(design));
        if (!picture) continue;
        const double scale = picture.value().unit_mm;
        w.room(picture.value().height * scale + 24);
        w.heading(picture.value().title);
        w.place(picture.value(), left, scale);
        w.gap(picture.value().height * scale + 3);
    }
}

}  // namespace

Digest LeafletQuery::key() const {
    Digester d;
    d << design.name << design.brief.purpose << content_digest(design.brief) << content_digest(design.circuit)
      << content_digest(design.blocks) << content_digest(board_choices(design))
      << content_digest(design.batch) << content_digest(design.situations) << drawer.digest();
    return d.digest();
}

Result<std::vector<Drawing>> LeafletQuery::compute(const Ask& ask) const {
    const Keyed<Circuit> circuit(design.circuit);
    const Conditions on = fresh(*circuit, lit_conditions(ask, design, circuit, {}));
    const auto op = ask(RunQuery(circuit, on));
    if (!op) return op.error();
    const auto layout = ask(StaveLayoutQuery{circuit, {}});
    const auto board = ask(BoardQuery{circuit, board_choices(design)});
    if (!board) return board.error();
    const auto all_steps =
        ask(StepsQuery{circuit, board_choices(design), design.brief.for_children, design.situations});
    if (!all_steps) return all_steps.error();
    const auto list = ask(parts_query(design, drawer));
    if (!list) return list.error();
    const auto power = ask(LifeQuery(design, circuit, {}));
    PageWriter w(design.name);
    title(w, design);
    StaveView view;
    view.glow = glow_of(*circuit, op->mean());
    view.room_height = 340;
    stave(w, draw_stave(*circuit, *layout, op->mean(), on, view));
    if (power) run_time(w, *power);
    parts(w, *list);
    pictures_of_blocks(w, design);
    write_boards(w, *board);
    if (joined_by_wires(*circuit))
        if (const auto wiring = ask(WireListQuery{circuit, design.situations})) wires(w, *wiring);
    write_steps(w, *all_steps, phase_name);
    return w.finish();
}

}  // namespace elkit
