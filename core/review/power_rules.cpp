#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "catalogue/catalogue.hpp"
#include "engine/models.hpp"
#include "power/discharge.hpp"
#include "power/wiring.hpp"
#include "recipes/blocks.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

/// Current from the source [A], everything on and fresh cells; rms over a cycle where the circuit moves.
double fresh_current(const Evidence& e) {
    const Part* source = e.circuit->source();
    const auto run = e.run();
    if (!run || !source) return 0;
    return run->moves() ? run->rms(source->designator, "+") : run->mean().supply_current();
}

/// Cells of about the same voltage that can give so much.
void add_stronger_cells(const Evidence& e, const Part& source, const CellType& cell, double asked,
                        Finding& f) {
    const double volts = cell.open_circuit.at(0.5);
    for (const CellType& other : known_catalogue().cells)
        if (other.id != cell.id && !other.endless() && other.max_current >= 1.1 * asked && other.cutoff > 0 &&
            std::abs(other.open_circuit.at(0.5) / volts - 1) < 0.25)
            f.remedies.push_back(with_currents_kept(
                e, "Use " + other.name, [name = source.designator, id = other.id](Circuit& circuit) {
                    circuit.find(name)->params["cell"] = id;
                }));
}

/// What of its charge a cell gives at this rate.
void slow_cells(const Evidence& e, const Part& source, const CellType& cell, double asked,
                std::vector<Finding>& out) {
    constexpr double much = 0.7;
    if (cell.endless()) return;
    const double had = cell.usable_charge(asked, 21), full = cell.capacity.points.front().y;
    if (had >= much * full) return;
    auto& f = add_finding(
        out, Severity::note, "power", "part:" + source.designator,
        fmt::format("At {} the {} gives {} of its {}", amps(asked), cell.id,
                    format_quantity(had, Unit::ampere_hour), format_quantity(full, Unit::ampere_hour)),
        "The faster a cell is emptied, the less of its charge comes out.", "charge");
    add_stronger_cells(e, source, cell, 2 * asked, f);
}

void cell_rate(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.circuit->source();
    if (!source) return;
    const auto cell = cell_of(*source, known_catalogue());
    const double limit = cell ? cell->max_current : source->number("max_current");
    const double asked = fresh_current(e);
    if (cell && limit > 0 && asked <= limit) slow_cells(e, *source, *cell, asked, out);
    if (!(limit > 0) || asked <= limit) return;
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
    if (cell && cell->limits_itself) add_goal_remedies(e.design, "cell-rate", source->designator, f);
    if (cell) add_stronger_cells(e, *source, *cell, asked, f);
}

/// The highest value of a block's effort that reaches the wanted run time, to 2 %.
Result<Design> slow_down(const Design& design, std::size_t block, const std::string& goal,
                         const Conditions& conditions) {
    if (block >= design.blocks.size())
        return Error{Fault::design, "/blocks", "there are no goals to size from", "a block of a recipe"};
    Store store;
    const Ask ask(store);
    const double now = goals_of(design, design.blocks[block]).number(goal);
    double low = 1e-2 * now, high = now;
    std::optional<Design> best;
    for (int i = 0; i < 9; ++i) {
        const double middle = std::sqrt(low * high);
        auto trial = with_goal(design, block, goal, std::round(middle * 1e5) / 1e5);
        const auto run = trial ? ask(DischargeQuery(Keyed<Circuit>(trial.value().circuit), conditions,
                                                    design.brief.end_brightness))
                               : Answer<Discharge>();
        if (run && run->hours >= design.brief.run_time)
            low = middle, best = std::move(trial).value();
        else
            high = middle;
    }
    if (!best) return Error{Fault::design, "run time", "no " + goal + " is low enough", "a larger cell"};
    return *best;
}

void run_time(const Evidence& e, std::vector<Finding>& out) {
    const auto power = e.power();
    if (!power) return;
    const Figure& f = power->run_time;
    const double wanted = e.design.brief.run_time;
    const double low = f.low.value_or(f.value);
    if (!(wanted > 0) || low >= wanted) return;
    const bool sure = f.value < wanted;
    auto& finding = add_finding(
        out, sure ? Severity::error : Severity::warning, "power", "field:run_time",
        sure ? fmt::format("It runs {}, the brief asks for {}", f.text(), format_quantity(wanted, Unit::hour))
             : fmt::format("Some units run {} only, the brief asks for {}", format_quantity(low, Unit::hour),
                           format_quantity(wanted, Unit::hour)),
        fmt::format("Ended by: {}; {:.0f} % of the energy is still in the cells then.",
                    power->typical.ended_by, power->energy_left.value));
    for (std::size_t k = 0; sure && k < e.design.blocks.size(); ++k) {
        const Recipe* recipe = find_recipe(e.design.blocks[k].recipe);
        const GoalInfo* effort = recipe ? recipe->goal(recipe->effort) : nullptr;
        if (!effort || (recipe->works_at && !recipe->works_at(goals_of(e.design, e.design.blocks[k]))))
            continue;
        finding.remedies.push_back(
            {fmt::format("Lower the {} until it lasts", effort->info.label),
             [k, key = effort->info.key, c = e.fresh](const Design& d) { return slow_down(d, k, key, c); }});
    }
    add_goal_remedies(e.design, "run-time", "", finding);
    const Part* source = e.circuit->source();
    const auto cell = source ? cell_of(*source, known_catalogue()) : std::nullopt;
    if (!cell || cell->endless()) return;
    for (const CellType& other : known_catalogue().cells)  // of the same voltage, with enough in it
        if (!other.endless() && std::abs(other.open_circuit.at(0.5) / cell->open_circuit.at(0.5) - 1) < 0.1 &&
            other.capacity.points.front().y * low > 1.1 * wanted * cell->capacity.points.front().y)
            finding.remedies.push_back(set_param("Use " + other.name, source->designator, "cell", other.id));
}

