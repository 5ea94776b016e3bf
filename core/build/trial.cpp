#include "build/trial.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "build/contributions.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

// typical datasheets of solderless breadboards: contact resistance, current of a contact, capacitance between
// two groups side by side
constexpr double contact_ohms = 0.02, contact_amps = 1, between_groups = 3e-12;
constexpr int contacts_in_supply = 6;  // both leads, and a wire to and from the load

/// What is chosen for the board to come lays no trial out anew.
BoardChoices on_breadboard(const BoardChoices& choices) {
    BoardChoices on;
    on.method = "trial", on.breadboard = choices.breadboard, on.wire_colours = choices.wire_colours;
    on.parts = choices.parts;
    return on;
}

void add_first(const Board& board, std::vector<BuildStep>& steps) {
    const bool rails = std::any_of(board.pins.begin(), board.pins.end(), [](const PlacedPin& p) {
        return p.place.find('+') != std::string::npos || p.place.find("−") != std::string::npos;
    });
    add_step(
        steps, "prepare.board", Phase::prepare, 0, "Take a breadboard: " + board.size,
        std::string("Old sockets are worn and hold no thin leg: pull at each wire.") +
            (rails ? " On some the rails are parted in the middle: beep from end to end, and bridge the gap."
                   : ""));
}

std::string learnt(const BuildStep& s) {
    const auto is_of = [&](const char* what) { return s.id.starts_with(what); };
    if (is_of("measure."))
        return "In its band: it is the part of the design. Beside it: another value lies in your hand; take "
               "the right one, or put what it measures into the design.";
    if (is_of("beep."))
        return "A beep: its wires hold. Silent: a leg sits a hole beside its place, or a wire is loose.";
    if (is_of("silent.") || is_of("ohms."))
        return "As it should be: nothing shorts the cells, power may come. Else pull out one wire after the "
               "other; the last before it stops was in the wrong hole.";
    if (is_of("volts.supply"))
        return "In its band: cells and contacts carry the load. Below: too much flows, or the cells are "
               "weak; the current tells which. Cells out if anything gets warm.";
    if (is_of("amps.supply"))
        return "In its band: everything takes what was computed, and the run time holds. More: a part is "
               "turned round or joined to a neighbour. Less: something is not joined.";
    if (is_of("amps.waiting"))
        return "In its band: the run time while it waits holds. More: something does not switch off.";
    if (is_of("volts."))
        return "In its band: the current through it is as computed, so is what hangs on it. Zero: no way for "
               "the current. Far beside: another value in your hand than in the design; put the one that was "
               "found into "
               "the design.";
    return "";
}

void add_take_down(const Circuit& circuit, std::vector<BuildStep>& steps) {
    double rank = 0;
    const auto add = [&](const char* id, std::string title, std::string text) {
        add_step(steps, std::string("down.") + id, Phase::close, rank++, std::move(title), std::move(text));
    };
    add("cells", "Cells out first", "Then nothing that touches by mistake does harm.");
    const auto stores = std::find_if(circuit.parts.begin(), circuit.parts.end(), [](const Part& p) {
        return is(p, Role::polar) && p.number("value") >= 1e-4;
    });
    if (stores != circuit.parts.end())
        add("empty", fmt::format("Empty {}", stores->designator),
            "Hold 1 kΩ across its legs for some seconds: what it still has would spark, or spoil a chip.");
    add("note", "Note what was swapped",
        "Each value that was found goes into the design before its part goes back.");
    add("wires", "Wires", "By colour and length, back where the next trial finds them.");
    if (any(circuit, Role::chip))
        add("chips", "Chips",
            "Lift both ends in turns with a small screwdriver; straighten bent legs at once.");
    add("parts", "Parts",
        "Back into their boxes; what was in doubt is measured once more, bent-off legs go to the bin.");
}

