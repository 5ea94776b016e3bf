#include <fmt/format.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/models.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

/// Current from the source [A], everything on and fresh cells; rms over a cycle where the circuit moves, 0
/// while that is being computed.
double fresh_current(const Evidence& e) {
    const Part* source = e.design.circuit.source();
    if (const LongRun* run = fresh_run(e); run && source)
        return run->moves() ? run->rms(source->designator, "+") : run->mean().supply_current();
    if (may_move(e.design.circuit)) return 0;
    Conditions c = lit(e.design.circuit, e.conditions);
    c.battery = 1;
    auto op = operating_point(e.design.circuit, built_in_catalogue(), c);
    return op ? op.value().supply_current() : 0;
}

void cell_rate(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.design.circuit.source();
    if (!source) return;
    const auto cell = cell_of(*source, built_in_catalogue());
    const double limit = cell ? cell->max_current : source->number("max_current");
    const double asked = fresh_current(e);
    if (asked <= limit) return;
    const std::string name = cell ? cell->id : source->designator;
    auto& f = add_finding(
        out, cell && cell->limits_itself ? Severity::warning : Severity::error, "power",
        "part:" + source->designator,
        fmt::format("The {} can give about {}; the lights take {} fresh", name, amps(limit), amps(asked)),
        cell && cell->limits_itself
            ? fmt::format("It sags and loses capacity: {} of {} can be had at this rate.",
                          format_quantity(cell->usable_charge(asked, 21), Unit::ampere_hour),
                          format_quantity(cell->capacity.points.front().y, Unit::ampere_hour))
            : "Above its rating it heats up or switches off.");
    if (e.design.light && cell && cell->limits_itself)
        f.remedies.push_back(goals_remedy(
            "Feed it from 3 × LR03", [](LightGoals& g) { g.cell = "LR03", g.cells = 3, g.resistor = true; }));
}

/// The largest current that reaches the wanted run time, to 2 %.
Result<Design> slow_down(const Design& design, double celsius) {
    if (!design.light)
        return Error{Fault::design, "/recipe", "there are no goals to size from",
                     "a design made by the steady-light recipe"};
    double low = 1e-4, high = design.light->current;
    std::optional<Design> best;
    for (int i = 0; i < 9; ++i) {
        LightGoals goals = *design.light;
        goals.current = std::sqrt(low * high);
        auto trial = apply_steady_light(design, goals);
        const auto run = trial
                             ? discharge(trial.value().circuit, {1, celsius, {}}, design.brief.end_brightness)
                             : Result<Discharge>(trial.error());
        if (run && run.value().hours >= design.brief.run_time)
            low = goals.current, best = std::move(trial).value();
        else
            high = goals.current;
    }
    if (!best) return Error{Fault::design, "run time", "no current is low enough", "a larger cell"};
    best->light->current = std::round(best->light->current * 1e4) / 1e4;
    return *best;
}

void run_time(const Evidence& e, std::vector<Finding>& out) {
    if (!e.deep || !e.deep->power) return;
    const Figure& f = e.deep->power->run_time;
    const double wanted = e.design.brief.run_time;
    const double low = f.low.value_or(f.value);
    if (low >= wanted) return;
    const bool sure = f.value < wanted;
    auto& finding = add_finding(
        out, sure ? Severity::error : Severity::warning, "power", "field:run_time",
        sure ? fmt::format("It runs {}, the brief asks for {}", f.text(), format_quantity(wanted, Unit::hour))
             : fmt::format("Some units run {} only, the brief asks for {}", format_quantity(low, Unit::hour),
                           format_quantity(wanted, Unit::hour)),
        fmt::format("Ended by: {}; {:.0f} % of the energy is still in the cells then.",
                    e.deep->power->typical.ended_by, e.deep->power->energy_left.value));
    if (e.design.light && e.design.light->resistor && sure)
        finding.remedies.push_back(
            {"Lower the current until it lasts",
             [celsius = e.conditions.celsius](const Design& d) { return slow_down(d, celsius); }});
    if (e.design.light && e.design.light->per_string > 1)
        finding.remedies.push_back(
            goals_remedy("One LED fewer a string", [](LightGoals& g) { g.per_string -= 1; }));
}

void switch_rating(const Evidence& e, std::vector<Finding>& out) {
    for (const Part& part : e.design.circuit.parts) {
        if (part.kind != "switch") continue;
        const double current = fresh_run(e) ? fresh_run(e)->rms(part.designator, "a") : fresh_current(e);
        if (current > part.number("rating"))
            add_finding(out, Severity::error, "power", "part:" + part.designator,
                        fmt::format("{} carries {}, its contact is rated {}", part.designator, amps(current),
                                    amps(part.number("rating"))),
                        "Contacts burn and stick above their rating: use a larger switch, or let it drive a "
                        "transistor.");
    }
}

