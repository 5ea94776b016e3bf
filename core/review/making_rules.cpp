#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>

#include "batch/owned_values.hpp"
#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "light/light.hpp"
#include "recipes/blocks.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

void board_fault(const Evidence& e, std::vector<Finding>& out) {
    const auto board = e.board();
    if (!board.there()) return;
    if (!board) {
        if (!e.run()) return;  // the circuit itself is at fault, which another rule says
        auto& f = add_finding(out, Severity::error, "board", "field:board", board.error().found,
                              "Expected " + board.error().expected + ".");
        const BoardChoices& chosen = e.design.board;
        if (chosen.columns > 0 || chosen.rows > 0 || chosen.width > 0 || chosen.height > 0)
            f.remedies.push_back({"Choose the size for me", [](const Design& d) -> Result<Design> {
                                      Design next = d;
                                      next.board.columns = next.board.rows = 0;
                                      next.board.width = next.board.height = 0;
                                      return next;
                                  }});
        return;
    }
    const BoardChoices& chosen = e.design.board;
    const bool by_hand = !chosen.spots.empty() || !chosen.pulls.empty() || !chosen.keep_out.empty();
    int fault = 0;
    for (const auto& difference : board->differences)
        add_finding(out, Severity::error, "board", "field:board", difference,
                    by_hand
                        ? "Parts or tracks that were put by hand leave no room, or the layout is at fault. "
                          "Move them, or arrange the rest anew on Board, By hand."
                        : "The board does not equal the circuit; this is a fault of the layout, not yours.",
                    std::to_string(++fault));
}

void board_size(const Evidence& e, std::vector<Finding>& out) {
    const auto board = e.board();
    const double w = e.design.brief.width, h = e.design.brief.height;
    if (!board || board->fits(w, h)) return;
    add_finding(out, Severity::error, "board", "field:board",
                fmt::format("The board is {:.0f} × {:.0f} mm, the brief leaves {}", board->width,
                            board->height, room_text(w, h)),
                "It will not go into its case.");
}

void board_depth(const Evidence& e, std::vector<Finding>& out) {
    const auto board = e.board();
    const double room = e.design.brief.depth;
    if (!board || room <= 0 || board->depth() <= room) return;
    const BoardPart* highest = board->highest();
    if (!highest) return;
    add_finding(
        out, Severity::error, "board", "part:" + highest->designator,
        fmt::format("{} stands {:.1f} mm high: with board and legs {:.1f} mm, the brief leaves {:.1f} mm",
                    highest->designator, highest->footprint.height, board->depth(), room),
        "It will not go into its case. A lower footprint (one that lies), soldered in without a "
        "socket, on leads or in the panel: choose on Board, Parts on it.");
}

void reading_outside(const Evidence& e, std::vector<Finding>& out) {
    const bool any = std::any_of(e.design.records.begin(), e.design.records.end(),
                                 [](const StepRecord& r) { return r.measured.has_value(); });
    const auto steps = any ? e.steps() : Answer<std::vector<BuildStep>>();
    if (!steps) return;
    for (const auto& step : *steps) {
        const StepRecord* record = e.design.record(step.id);
        if (judge(step, record) != Reading::outside) continue;
        const bool number = step.check->expected.has_value();
        const bool shorted = step.check->kind == CheckKind::silent;
        auto& f =
            add_finding(out, Severity::error, "build", "step:" + step.id,
                        number ? fmt::format("{}: {} measured, {} expected", step.title,
                                             format_quantity(*record->measured, step.check->expected->unit),
                                             step.check->expected->spread_text())
                               : step.title + (shorted ? ", and it beeped" : ", and it stayed silent"),
                        number ? "Outside the band of a good unit. Look at the joint, the polarity and the "
                                 "value before going on."
                        : shorted ? "That is a short: find the bridge of solder before any cell goes in."
                                  : "That is an open joint: find it before any cell goes in.");
        f.remedies.push_back({"Clear the reading", [id = step.id](const Design& d) -> Result<Design> {
                                  Design next = d;
                                  next.record_for(id).measured.reset();
                                  return next;
                              }});
    }
}