std::vector<std::string> differences(const Circuit& circuit, const Board& board, const Figure& current) {
    std::vector<std::string> all;
    const double amps = std::abs(current.value), drop = contacts_in_supply * contact_ohms * amps;
    all.push_back(
        fmt::format("Contacts: each adds about {}. At {} some {} of them in the supply's way take {}; on the "
                    "board they are gone.",
                    format_quantity(contact_ohms, Unit::ohm), format_quantity(amps, Unit::ampere),
                    contacts_in_supply, format_quantity(drop, Unit::volt)));
    const double highest = std::max(amps, current.high.value_or(amps));
    if (highest > contact_amps)
        all.push_back(fmt::format(
            "Too much for a breadboard: up to {} flow, a contact is good for {}. Solder the heavy "
            "path, or try it with a smaller load.",
            format_quantity(highest, Unit::ampere), format_quantity(contact_amps, Unit::ampere)));
    const Part* source = circuit.source();
    if (source && any(circuit, Role::chip)) {
        const auto across = std::find_if(circuit.parts.begin(), circuit.parts.end(), [&](const Part& p) {
            return is(p, Role::capacitor) &&
                   std::any_of(p.pins.begin(), p.pins.end(),
                               [&](const Pin& pin) { return pin.net == source->net("-"); }) &&
                   p.number("value") >= 2e-8;
        });
        all.push_back(
            across == circuit.parts.end()
                ? "Supply: no capacitor sits at the chips. The long rails of a breadboard make that worse "
                  "than it will be: plug 100 nF across the supply beside each chip."
                : fmt::format("Supply: {} helps only close to its chip, here as on the board to come.",
                              across->designator));
    }
    std::string small, high;
    for (const Part& p : circuit.parts) {
        if (is(p, Role::capacitor) && p.number("value") < 50 * between_groups)
            small += (small.empty() ? "" : ", ") + p.designator;
        if (is(p, Role::resistor) && p.number("value") >= 1e6)
            high += (high.empty() ? "" : ", ") + p.designator;
    }
    if (!small.empty())
        all.push_back(
            fmt::format("Capacitance: groups side by side have about {} between them, which adds to {}.",
                        format_quantity(between_groups, Unit::farad), small));
    if (!high.empty())
        all.push_back(fmt::format(
            "Leakage: at {} damp fingers and dirty sockets count; hum from the mains comes in over "
            "long legs. On the board short and clean.",
            high));
    if (const auto wires = board.on_wires(); !wires.empty())
        all.push_back(fmt::format("Leads: {} hang on wires here as later; theirs will be of another length.",
                                  fmt::join(wires, ", ")));
    return all;
}

}  // namespace

std::string trial_phase_name(Phase phase) {
    switch (phase) {
        case Phase::prepare:
            return "Sort out";
        case Phase::solder:
            return "Plug in";
        case Phase::wire:
            return "Wires";
        case Phase::close:
            return "Take it down";
        default:
            return phase_name(phase);
    }
}

Digest TrialQuery::key() const {
    Digester d;
    d << circuit.digest() << content_digest(on_breadboard(board)) << content_digest(situations);
    return d.digest();
}

Result<Trial> TrialQuery::compute(const Ask& ask) const {
    const auto made = ask(BoardQuery{circuit, on_breadboard(board)});
    if (!made) return made.error();
    const auto states = powered_states(ask, circuit, situations);
    if (!states) return states.error();
    Trial trial{*made, {}, {}};
    auto& steps = trial.steps;
    add_first(*made, steps);
    add_plugging_steps(*circuit, *made, steps);
    add_board_steps(*made, steps);
    add_unpowered_checks(*circuit, *made, steps);
    std::erase_if(steps, [&](const BuildStep& s) {  // only what hangs on wires can be loose
        return s.id.starts_with("beep.") &&
               std::none_of(made->wires.begin(), made->wires.end(),
                            [&](const BoardWire& w) { return w.net == s.id.substr(5); });
    });
    add_powered_checks(*circuit, *made, states.value().on, steps);
    if (const auto& waiting = states.value().waiting) add_waiting_check(*circuit, *made, *waiting, steps);
    add_take_down(*circuit, steps);
    for (BuildStep& s : steps) {
        if (s.check) s.learnt = learnt(s);
        s.id.insert(0, "trial.");  // what is measured here says nothing of the board to come
    }
    std::stable_sort(steps.begin(), steps.end(), [](const BuildStep& a, const BuildStep& b) {
        return std::pair(a.phase, a.rank) < std::pair(b.phase, b.rank);
    });
    trial.differs = differences(*circuit, *made, states.value().on.readings.supply_current("trial.current"));
    if (const auto flat = surface_parts(*circuit, board); !flat.empty())
        trial.differs.push_back(fmt::format(
            "Form: {} {} soldered on the surface of the board to come; try {} with legs, of the same "
            "values.",
            fmt::join(flat, ", "), flat.size() == 1 ? "is" : "are", flat.size() == 1 ? "it" : "them"));
    return trial;
}

}  // namespace elkit