void wire_rating(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.design.circuit.source();
    if (!source) return;
    const double current = fresh_current(e), area = source->number("lead_area");
    const Catalogue& catalogue = built_in_catalogue();
    const WireType& wire = catalogue.wire_at_least(area);
    const auto thicker = [&](double wanted) -> Remedy {
        return {fmt::format("Use {} mm² leads", format_quantity(wanted, Unit::none)),
                [d = source->designator, wanted](const Design& design) -> Result<Design> {
                    Design next = design;
                    if (Part* p = next.circuit.find(d)) p->params["lead_area"] = wanted;
                    return next;
                }};
    };
    if (current > wire.max_current) {
        auto& f =
            add_finding(out, Severity::error, "power", "part:" + source->designator,
                        fmt::format("The {} mm² leads carry {}, good for {}",
                                    format_quantity(area, Unit::none), amps(current), amps(wire.max_current)),
                        "Thin leads get warm and lose volts.");
        for (const auto& w : catalogue.wires)
            if (w.max_current >= current) {
                f.remedies.push_back(thicker(w.area));
                break;
            }
        return;
    }
    auto model = source_model(*source, catalogue, {1, e.conditions.celsius, {}});
    if (!model) return;
    const double drop = current * lead_resistance(*source, e.conditions.celsius);
    if (drop <= 0.03 * model.value().voltage) return;
    auto& f = add_finding(out, Severity::warning, "power", "part:" + source->designator,
                          fmt::format("The leads lose {} of {}", format_quantity(drop, Unit::volt),
                                      format_quantity(model.value().voltage, Unit::volt)),
                          "More than 3 % stays in the wire: shorten it or take a thicker one.");
    for (const auto& w : catalogue.wires)
        if (w.area >= area * drop / (0.03 * model.value().voltage)) {
            f.remedies.push_back(thicker(w.area));
            break;
        }
}

void supply_limit(const Evidence& e, std::vector<Finding>& out) {
    for (const Part& part : e.design.circuit.parts) {
        if (part.kind != "battery" && part.kind != "supply") continue;
        const auto cell = cell_of(part, built_in_catalogue());
        const double volts = part.kind == "supply"
                                 ? part.number("voltage")
                                 : (cell ? part.number("count") * cell->open_circuit.at(1) : 0);
        if (volts <= highest_supply) continue;
        add_finding(out, Severity::error, "power", "part:" + part.designator,
                    fmt::format("{} gives {}: refused above 60 V DC", part.designator,
                                format_quantity(volts, Unit::volt)),
                    "Such voltages can kill. Use a ready-made certified supply and leave the wiring to a "
                    "licensed electrician and the local code.");
    }
}

void coin_caution(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.design.circuit.source();
    const auto cell = source ? cell_of(*source, built_in_catalogue()) : std::nullopt;
    if (!cell) return;
    const std::string ref = "part:" + source->designator;
    if (cell->chemistry == "lithium coin" || cell->chemistry == "alkaline button")
        add_finding(out, e.design.brief.for_children ? Severity::warning : Severity::note, "power", ref,
                    "Coin and button cells are deadly if swallowed",
                    "Anything for children needs a battery compartment closed by a screw; keep loose cells "
                    "away from them.");
    if (cell->chemistry == "lithium-ion")
        add_finding(out, Severity::note, "power", ref, "Lithium cell: protect it",
                    "Use a cell or module with over-discharge cut-off, a fuse or PTC, a keyed connector; "
                    "charge with a protected charger, never unattended.");
}

}  // namespace

std::vector<Rule> power_rules() {
    return {
        {"supply-limit", "a supply above 60 V DC", "it can kill; only low voltage is handled here",
         "open-circuit voltage, fresh", supply_limit},
        {"cell-rate", "a cell or supply asked for more than it can give",
         "it sags, loses capacity or switches off", "operating point, fresh cells", cell_rate},
        {"run-time", "a run time under the brief", "the gadget goes dark too early",
         "discharge of the cells through the circuit", run_time},
        {"switch-rating", "a switch over its rating", "contacts burn and stick",
         "operating point, fresh cells", switch_rating},
        {"wire-rating", "leads over their rating, or more than 3 % of the supply lost in them",
         "thin leads get warm and lose volts", "operating point and copper's resistance", wire_rating},
        {"cell-caution", "cells that need care", "swallowed coin cells and shorted lithium cells injure",
         "the cell's chemistry", coin_caution},
    };
}

}  // namespace elkit