/// A plan that cannot be followed leaves the run time unknown: that must not pass in silence.
void day_plan_faults(const Evidence& e, std::vector<Finding>& out) {
    const auto run = e.run();
    const auto power = e.power();
    if (run && power.there() && !power)
        add_finding(out, Severity::error, "power", "field:run_time",
                    "The run time cannot be told: " + power.error().place + " " + power.error().found,
                    "Expected " + power.error().expected + ".");
    const auto missing = [&](const std::string& part) { return !e.circuit->find(part); };
    for (const Situation& s : e.design.situations) {
        std::set<std::string> gone;
        for (const auto& [part, on] : s.conditions.switches)
            if (missing(part)) gone.insert(part);
        for (const auto* amounts : {&s.conditions.knobs, &s.conditions.levels, &s.conditions.warmth})
            for (const auto& [part, amount] : *amounts)
                if (missing(part)) gone.insert(part);
        for (const HandEvent& event : s.conditions.events)
            if (missing(event.part)) gone.insert(event.part);
        if (!gone.empty())
            add_finding(out, Severity::warning, "power", "field:run_time",
                        fmt::format("\"{}\" speaks of {}, which is not there", s.name, fmt::join(gone, ", ")),
                        "What it says of it changes nothing. Set the situation anew, or remove it.", s.name);
    }
}

void wire_rating(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.circuit->source();
    if (!source) return;
    const double current = fresh_current(e), area = source->number("lead_area");
    const Catalogue& catalogue = known_catalogue();
    const WireType& wire = catalogue.wire_at_least(area);
    const auto thicker = [&](double wanted) {
        return set_param(fmt::format("Use {} mm² leads", format_quantity(wanted, Unit::none)),
                         source->designator, "lead_area", wanted);
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
    auto model = source_model(*source, catalogue, e.fresh);
    if (!model) return;
    const double drop = current * lead_resistance(*source, e.fresh.celsius);
    if (drop <= drop_nobody_minds * model.value().voltage) return;
    auto& f = add_finding(out, Severity::warning, "power", "part:" + source->designator,
                          fmt::format("The leads lose {} of {}", format_quantity(drop, Unit::volt),
                                      format_quantity(model.value().voltage, Unit::volt)),
                          "More than 3 % stays in the wire: shorten it or take a thicker one.");
    for (const auto& w : catalogue.wires)
        if (w.area >= area * drop / (drop_nobody_minds * model.value().voltage)) {
            f.remedies.push_back(thicker(w.area));
            break;
        }
}

void supply_limit(const Evidence& e, std::vector<Finding>& out) {
    const auto span = supply_span(*e.circuit, known_catalogue(), {});
    if (!span || span->volts <= highest_supply) return;
    add_finding(
        out, Severity::error, "power", "part:" + span->parts.front(),
        fmt::format("{} gives {}: refused above 60 V DC", fmt::format("{}", fmt::join(span->parts, " with ")),
                    format_quantity(span->volts, Unit::volt)),
        "Such voltages can kill. Use a ready-made certified supply and leave the wiring to a licensed "
        "electrician and the local code.");
}

void coin_caution(const Evidence& e, std::vector<Finding>& out) {
    const Part* source = e.circuit->source();
    const auto cell = source ? cell_of(*source, known_catalogue()) : std::nullopt;
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
        {"supply-limit",
         "supplies above 60 V DC, alone or in a row",
         "it can kill; only low voltage is handled here",
         "open-circuit voltages, fresh; 60 V DC is the limit of extra-low voltage in IEC 61140",
         {},
         supply_limit},
        {"cell-rate",
         "a cell or supply asked for more than it can give",
         "it sags, loses capacity or switches off",
         "long run, fresh cells",
         {On::conditions, On::blocks},
         cell_rate,
         Over::every},
        {"run-time",
         "a run time under the brief",
         "the gadget goes dark too early",
         "discharge of the cells through the circuit",
         {On::conditions, On::brief, On::blocks},
         run_time},
        {"day-plan",
         "a day plan or situation that cannot be followed",
         "the run time is not known, or not the one that was meant",
         "the plan against the situations, the situations against the parts",
         {On::conditions, On::brief},
         day_plan_faults},
        {"wire-rating",
         "leads over their rating, or more than 3 % of the supply lost in them",
         "thin leads get warm and lose volts",
         "long run and copper's resistance; 3 % is bench practice",
         {On::conditions},
         wire_rating,
         Over::every},
        {"cell-caution",
         "cells that need care",
         "swallowed coin cells and shorted lithium cells injure",
         "the cell's chemistry",
         {On::brief},
         coin_caution},
    };
}

}  // namespace elkit
