#include "power/charging.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "quantity/format.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

constexpr double settings[]{0.05, 0.1, 0.2, 0.3, 0.5, 0.7, 1.0};  // A, of small modules
constexpr double gentle = 0.5, highest = 1;                       // of its charge in an hour
constexpr double slowest = 0.05;                                  // likewise: slower is not offered
constexpr double called_full = 0.1;                               // of the set current
constexpr double over_ambient = 60;       // K/W of a module the size of a stamp; typical, it differs
constexpr double air = 25, hottest = 85;  // °C; from there a linear charger turns itself down
constexpr double charger_supply = 5;      // V
constexpr double limit_over_rating = 1.3;
constexpr int steps = 2000;

/// The cell that a charger module in the gadget may charge: one of lithium-ion, by itself.
Result<CellType> charged_cell(const Circuit& circuit) {
    const Part* source = circuit.source();
    const auto cell = source ? cell_of(*source, known_catalogue()) : std::nullopt;
    if (!cell || cell->chemistry != "lithium-ion")
        return Error{Fault::design, source ? source->designator : "circuit",
                     cell ? fmt::format("{} is not charged in the gadget here", cell->name) : "no cells",
                     "a lithium-ion cell"};
    return *cell;
}

Figure charging_figure(const std::string& id, std::string label, double value, Unit unit,
                       std::string working) {
    return {"charging." + id, std::move(label), value, unit, {}, {}, {std::move(working)}};
}

std::string amps(double value) { return format_quantity(value, Unit::ampere); }
std::string volts(double value) { return format_quantity(value, Unit::volt); }

ChargeRow row_of(const CellType& cell, double current) {
    const double charge = cell.capacity.points.front().y;
    const Charge c = charge_cell(cell, current, charger_supply);
    ChargeRow row;
    row.current = current;
    const std::string at = amps(current), id = fmt::format("{:.0f}.", 1000 * current);
    row.rate =
        charging_figure(id + "rate", "charge an hour at " + at, current / charge, Unit::none,
                        fmt::format("{} / {} Ah: 1 would fill it within an hour", at, format_plain(charge)));
    row.time = charging_figure(
        id + "time", "time to full at " + at, c.hours, Unit::hour,
        fmt::format("t = ∫ Q ds / I: {} at {}, then at {} until {} is left; {:.3g} Ah in all",
                    format_quantity(c.at_current, Unit::hour), at, volts(cell.open_circuit.at(1)),
                    amps(called_full * current), c.delivered));
    row.heat =
        charging_figure(id + "heat", "heat in the charger at " + at, c.most_heat, Unit::watt,
                        fmt::format("P = (U − U cell) I, from {} and an empty cell", volts(charger_supply)));
    row.warmth = charging_figure(
        id + "warmth", "how warm the charger gets at " + at, air + over_ambient * c.most_heat, Unit::celsius,
        fmt::format("{} °C of air + {} × {} K/W, as usual for a module the size of a stamp",
                    format_plain(air), row.heat.text(), format_plain(over_ambient)));
    row.verdict = row.rate.value <= gentle    ? ChargeRow::Verdict::gentle
                  : row.rate.value <= highest ? ChargeRow::Verdict::allowed
                                              : ChargeRow::Verdict::no;
    if (row.verdict == ChargeRow::Verdict::no)
        row.remark = "above 1 C: it heats up and ages";
    else if (row.warmth.value > hottest)
        row.remark = "so hot it turns itself down";
    else if (current > port_limit)
        row.remark = fmt::format("a port gives {} unasked", amps(port_limit));
    else
        row.remark = row.verdict == ChargeRow::Verdict::gentle ? "gentle" : "allowed";
    return row;
}

}  // namespace

bool rechargeable(const CellType& cell) {
    return cell.chemistry == "lithium-ion" || cell.chemistry == "NiMH" || cell.chemistry == "lead-acid";
}

Charge charge_cell(const CellType& cell, double current, double supply) {
    const double charge = cell.capacity.points.front().y, full = cell.open_circuit.at(1);
    Charge c;
    for (int k = 0; k < steps; ++k) {
        const double s = (k + 0.5) / steps, u = cell.open_circuit.at(s), r = cell.resistance.at(s);
        const double held = r > 0 ? (full - u) / r : current;
        const double i = std::min(current, held);
        if (i < called_full * current) break;
        const double hours = charge / steps / i, at_pins = u + i * r;
        c.hours += hours, c.delivered += charge / steps, c.energy += hours * i * at_pins;
        if (held >= current) c.at_current += hours;
        c.most_heat = std::max(c.most_heat, (supply - at_pins) * i);
    }
    return c;
}

double charging_current(const Part& charger) { return limit_over_rating * charger.number("max_current"); }
double rated_for_charging(double current) { return current / limit_over_rating; }

Digest ChargingQuery::key() const { return LifeQuery(design, Keyed<Circuit>(design.circuit), now).key(); }

