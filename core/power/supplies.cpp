#include "power/supplies.hpp"

#include <fmt/format.h>

#include <cmath>

#include "engine/operating_point.hpp"
#include "light/brightness.hpp"
#include "light/light.hpp"
#include "recipes/steady_light.hpp"

namespace elkit {
namespace {

struct Candidate {
    const char* cell;
    int count;
};
constexpr Candidate usual[]{{"LR6", 2},      {"LR6", 3},       {"LR6", 4},    {"LR03", 3},
                            {"6LR61", 1},    {"CR2032", 1},    {"CR2450", 1}, {"NiMH-AA", 3},
                            {"NiMH-AAA", 3}, {"Li-ion-1S", 1}, {"USB", 1},    {"Lead-12V", 1}};

/// Only the battery changes; everything else stays as it is.
Design same_circuit(const Design& design, const Candidate& c) {
    Design out = design;
    for (Part& part : out.circuit.parts)
        if (part.kind == "battery")
            part.params["cell"] = std::string(c.cell), part.params["count"] = double(c.count);
    return out;
}

/// The row's figures: from the engine's fresh operating point and the discharge.
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
        return fmt::format("CIE lightness of {:.3f} of the target light: {:.0f} %", r, 100 * perceived(r));
    };
    const double last = ratio * run.samples.back().light;
    row.start = figure("start", "brightness fresh", 100 * perceived(ratio), Unit::percent,
                       {"light of all LEDs fresh ÷ light at the target current", lightness(ratio)});
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
    row.cost_per_hour = figure(
        "cost", "cost of cells for an hour", ends ? row.count * cell.price / run.hours : 0, Unit::money,
        {ends ? fmt::format("{} × {:.2f} / {} h", row.count, cell.price, format_plain(run.hours))
              : std::string("nothing is used up")});
}

void measure(SupplyRow& row, const Design& design, const Conditions& conditions, const CellType& cell,
             double target_light) {
    const Circuit& circuit = design.circuit;
    auto run = discharge(circuit, conditions, design.brief.end_brightness);
    Conditions fresh = lit(circuit, conditions);
    fresh.battery = 1;
    auto op = operating_point(circuit, built_in_catalogue(), fresh);
    if (!run || !op) {
        row.reason = (run ? op.error() : run.error()).text();
        return;
    }
    const auto strings = led_strings(circuit);
    if (!strings.empty()) {
        const LedString& s = strings[0];
        const PartState& led = op.value().part(s.leds.front()->designator);
        row.current = {"supply." + row.name + ".current",
                       "current of a string, fresh, " + row.name,
                       led.current,
                       Unit::ampere,
                       {},
                       {},
                       {fmt::format("the engine's operating point from fresh {}: {} across each LED",
                                    row.name, format_quantity(led.voltage, Unit::volt))}};
        if (s.resistor) {
            const PartState& r = op.value().part(s.resistor->designator);
            row.resistor = {"supply." + row.name + ".resistor",
                            "series resistor, " + row.name,
                            s.resistor->number("value"),
                            Unit::ohm,
                            {},
                            {},
                            {fmt::format("{} across it at {}, fresh", format_quantity(r.voltage, Unit::volt),
                                         format_quantity(r.current, Unit::ampere))}};
        }
    }
    const double ratio = total_intensity(circuit, built_in_catalogue(), op.value()) / target_light;
    const LedType& led = *built_in_catalogue().led(design.light->led);
    if (row.current.value > led.max_current) {
        row.reason = fmt::format("{} through an LED that may have {}", row.current.text(),
                                 format_quantity(led.max_current, Unit::ampere));
        return;
    }
    row.possible = true;
    fill_figures(row, run.value(), op.value(), cell, ratio, design.brief.end_brightness);
    const double total = op.value().supply_current();
    if (total > cell.max_current * 1.0001)
        row.reason = fmt::format("{} is above the {} it can give", format_quantity(total, Unit::ampere),
                                 format_quantity(cell.max_current, Unit::ampere));
    else if (row.start.value < 50)
        row.reason = "too dim from the start";
}

}  // namespace

Result<Design> with_supply(const Design& design, const std::string& cell, int count) {
    if (!design.light)
        return Error{Fault::design, "/recipe", "there are no goals to size from",
                     "a design made by the steady-light recipe"};
    LightGoals goals = *design.light;
    goals.cell = cell, goals.cells = count;
    if (const CellType* type = built_in_catalogue().cell(cell); type && !type->limits_itself)
        goals.resistor = true;
    return apply_steady_light(design, goals);
}

Result<std::vector<SupplyRow>> compare_supplies(const Design& design, const Conditions& conditions,
                                                ResistorPolicy policy) {
    if (!design.light)
        return Error{Fault::design, "/recipe", "there are no goals to size from",
                     "a design made by the steady-light recipe"};
    const LightGoals& goals = *design.light;
    const LedType& led = *built_in_catalogue().led(goals.led);
    const double target_light =
        goals.count * std::max(led.intensity, 1e-3) * goals.current / led.test_current;
    std::vector<SupplyRow> rows;
    std::vector<Candidate> candidates{{goals.cell.c_str(), static_cast<int>(goals.cells)}};
    for (const Candidate& c : usual)
        if (c.cell != goals.cell || c.count != static_cast<int>(goals.cells)) candidates.push_back(c);
    for (const Candidate& c : candidates) {
        const CellType& cell = *built_in_catalogue().cell(c.cell);
        SupplyRow row;
        row.cell = c.cell, row.count = c.count,
        row.name = c.count > 1 ? fmt::format("{} × {}", c.count, c.cell) : c.cell;
        row.present = rows.empty();
        row.mass = {"supply." + row.name + ".mass",
                    "mass of the cells, " + row.name,
                    c.count * cell.mass,
                    Unit::gram,
                    {},
                    {},
                    {fmt::format("{} × {} g", c.count, format_plain(cell.mass))}};
        auto variant = row.present || policy == ResistorPolicy::same ? Result<Design>(same_circuit(design, c))
                                                                     : with_supply(design, c.cell, c.count);
        if (variant)
            measure(row, variant.value(), conditions, cell, target_light);
        else
            row.reason = variant.error().found;
        rows.push_back(std::move(row));
    }
    return rows;
}

}  // namespace elkit
