// Mistakes that benches know by name: supply pins swapped, no hysteresis, a coil held on, a lithium cell
// without protection.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "engine/models.hpp"
#include "light/strings.hpp"
#include "power/charging.hpp"
#include "review/rules.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

void swapped_supply(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.circuit->source();
    if (!source) return;
    const auto run = e.run();
    for (const Part& part : e.circuit->parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind || !kind->supply) continue;
        const std::string &plus = kind->supply->plus, &minus = kind->supply->minus;
        const bool drawn =
            part.net(plus) == e.circuit->negative_rail() && part.net(minus) == source->net("+");
        const double v = run ? run->mean().voltage(part.net(plus)) - run->mean().voltage(part.net(minus)) : 0;
        if (!drawn && v > -0.3) continue;
        auto& f = add_finding(out, Severity::error, "circuit", "part:" + part.designator,
                              fmt::format("{}'s supply pins are swapped: {} goes to minus and {} to plus",
                                          part.designator, plus, minus),
                              "It gets hot and dies within seconds. Do not switch it on like this.");
        f.remedies.push_back(
            swap_pins(fmt::format("Swap {} and {}", plus, minus), part.designator, plus, minus));
    }
}

bool joined_by_resistor(const Circuit& circuit, const std::string& a, const std::string& b) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& p) {
        return is(p, Role::resistor) && p.pins.size() == 2 &&
               ((p.pins[0].net == a && p.pins[1].net == b) || (p.pins[0].net == b && p.pins[1].net == a));
    });
}

/// A sensor with a pin on the net; nullptr if there is none.
const Part* sensor_on(const Circuit& circuit, const std::string& net) {
    for (const Part& part : circuit.parts)
        if (is(part, Role::sensor))
            for (const Pin& pin : part.pins)
                if (pin.net == net) return &part;
    return nullptr;
}

void no_hysteresis(const Evidence& e, std::vector<Finding>& out) {
    constexpr double enough = 5e-3;  // V; noise and hum at a bench
    for (const Part& part : e.circuit->parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind || !kind->is(Role::chip) || !kind->param("hysteresis") ||
            part.number("hysteresis") >= enough)
            continue;
        const std::string &plus = part.net("in+"), &minus = part.net("in-"), &output = part.net("out");
        const Part* sensor = sensor_on(*e.circuit, plus);
        if (!sensor) sensor = sensor_on(*e.circuit, minus);
        if (!sensor || plus.empty() || output.empty() || joined_by_resistor(*e.circuit, output, plus))
            continue;
        auto& f = add_finding(out, Severity::warning, "circuit", "part:" + part.designator,
                              fmt::format("{} has {} of hysteresis for {}", part.designator,
                                          volts(part.number("hysteresis")), sensor->designator),
                              "A sensor that passes slowly through the threshold makes it switch to and fro "
                              "many times. A resistor "
                              "from its output back to in+ gives it two thresholds.");
        f.remedies.push_back(
            add_between("Add 1 MΩ from the output to in+", kind_with(Role::resistor), 1e6, output, plus));
    }
}