Result<Charging> ChargingQuery::compute(const Ask& ask) const {
    const auto charged = charged_cell(design.circuit);
    if (!charged) return charged.error();
    const CellType* cell = &charged.value();
    const Part* source = design.circuit.source();
    Charging found;
    found.cell = cell->name;
    const Keyed<Circuit> circuit(design.circuit);
    const Part* charger = nullptr;
    for (const Part& part : design.circuit.parts)
        if (is(part, Role::charges)) charger = &part;
    if (charger) found.charger = charger->designator;
    std::vector<double> currents(std::begin(settings), std::end(settings));
    const double charge = cell->capacity.points.front().y;
    std::erase_if(currents, [&](double i) { return i < slowest * charge || i > 2 * highest * charge; });
    const auto same = [&](double i) {
        return charger && std::abs(i / charging_current(*charger) - 1) < 0.01;
    };
    if (charger && std::none_of(currents.begin(), currents.end(), same))
        currents.push_back(charging_current(*charger));
    std::sort(currents.begin(), currents.end());
    for (const double i : currents) {
        found.rows.push_back(row_of(*cell, i));
        found.rows.back().present = same(i);
    }
    for (std::size_t k = 0; k < found.rows.size(); ++k) {
        const ChargeRow& row = found.rows[k];
        const bool cool = row.verdict == ChargeRow::Verdict::gentle && row.warmth.value <= hottest;
        if (cool && row.current <= port_limit) found.advised = static_cast<int>(k);
    }
    found.full = charging_figure("full", "volts of a full cell", cell->open_circuit.at(1), Unit::volt,
                                 "its curve at full charge; chargers hold it to a hundredth");
    found.lock = charging_figure(
        "lock", "volts below which nothing may be taken", cell->cutoff, Unit::volt,
        cell->protection ? "its own protection opens there" : "its leaflet; nothing in the cell stops there");
    const double count = std::max(1.0, source->number("count"));
    if (const auto life = ask(LifeQuery(design, circuit, now)); life && !life->typical.samples.empty()) {
        const double end = life->typical.samples.back().volts / count;
        found.reached = charging_figure("reached", "volts of a cell where the run ends", end, Unit::volt,
                                        "the run ends by: " + life->typical.ended_by);
        if (end < cell->cutoff && !cell->protection)
            found.cautions.push_back(
                fmt::format("the gadget goes on below {}: it ruins the cell", volts(cell->cutoff)));
    }
    const bool locked =
        cell->protection || std::any_of(design.circuit.parts.begin(), design.circuit.parts.end(),
                                        [](const Part& p) { return is(p, Role::protects); });
    if (!locked)
        found.cautions.push_back(
            "nothing locks it when it is empty: a protected cell, or a protection module (tab Protection)");
    if (count > 1)
        found.cautions.push_back(
            "a module for one cell charges one: cells in a row are taken out for it, or need a charger with "
            "balancing");
    const auto run = ask(RunQuery(circuit, fresh(*circuit, now)));
    const double load = run ? std::max(0.0, run->mean().supply_current()) : 0;
    if (load > called_full * found.rows.front().current)
        found.cautions.push_back(fmt::format(
            "off while it charges: with {} taken the charger never sees a tenth of its current", amps(load)));
    found.cautions.push_back(
        "charge under watch, on something that does not burn, between 0 and 45 °C; follow the cell's "
        "leaflet");
    return found;
}

Result<Design> with_charger(const Design& design, double current) {
    const auto cell = charged_cell(design.circuit);
    if (!cell) return cell.error();
    const Part* source = design.circuit.source();
    const double charge = cell.value().capacity.points.front().y;
    if (current > highest * charge)
        return Error{Fault::usage, source->designator, fmt::format("{} is above 1 C", amps(current)),
                     fmt::format("{} at most", amps(highest * charge))};
    if (const double count = source->number("count"); count > 1)
        return Error{Fault::design, source->designator,
                     fmt::format("a module for one cell does not charge {:.0f} in a row", count), "one cell"};
    Circuit next = design.circuit;
    for (Part& part : next.parts)
        if (is(part, Role::charges)) {
            part.params["max_current"] = rated_for_charging(current);
            return with_circuit(design, std::move(next));
        }
    for (const PartKind& kind : part_kinds()) {
        if (!kind.is(Role::charges)) continue;
        const ModuleSpec& module = *kind.module;
        const std::string plugged = free_net(next, "CHARGE");
        const PartKind& plug = *part_kind("connector");
        const std::string negative = source->net("-"), positive = source->net("+");
        next.parts.push_back(
            {next.free_designator(kind.prefix),
             kind.id,
             {{"max_current", rated_for_charging(current)}},
             {{module.plus, plugged}, {module.minus, negative}, {module.outputs.front().pin, positive}},
             {}});
        next.parts.push_back({next.free_designator(plug.prefix),
                              plug.id,
                              {{"form", std::string("socket")}},
                              {{plug.pins[0], plugged}, {plug.pins[1], negative}},
                              {}});
        return with_circuit(design, std::move(next));
    }
    return Error{Fault::design, "circuit", "the catalogue has no charger", "a lithium charger module"};
}

}  // namespace elkit
