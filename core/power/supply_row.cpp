#include "power/supply_row.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "circuit/part_kind.hpp"
#include "light/dimming.hpp"
#include "light/rating.hpp"
#include "power/charging.hpp"
#include "power/supply_range.hpp"
#include "quantity/brightness.hpp"

namespace elkit {
namespace {

constexpr double shelf_loss = 0.2;         // of the charge, after which cells no longer keep
constexpr double charges_in_a_life = 300;  // typical datasheets, down to 80 % of their charge
constexpr double holder_wall = 3;          // mm around cells in a holder

/// What to mind, briefly, at this step.
std::string care_of(const CellType& cell) {
    if (cell.chemistry.find("coin") != std::string::npos ||
        cell.chemistry.find("button") != std::string::npos)
        return "swallowed it burns: a locked compartment where children are";
    if (cell.chemistry == "lithium-ion")
        return cell.protection
                   ? "charge only with a lithium charger, not unattended; no heat, no piercing"
                   : "only with a protection circuit; charge with a lithium charger, not unattended";
    if (cell.chemistry == "lead-acid") return "a fuse at the cell: shorted it gives very much current";
    if (cell.chemistry == "NiMH") return "a fuse: shorted they give much current";
    return {};
}

}  // namespace

void fill_figures(SupplyRow& row, const Discharge& run, const OperatingPoint& fresh, const CellType& cell,
                  double ratio, double end_brightness) {
    const auto figure = [&](const char* id, std::string label, double value, Unit unit,
                            std::vector<std::string> working) {
        return Figure{fmt::format("supply.{}.{}", row.name, id),
                      std::move(label) + ", " + row.name,
                      value,
                      unit,
                      {},
                      {},
                      std::move(working)};
    };
    const auto lightness = [](double r) {
        return fmt::format("CIE lightness of {:.3f} of this design's fresh light: {:.0f} %", r,
                           100 * perceived(r));
    };
    const double last = ratio * run.samples.back().light;
    row.start = figure("start", "brightness fresh", 100 * perceived(ratio), Unit::percent,
                       {"light of all LEDs fresh ÷ light of this design from fresh cells", lightness(ratio)});
    row.end = figure("end", "brightness at the end", 100 * perceived(last), Unit::percent,
                     {"the run ends at: " + run.ended_by, lightness(last)});
    row.run_time =
        figure("run_time", "run time", run.hours, Unit::hour,
               {fmt::format(
                    "t = ∫ Q(I) ds / I from full until the light falls below {:.0f} % or the cells are empty",
                    100 * end_brightness),
                fmt::format("{:.3g} Ah taken, {} at the start; ended by: {}", run.delivered,
                            format_quantity(fresh.supply_current(), Unit::ampere), run.ended_by)});
    const bool ends = std::isfinite(run.hours) && run.hours > 0;
    const double sets = rechargeable(cell) ? 1 / charges_in_a_life : 1;
    const std::string again =
        rechargeable(cell) ? fmt::format(", recharged {:.0f} times", charges_in_a_life) : std::string();
    const auto per_time = [&](const char* id, std::string label, Unit unit, double of_a_cell, double hours) {
        return figure(id, std::move(label), ends ? sets * row.count * of_a_cell * hours / run.hours : 0, unit,
                      {ends ? fmt::format("{} × {} / {} h{}", row.count, format_plain(of_a_cell),
                                          format_plain(run.hours / hours), again)
                            : std::string("nothing is used up")});
    };
    row.cost_per_hour = per_time("cost", "cost of cells for an hour", Unit::money, cell.price, 1);
    row.waste = per_time("waste", "spent cells in 100 hours", Unit::gram, cell.mass, 100);
}

std::string not_borne(const Circuit& circuit, const LongRun& run) {
    for (const Part& part : circuit.parts) {
        if (!is(part, Role::diode_light) || !(part.number("max_current") > 0) || !led_overdriven(part, run))
            continue;
        const double mean = run.mean().part(part.designator).current, limit = part.number("max_current");
        const bool pulse = quick_pulses(run) && mean <= limit;
        return fmt::format(
            "{} through {}, which may have {}",
            format_quantity(
                run.moves() && mean <= limit ? run.lasting(part.designator, part.pins.front().name) : mean,
                Unit::ampere),
            part.designator,
            format_quantity(pulse ? pulse_limit(part, run) : limit, Unit::ampere) +
                (pulse ? " in pulses" : ""));
    }
    for (const SupplyRange& range : supply_ranges(circuit)) {
        const double most = run.between(range.plus, range.minus).second;
        if (range.high > 0 && most > range.high)
            return fmt::format("{} gets {}, it bears {}", range.designator, format_quantity(most, Unit::volt),
                               format_quantity(range.high, Unit::volt));
    }
    return {};
}

std::string starved(const Circuit& circuit, const LongRun& run) {
    for (const SupplyRange& range : supply_ranges(circuit)) {
        const double most = run.between(range.plus, range.minus).second;
        if (most < range.low)
            return fmt::format("{} wants {} at least and gets {}", range.designator,
                               format_quantity(range.low, Unit::volt), format_quantity(most, Unit::volt));
    }
    return {};
}

void fill_current(SupplyRow& row, const Circuit& circuit, const WhileOn& on, const LedString* string) {
    const std::string& name = row.name;
    if (!string) {
        row.current = {"supply." + name + ".current",
                       "current from the supply, fresh, " + name,
                       on.run().mean().supply_current(),
                       Unit::ampere,
                       {},
                       {},
                       {"the engine's answer with fresh " + name + ", on average"}};
        return;
    }
    const PartState& led = on->part(string->leds.front()->designator);
    row.current = {
        "supply." + name + ".current",
        "current of a string, fresh, " + name,
        led.current,
        Unit::ampere,
        {},
        {},
        {fmt::format("the engine's answer with fresh {}: {} across each LED{}", name,
                     format_quantity(led.voltage, Unit::volt), on.run().moves() ? " while it is on" : "")}};
    if (!string->resistor) return;
    const PartState& r = on->part(string->resistor->designator);
    row.resistor = {"supply." + name + ".resistor",
                    "series resistor, " + name,
                    circuit.find(string->resistor->designator)->number("value"),
                    Unit::ohm,
                    {},
                    {},
                    {fmt::format("{} across it at {}, fresh", format_quantity(r.voltage, Unit::volt),
                                 format_quantity(r.current, Unit::ampere))}};
}

void fill_cells(SupplyRow& row, const CellType& cell, const PartKind* converter, const Brief& brief) {
    const auto figure = [&](const char* id, const char* label, double value, Unit unit, std::string working) {
        return Figure{fmt::format("supply.{}.{}", row.name, id),
                      fmt::format("{}, {}", label, row.name),
                      value,
                      unit,
                      {},
                      {},
                      {std::move(working)}};
    };
    const double module_mass = converter ? converter->module->mass : 0,
                 module_price = converter ? converter->module->price : 0;
    const auto and_module = [&](const std::string& words, double of_module) {
        return converter ? words + fmt::format(" + {} for the {}", format_plain(of_module), converter->name)
                         : words;
    };
    row.mass = figure("mass", "mass of cells and converter", row.count * cell.mass + module_mass, Unit::gram,
                      and_module(fmt::format("{} × {} g", row.count, format_plain(cell.mass)), module_mass));
    row.cost =
        figure("set", "cost of a set of cells, with its converter", row.count * cell.price + module_price,
               Unit::money, and_module(fmt::format("{} × {:.2f}", row.count, cell.price), module_price));
    row.keeps = figure("keeps", "years on the shelf",
                       cell.self_discharge_per_year > 0
                           ? std::log(1 - shelf_loss) / std::log(1 - cell.self_discharge_per_year)
                           : std::numeric_limits<double>::infinity(),
                       Unit::year,
                       fmt::format("{:.0f} % a year go by themselves, until {:.0f} % are gone",
                                   100 * cell.self_discharge_per_year, 100 * shelf_loss));
    const bool flat = cell.size[1] < cell.size[0];  // coin and button cells lie on each other
    row.width = (flat ? cell.size[0] : row.count * cell.size[0]) + 2 * holder_wall;
    row.height = (flat ? cell.size[0] : cell.size[1]) + 2 * holder_wall;
    const double across = std::max(row.width, row.height), along = std::min(row.width, row.height);
    const double room = std::max(brief.width, brief.height), narrow = std::min(brief.width, brief.height);
    row.fits = (room <= 0 || across <= room) && (narrow <= 0 || along <= narrow);
    row.care = care_of(cell);
}

double taken_by(const SupplyRow& row, SupplyTakes what) {
    constexpr double cm2 = 0.01;  // of a mm²
    switch (what) {
        case SupplyTakes::size:
            return row.width * row.height * cm2;
        case SupplyTakes::mass:
            return row.mass.value;
        case SupplyTakes::cost:
            break;
    }
    return row.cost.value;
}

bool runs_out(const SupplyRow& row) {
    return row.possible && row.lasts && std::isfinite(row.run_time.value) && row.run_time.value > 0;
}

bool beaten(const std::vector<SupplyRow>& rows, std::size_t row, SupplyTakes what) {
    const SupplyRow& one = rows[row];
    return !one.reason.empty() || std::any_of(rows.begin(), rows.end(), [&](const SupplyRow& other) {
        return runs_out(other) && other.reason.empty() && taken_by(other, what) <= taken_by(one, what) &&
               other.run_time.value > one.run_time.value;
    });
}

}  // namespace elkit