void other_supply(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run) return;
    for (const Part& chip : e.circuit->parts) {
        const PartKind* kind = part_kind(chip.kind);
        if (!kind || !kind->is(Role::chip) || !kind->supply) continue;
        const std::string& own = chip.net(kind->supply->plus);
        for (const Need& need : kind->needs) {
            if (need.what != Need::What::hold || chip.net(need.pin).empty()) continue;
            for (const Part& r : e.circuit->parts) {
                if (!(is(r, Role::resistor) || is(r, Role::sensor)) || r.pins.size() != 2) continue;
                for (std::size_t k = 0; k < 2; ++k) {
                    const std::string& top = r.pins[1 - k].net;
                    const bool another =
                        std::any_of(e.circuit->parts.begin(), e.circuit->parts.end(), [&](const Part& s) {
                            return is(s, Role::source) && !is(s, Role::bench) && s.net("+") == top;
                        });
                    if (r.pins[k].net != chip.net(need.pin) || !another || top == own) continue;
                    const double apart = run->mean().voltage(top) - run->mean().voltage(own);
                    if (std::abs(apart) < 0.2) continue;
                    auto& f = add_finding(
                        out, Severity::warning, "circuit", "part:" + r.designator,
                        fmt::format("{} hangs on {}, and {} that reads it on {}: {} apart", r.designator, top,
                                    chip.designator, own, volts(std::abs(apart))),
                        "The threshold moves with either supply. From one supply it stays a share of it.",
                        need.pin);
                    int others = 0;
                    for (const Part& p : e.circuit->parts)
                        for (const Pin& pin : p.pins)
                            others += pin.net == top && p.designator != r.designator;
                    if (others < 2) continue;  // the other supply would be left alone
                    f.remedies.push_back(circuit_remedy(fmt::format("Put {} on {}", r.designator, own),
                                                        [d = r.designator, pin = r.pins[1 - k].name,
                                                         own](Circuit& circuit) -> std::optional<Error> {
                                                            auto moved = move_pin(circuit, d, pin, own);
                                                            if (!moved) return moved.error();
                                                            circuit = std::move(moved).value();
                                                            return {};
                                                        }));
                }
            }
        }
    }
}

/// True if no button is held and nothing has happened.
bool nobody_near(const Circuit& circuit, const Conditions& c) {
    return c.events.empty() && std::none_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& p) {
               return is(p, Role::momentary) && c.closed(p) != closed_as_drawn(p);
           });
}

void coil_held(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.circuit->source();
    const auto run = e.run();
    if (!run || !source || !is(*source, Role::cells) || !nobody_near(*e.circuit, e.fresh)) return;
    for (const Part& part : e.circuit->parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind || !kind->is(Role::coil) || !kind->param("pull_in") || run->moves()) continue;
        const double current = std::abs(run->mean().part(part.designator).current);
        const double holds = part.number("release") / part.number("coil_resistance");
        if (!(current > holds)) continue;
        add_finding(
            out, Severity::note, "power", "part:" + part.designator,
            fmt::format("{} is held on: its coil takes {} all the while", part.designator, amps(current)),
            fmt::format("With nobody near, {} is joined to no. What is on at rest belongs on nc, so that the "
                        "coil is idle then.",
                        part.net("common").empty() ? "common" : part.net("common")));
    }
}

void lithium_care(const Evidence& e, std::vector<Finding>& out) {
    for (const Part& part : e.circuit->parts) {
        const auto cell = is(part, Role::cells) ? cell_of(part, known_catalogue()) : std::nullopt;
        if (!cell || cell->chemistry != "lithium-ion") continue;
        if (!cell->protection && !any(*e.circuit, Role::protects)) {
            auto& f = add_finding(
                out, Severity::error, "power", "part:" + part.designator,
                fmt::format("{} is a bare lithium cell: nothing stops it at {} or when it is shorted",
                            part.designator, volts(cell->cutoff)),
                "Emptied too far it is ruined and may catch fire when it is charged again; a short burns. "
                "Take a pack "
                "with protection, or put a protection module behind it. Charge it where it may burn, and "
                "under watch.");
            for (const CellType& other : known_catalogue().cells)
                if (other.chemistry == cell->chemistry && other.protection)
                    f.remedies.push_back(
                        set_param("Use the " + other.name, part.designator, "cell", other.id));
        }
        for (const Part& charger : e.circuit->parts) {
            if (!is(charger, Role::charges)) continue;
            const double rate = charging_current(charger);
            const double charge = cell->capacity.points.front().y;
            if (!(rate > charge)) continue;  // 1 C
            auto& f = add_finding(out, Severity::error, "power", "part:" + charger.designator,
                                  fmt::format("{} charges with {}, and {} bears {} at most",
                                              charger.designator, amps(rate), part.designator, amps(charge)),
                                  "Above one hour's charge a lithium cell heats up. Set the charger lower.",
                                  part.designator);
            f.remedies.push_back(set_param("Charge in two hours", charger.designator, "max_current",
                                           rated_for_charging(charge / 2)));
        }
    }
}