/// The parts without a price: the first in the title, all in the detail.
std::vector<std::string> unpriced(const PartsList& list) {
    std::vector<std::string> names;
    for (const auto& line : list.lines)
        if (!line.known()) names.push_back(line.name);
    return names;
}

void cost(const Evidence& e, std::vector<Finding>& out) {
    const auto parts = e.parts();
    if (!parts) return;
    const double ceiling = e.design.brief.cost_ceiling, value = parts->cost_per_kit.value;
    if (ceiling > 0 && value > ceiling)
        add_finding(out, Severity::warning, "batch", "field:cost_ceiling",
                    fmt::format("Parts cost {:.2f} a kit, the ceiling is {:.2f}", value, ceiling),
                    "By the piece, at the drawer's pack prices.");
    const std::vector<std::string> names = unpriced(*parts);
    if (names.empty()) return;
    constexpr std::size_t most = 2;  // in a title
    const std::string some =
        names.size() <= most + 1
            ? fmt::format("{}", fmt::join(names, ", "))
            : fmt::format("{} and {} more", fmt::join(names.begin(), names.begin() + most, ", "),
                          names.size() - most);
    add_finding(
        out, Severity::note, "batch", "field:drawer", fmt::format("No price in the drawer for {}", some),
        fmt::format("The cost leaves out {}. Give a price on the Batch station.", fmt::join(names, ", ")));
}

void to_buy(const Evidence& e, std::vector<Finding>& out) {
    const auto parts = e.parts();
    if (!parts) return;
    std::string packs, whole;
    int unknown = 0;
    for (const auto& line : parts->lines) {
        if (!(line.to_buy.value > 0)) continue;
        std::string& list = line.known() ? packs : whole;
        list += list.empty() ? "" : ", ";
        list += line.known()
                    ? fmt::format("{:.0f} {} {}", line.packs, line.packs > 1 ? "packs" : "pack", line.name)
                    : fmt::format("{:.0f} × {}", line.to_buy.value, line.name);
        unknown += !line.known();
    }
    if (packs.empty() && whole.empty()) return;
    if (!packs.empty()) packs += ". ";
    if (!whole.empty()) whole = "Not in the drawer: " + whole + ".";
    add_finding(
        out, Severity::note, "batch", "field:buy",
        parts->to_spend.value > 0
            ? fmt::format("Buy for {:.2f}{} before the batch of {:.0f}", parts->to_spend.value,
                          unknown > 0 ? " and what has no price" : "", e.design.brief.kits)
            : fmt::format("Buy {} of its parts before the batch of {:.0f}", unknown, e.design.brief.kits),
        packs + whole);
}

/// The largest change of a string's current, in words; empty where none changes or the circuit moves.
std::string change_of_light(const Evidence& e, const Circuit& changed) {
    if (may_move(*e.circuit)) return "";
    const auto before = e.ask(LightQuery(e.circuit, e.fresh));
    const auto after = e.ask(LightQuery(Keyed<Circuit>(changed), e.fresh));
    if (!before || !after || before->strings.size() != after->strings.size()) return "";
    std::string words;
    double most = 0.002;  // less cannot be seen
    for (std::size_t k = 0; k < before->strings.size(); ++k) {
        const StringResult &was = before->strings[k], &is = after->strings[k];
        const double change = std::abs(is.current.value / was.current.value - 1);
        if (!(change > most) || was.leds.empty()) continue;
        most = change;
        words =
            fmt::format("{} gets {} instead of {}", was.leds.front(), is.current.text(), was.current.text());
    }
    return words;
}

constexpr double near_value = 1.25;  // beyond, another value is another circuit

std::string some_of(const std::vector<std::string>& designators) {
    constexpr std::size_t most = 3;
    if (designators.size() <= most + 1) return fmt::format("{}", fmt::join(designators, ", "));
    return fmt::format("{} and {} more", fmt::join(designators.begin(), designators.begin() + most, ", "),
                       designators.size() - most);
}

