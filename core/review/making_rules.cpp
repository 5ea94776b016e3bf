#include <fmt/format.h>

#include <algorithm>

#include "review/rules.hpp"

namespace elkit {
namespace {

void board_fault(const Evidence& e, std::vector<Finding>& out) {
    if (!e.deep) return;
    if (e.deep->layout_error && !e.live.error) {
        // what the board cannot hold yet is no fault of the design
        const auto& parts = e.design.circuit.parts;
        const bool fits =
            std::all_of(parts.begin(), parts.end(), [](const Part& p) { return has_footprint(p.kind); });
        auto& f =
            add_finding(out, fits ? Severity::error : Severity::note, "board", "field:board",
                        e.deep->layout_error->found, "Expected " + e.deep->layout_error->expected + ".");
        if (e.design.board.columns > 0 || e.design.board.rows > 0)
            f.remedies.push_back({"Choose the size for me", [](const Design& d) -> Result<Design> {
                                      Design next = d;
                                      next.board.columns = next.board.rows = 0;
                                      return next;
                                  }});
    }
    for (const auto& difference : e.deep->layout_differences)
        add_finding(out, Severity::error, "board", "", difference,
                    "The board does not equal the circuit; this is a fault of the layout, not yours.");
}

void board_size(const Evidence& e, std::vector<Finding>& out) {
    if (!e.deep || !e.deep->layout) return;
    const auto& l = *e.deep->layout;
    const double w = e.design.brief.width, h = e.design.brief.height;
    if (!l.fits(w, h))
        add_finding(out, Severity::error, "board", "field:board",
                    fmt::format("The board is {:.0f} × {:.0f} mm, the brief leaves {:.0f} × {:.0f} mm",
                                l.width(), l.height(), w, h),
                    "It will not go into its case.");
}

void reading_outside(const Evidence& e, std::vector<Finding>& out) {
    if (!e.deep) return;
    for (const auto& step : e.deep->steps) {
        const StepRecord* record = e.design.record(step.id);
        if (judge(step, record) != Reading::outside) continue;
        const bool number = step.check->expected.has_value();
        auto& f =
            add_finding(out, Severity::error, "build", "step:" + step.id,
                        number ? fmt::format("{}: {} measured, {} expected", step.title,
                                             format_quantity(*record->measured, step.check->expected->unit),
                                             step.check->expected->spread_text())
                               : step.title + ": it did not",
                        number ? "Outside the band of a good unit. Look at the joint, the polarity and the "
                                 "value before going on."
                               : "Find the bridge or the open joint before any cell goes in.");
        f.remedies.push_back({"Clear the reading", [id = step.id](const Design& d) -> Result<Design> {
                                  Design next = d;
                                  next.record_for(id).measured.reset();
                                  return next;
                              }});
    }
}

std::string unpriced(const PartsList& list) {
    std::string names;
    for (const auto& line : list.lines)
        if (!line.known()) names += (names.empty() ? "" : ", ") + line.name;
    return names;
}

void cost(const Evidence& e, std::vector<Finding>& out) {
    if (!e.deep) return;
    const double ceiling = e.design.brief.cost_ceiling, value = e.deep->parts.cost_per_kit.value;
    if (ceiling > 0 && value > ceiling)
        add_finding(out, Severity::warning, "batch", "field:cost_ceiling",
                    fmt::format("Parts cost {:.2f} a kit, the ceiling is {:.2f}", value, ceiling),
                    "By the piece, at the drawer's pack prices.");
    if (e.deep->parts.unknown > 0)
        add_finding(out, Severity::note, "batch", "field:drawer",
                    fmt::format("No price in the drawer for {}", unpriced(e.deep->parts)),
                    "The cost leaves it out. Give it a price on the Batch station.");
}

void to_buy(const Evidence& e, std::vector<Finding>& out) {
    if (!e.deep || e.deep->parts.to_spend.value <= 0) return;
    std::string names;
    for (const auto& line : e.deep->parts.lines)
        if (line.packs > 0)
            names += (names.empty() ? "" : ", ") +
                     fmt::format("{:.0f} {} {}", line.packs, line.packs > 1 ? "packs" : "pack", line.name);
    add_finding(out, Severity::note, "batch", "field:buy",
                fmt::format("Buy for {:.2f} before the batch of {:.0f}", e.deep->parts.to_spend.value,
                            e.design.brief.kits),
                names + ".");
}

}  // namespace

std::vector<Rule> making_rules() {
    return {
        {"board-fault", "parts that do not fit, or a layout that differs from the circuit",
         "the board would not work", "connections extracted from the layout", board_fault},
        {"board-size", "a board larger than the brief leaves room for", "it will not go into its case",
         "layout against the brief", board_size},
        {"reading", "a bench reading outside its band", "something is wrong before the next step hides it",
         "engine over LED bins, tolerances and cells", reading_outside},
        {"cost", "parts above the cost ceiling or without a price", "the kit earns nothing",
         "the drawer's prices", cost},
        {"buy", "what the drawer lacks for the batch", "the batch stops half way",
         "parts list against the drawer", to_buy},
    };
}

}  // namespace elkit