/// The cells that a charger module fills: those at its output, or, behind other parts, the circuit's source.
std::vector<const Part*> filled_by(const Part& charger, const Circuit& circuit) {
    const std::string output = charger.net(part_kind(charger.kind)->module->outputs.front().pin);
    std::vector<const Part*> cells;
    for (const Part& part : circuit.parts)
        if (is(part, Role::cells) && part.net("+") == output) cells.push_back(&part);
    const Part* source = circuit.source();
    if (cells.empty() && source && is(*source, Role::cells)) cells.push_back(source);
    return cells;
}

/// A charger module ends at the volts of one lithium cell: at any other it never ends, or ends too late.
void charger_at_other_cells(const Evidence& e, std::vector<Finding>& out) {
    for (const Part& charger : e.circuit->parts) {
        if (!is(charger, Role::charges)) continue;
        for (const Part* part : filled_by(charger, *e.circuit)) {
            const auto cell = cell_of(*part, known_catalogue());
            const double count = std::max(part->number("count"), 1.0);
            if (!cell || (cell->chemistry == "lithium-ion" && count <= 1)) continue;
            auto& f = add_finding(
                out, Severity::error, "power", "part:" + part->designator,
                fmt::format("{} charges one lithium cell; {} is {:.0f} × {}", charger.designator,
                            part->designator, count, cell->name),
                rechargeable(*cell)
                    ? "It ends at the volts of one lithium cell, and of no other. Charge these outside, in a "
                      "charger for their kind."
                    : "Cells that are not made for it leak, burst or burn when they are charged. Never "
                      "charge "
                      "them.",
                charger.designator);
            f.remedies.push_back(circuit_remedy(
                "Take " + charger.designator + " out",
                [name = charger.designator](Circuit& circuit) -> std::optional<Error> {
                    std::erase_if(circuit.parts, [&](const Part& p) { return p.designator == name; });
                    return {};
                }));
        }
    }
}

void cell_charged(const Evidence& e, std::vector<Finding>& out) {
    constexpr double minds = 1e-3;  // A; typical leaflets allow microamperes through a blocking diode
    const auto run = e.run();
    if (!run) return;
    for (const Part& part : e.circuit->parts) {
        const auto cell = is(part, Role::cells) ? cell_of(part, known_catalogue()) : std::nullopt;
        if (!cell || cell->endless()) continue;
        const double into = run->mean().part(part.designator).current;  // into its plus
        if (!(into > minds)) continue;
        const bool bears = rechargeable(*cell);
        auto& f = add_finding(
            out, bears ? Severity::warning : Severity::error, "power", "part:" + part.designator,
            fmt::format("{} is charged with {}", part.designator, amps(into)),
            bears ? "Nothing here says when it is full. Charge it with a charger for its kind, and watch it."
                  : "A cell that is not made for it leaks or bursts when it is charged. A diode lets its "
                    "current out only.");
        f.remedies.push_back(circuit_remedy(
            "Put a diode before " + part.designator,
            [name = part.designator,
             plus = part.pins.front().name](Circuit& circuit) -> std::optional<Error> {
                const Part diode{{}, kind_with(Role::blocks), {{"type", std::string("schottky")}}, {}, {}};
                auto next = insert_at_pin(circuit, name, plus, diode, name + "+");
                if (!next) return next.error();
                circuit = std::move(next).value();
                return {};
            }));
    }
}

void outside_energy(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    if (!run || !is_lit(*e.circuit, run->mean())) return;
    for (const Part& part : e.circuit->parts) {
        if (!is(part, Role::bench)) continue;
        const double given = -run->mean().part(part.designator).power();
        if (!(given > 1e-4)) continue;
        add_finding(
            out, Severity::note, "power", "part:" + part.designator,
            fmt::format("{} gives {} from outside", part.designator, format_quantity(given, Unit::watt)),
            "A source of the bench is no part of the kit: what it gives is in no run time, and the gadget "
            "has to "
            "do without it.");
    }
}

