// Making it: build, bom, wiring.
#include <fmt/format.h>

#include <cmath>
#include <iostream>

#include "batch/parts_list.hpp"
#include "build/steps.hpp"
#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "formats/csv.hpp"
#include "kit/wire_list.hpp"

namespace elkit::cli {
namespace {

int build(const Options& o) {
    return with_design(o, [&](const Design& design, const Conditions&) {
        Store store;
        const auto steps = Ask(store)(
            StepsQuery{design.circuit, board_choices(design), design.brief.for_children, design.situations});
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