/// Values that the drawer lacks, and the nearest that it has.
void not_owned(const Evidence& e, std::vector<Finding>& out) {
    const auto parts = e.parts();
    if (!parts) return;
    for (const PartsLine& line : parts->lines) {
        if (!(line.to_buy.value > 0)) continue;
        std::vector<std::string> alike;
        for (const Part& part : e.circuit->parts)
            if (drawer_key(part) == line.key) alike.push_back(part.designator);
        if (alike.empty()) continue;
        const Part& part = *e.circuit->find(alike.front());
        auto owned = owned_values(e.drawer(), part, e.design.name, line.needed.value);
        const double asked = part.number(part_kind(part.kind)->value_key);
        std::erase_if(owned, [asked](const OwnedValue& one) {
            return !(std::abs(std::log(one.value / asked)) < std::log(near_value));
        });
        if (owned.empty()) continue;
        // a smaller resistor takes more current and gets warmer: offered only by its numbers
        const bool limits = part_kind(part.kind)->is(Role::resistor);
        const auto above = std::find_if(owned.begin(), owned.end(),
                                        [asked](const OwnedValue& one) { return one.value >= asked; });
        const OwnedValue& nearest = limits && above != owned.end() ? *above : owned.front();
        const auto replaced = [alike, with = nearest.part](Circuit circuit) {
            for (const std::string& designator : alike)
                if (Part* one = circuit.find(designator)) one->params = with.params;
            return circuit;
        };
        const std::string light = change_of_light(e, replaced(*e.circuit));
        Finding& f = add_finding(
            out, Severity::note, "batch", "part:" + alike.front(),
            fmt::format("{}: the drawer has {:.4g} of {:.4g} × {}, but {:.4g} × {}", some_of(alike),
                        line.known() ? std::max(0.0, line.stock - line.promised) : 0.0, line.needed.value,
                        value_text(part), nearest.pieces, value_text(nearest.part)),
            fmt::format("{} is {:.1f} % {} {}{}.", value_text(nearest.part),
                        100 * std::abs(nearest.value / asked - 1), nearest.value < asked ? "below" : "above",
                        value_text(part), light.empty() ? "" : "; with it " + light));
        if (limits && nearest.value < asked) continue;
        f.remedies.push_back({fmt::format("Use {}", value_text(nearest.part)),
                              [replaced](const Design& design) -> Result<Design> {
                                  return with_circuit(design, replaced(design.circuit));
                              }});
    }
}

}  // namespace

std::vector<Rule> making_rules() {
    return {
        {"board-fault",
         "parts that do not fit, or a layout that differs from the circuit",
         "the board would not work",
         "connections read back from the finished board",
         {On::board, On::conditions},
         board_fault},
        {"board-size",
         "a board larger than the brief leaves room for",
         "it will not go into its case",
         "the board against the brief",
         {On::board, On::brief},
         board_size},
        {"too-high",
         "a part higher than the room in the brief",
         "the case does not close",
         "heights of footprints, 1.6 mm of board and 2 mm of legs against the brief's depth",
         {On::board, On::brief},
         board_depth},
        {"reading",
         "a bench reading outside its band",
         "something is wrong before the next step hides it",
         "engine over LED bins, tolerances and cells",
         {On::board, On::readings, On::conditions},
         reading_outside},
        {"cost",
         "parts above the cost ceiling or without a price",
         "the kit earns nothing",
         "the drawer's prices",
         {On::board, On::batch, On::brief},
         cost},
        {"buy",
         "what the drawer lacks for the batch",
         "the batch stops half way",
         "parts list against the drawer",
         {On::board, On::batch},
         to_buy},
        {"not-owned",
         "a value that the drawer lacks, where it has one near it",
         "parts are bought, and the batch waits, for a value that another would do for",
         "the drawer, and the currents with the other value",
         {On::conditions, On::board, On::batch},
         not_owned},
    };
}

}  // namespace elkit