/// A latch that nothing slows down: the edge of the supply itself, through the transistors' own capacitances,
/// can set it.
void latches_at_power_up(const Evidence& e, std::vector<Finding>& out) {
    constexpr double holds_off = 1e-7;  // F, bench practice
    if (!may_latch(*e.circuit) || may_move(*e.circuit)) return;
    Conditions untouched = e.fresh;
    untouched.events.clear();
    const auto states = e.ask(StatesQuery(e.circuit, untouched));
    const auto rest = e.ask(RestQuery(e.circuit, untouched));
    if (!states || states->size() < 2 || !rest) return;
    const OperatingPoint& powered = states->front();
    if (!(powered.supply_current() > 2 * rest->supply_current() + 1e-5)) return;
    const Part* set = nullptr;  // the transistor that the edge turns on
    double most = 0;
    for (const Part& part : e.circuit->parts) {
        const double more =
            std::abs(powered.part(part.designator).current) - std::abs(rest->part(part.designator).current);
        if (is(part, Role::transistor) && part.pins.size() > 2 && more > most) set = &part, most = more;
    }
    if (!set) return;
    auto& f = add_finding(
        out, Severity::warning, "circuit", "part:" + set->designator,
        fmt::format("{} may be on as soon as power is put on", set->designator),
        fmt::format(
            "The edge of the supply alone, through the transistors' own capacitances, sets this latch: "
            "it then takes {} where it would wait with {}. {} from {} to {} of {} holds it off.",
            amps(powered.supply_current()), amps(rest->supply_current()),
            format_quantity(holds_off, Unit::farad), set->pins[1].name, set->pins[2].name, set->designator));
    f.remedies.push_back(add_between(fmt::format("Add {} there", format_quantity(holds_off, Unit::farad)),
                                     kind_with(Role::capacitor), holds_off, set->pins[1].net,
                                     set->pins[2].net));
}

}  // namespace

std::vector<Rule> pitfall_rules() {
    return {
        {"swapped-supply",
         "a chip or module with its supply pins swapped",
         "it dies within seconds",
         "its supply nets, and the voltage between them in the long run",
         {On::conditions},
         swapped_supply},
        {"no-hysteresis",
         "a threshold without hysteresis for a sensor",
         "it switches to and fro as the sensor passes",
         "the comparator's own hysteresis and a resistor from output to in+; 5 mV is bench practice",
         {},
         no_hysteresis},
        {"other-supply",
         "an input whose divider hangs on another supply than its reader",
         "the threshold moves with either",
         "parts at the inputs, voltages in the long run",
         {On::conditions},
         other_supply},
        {"coil-held",
         "a relay that is on at rest",
         "its coil empties the cells",
         "current of the coil in situations that nobody touches, against what holds it",
         {On::conditions},
         coil_held,
         Over::every},
        {"power-up",
         "a latch that is on as soon as power is put on",
         "it waits in the other state, or empties the cells",
         "the state that the engine comes to from power-up, against the one at rest; 100 nF is bench "
         "practice",
         {On::conditions},
         latches_at_power_up},
        {"cell-charged",
         "a cell that another source charges",
         "cells that are not made for it leak or burst",
         "current into its plus in the long run; 1 mA is bench practice",
         {On::conditions},
         cell_charged,
         Over::every},
        {"charger-cell",
         "a charger module at cells that it is not for",
         "they leak, burst or burn",
         "cell type and count beside the module; modules charge one lithium cell",
         {},
         charger_at_other_cells},
        {"outside-energy",
         "lights that a source of the bench feeds",
         "the gadget will not have it",
         "power of voltage and current sources in the long run",
         {On::conditions},
         outside_energy},
        {"lithium",
         "a lithium cell without protection, or charged too fast",
         "it may burn",
         "cell type, modules beside it; one hour's charge from typical datasheets",
         {},
         lithium_care},
    };
}

}  // namespace elkit
