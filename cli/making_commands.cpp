// Making it: board, build, bom.
#include <fmt/format.h>

#include <cmath>
#include <iostream>

#include "batch/parts_list.hpp"
#include "board/board.hpp"
#include "build/steps.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "formats/csv.hpp"
#include "kit/wire_list.hpp"

namespace elkit::cli {
namespace {

int board(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        Store store;
        const auto made = Ask(store)(BoardQuery{design.circuit, design.board});
        if (!made) return fail(made.error());
        const Board& b = *made;
        Json parts = Json::object(), neighbours = Json::array();
        for (const auto& p : b.pins) parts[p.designator][p.pin.empty() ? "free" : p.pin] = p.place;
        for (const auto& n : b.neighbours)
            neighbours.push_back({{"a", n.a}, {"b", n.b}, {"places", n.places}});
        if (o.json) {
            print_json({{"method", b.method},
                        {"size", b.size},
                        {"width_mm", b.width},
                        {"height_mm", b.height},
                        {"parts", parts},
                        {"on_wires", b.on_wires},
                        {"neighbours", neighbours},
                        {"groups", b.groups},
                        {"differences", b.differences},
                        {"summary", b.summary}});
        } else {
            fmt::print("{}, {}\n", b.size, b.summary);
            for (const auto& p : b.pins) fmt::print("{:<4} {:<6} {}\n", p.designator, p.pin, p.place);
            if (!b.on_wires.empty()) fmt::print("joined by wires: {}\n", fmt::join(b.on_wires, ", "));
            fmt::print("{}\n", b.differences.empty() ? "the board equals the circuit"
                                                     : fmt::format("{}", fmt::join(b.differences, "\n")));
        }
        return b.differences.empty() ? 0 : 1;
    });
}

/// "red at A1, black at B2: 4.79 V (4.51–4.81)".
std::string check_text(const Check& check) {
    const std::string probes = fmt::format("{} to {}: ", check.red, check.black);
    if (check.kind == CheckKind::beep) return probes + "beep";
    if (check.kind == CheckKind::silent) return probes + "no beep";
    return probes + fmt::format("{} ({})", check.expected->text(), check.expected->spread_text());
}

int build(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        Store store;
        const auto steps = Ask(store)(
            StepsQuery{design.circuit, design.board, design.brief.for_children, design.situations});
        if (!steps) return fail(steps.error());
        Json list = Json::array();
        int n = 0;
        for (const auto& s : *steps) {
            Json j{{"step", s.id},   {"phase", phase_name(s.phase)}, {"title", s.title},
                   {"text", s.text}, {"polarity", s.polarity},       {"caution", s.caution}};
            if (s.check)
                j["check"] = {{"red", s.check->red},
                              {"black", s.check->black},
                              {"expected", s.check->expected
                                               ? figure_json(*s.check->expected)
                                               : Json(s.check->kind == CheckKind::beep ? "beep" : "silent")}};
            list.push_back(j);
            if (o.json) continue;
            fmt::print("{:>3}  {}\n     {}\n", ++n, s.title, s.text);
            if (s.check) fmt::print("     {}\n", check_text(*s.check));
        }
        if (o.json) print_json({{"steps", list}});
        return 0;
    });
}

int bom(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        auto drawer = drawer_items(o);
        if (!drawer) return fail(drawer.error());
        Store store;
        const auto made = Ask(store)(parts_query(design, drawer.value()));
        if (!made) return fail(made.error());
        const PartsList& list = *made;
        if (!o.json) return fmt::print("{}", write_csv(parts_csv(list))), 0;
        Json lines = Json::array();
        for (const auto& l : list.lines)
            lines.push_back({{"key", l.key},
                             {"name", l.name},
                             {"designators", l.designators},
                             {"marking", l.marking},
                             {"per_kit", l.per_kit.value},
                             {"needed", l.needed.value},
                             {"stock", l.stock},
                             {"to_buy", l.to_buy.value},
                             {"packs", l.packs},
                             {"unit_price", number(l.unit_price)}});
        print_json({{"kits", list.kits},
                    {"lines", lines},
                    {"cost_per_kit", figure_json(list.cost_per_kit)},
                    {"to_spend", figure_json(list.to_spend)}});
        return 0;
    });
}

int wiring(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        Store store;
        const auto made = Ask(store)(WireListQuery{design.circuit, design.situations});
        if (!made) return fail(made.error());
        const WireList& list = *made;
        if (o.json) {
            Json wires = Json::array(), pins = Json::array();
            for (const ListedWire& w : list.wires)
                wires.push_back({{"use", use_name(w.use)},
                                 {"from", w.from.text()},
                                 {"to", w.to.text()},
                                 {"net", w.net},
                                 {"purpose", w.purpose},
                                 {"current", figure_json(w.current)},
                                 {"wire_mm2", w.area},
                                 {"colour", w.colour}});
            for (const PinFunction& p : list.pins)
                pins.push_back({{"part", p.part}, {"pin", p.pin}, {"function", p.function}, {"net", p.net}});
            print_json({{"wires", wires},
                        {"pins", pins},
                        {"total", figure_json(list.total)},
                        {"notes", list.notes}});
            return 0;
        }
        fmt::print("{}", write_csv(wires_csv(list)));
        return 0;
    });
}

}  // namespace

std::vector<Command> making_commands() {
    return {
        plain("board", "the board's layout and the connections extracted from it", {}, board),
        plain("wiring", "the wires between what sits off the board, in the order of joining, as CSV", {},
              wiring),
        plain("build", "build steps with expected readings", {}, build),
        {"bom", "parts list as CSV",
         [](CLI::App& sub) {
             const auto o = options(sub, {add_drawer});
             sub.add_option("--batch", o->kits, "number of kits")->check(within(1.0, 1e6));
             return [o] { return bom(*o); };
         }},
    };
}

}  // namespace elkit::cli
