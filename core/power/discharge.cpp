#include "power/discharge.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "engine/models.hpp"
#include "engine/operating_point.hpp"
#include "light/brightness.hpp"
#include "light/light.hpp"
#include "light/strings.hpp"

namespace elkit {
namespace {

constexpr int steps = 120;
constexpr double shelf_life = 10;  // years
constexpr double endless = std::numeric_limits<double>::infinity();

/// Fraction of the cell's energy below `charge`: ∫ V0 ds from 0 to charge over ∫ V0 ds from 0 to 1.
double energy_below(const CellType& cell, double charge) {
    const auto integral = [&](double to) {
        double sum = 0;
        for (int k = 0; k < 200; ++k) sum += cell.open_circuit.at(to * (k + 0.5) / 200) * to / 200;
        return sum;
    };
    return integral(charge) / integral(1);
}

DischargeSample between(const DischargeSample& a, const DischargeSample& b, double t) {
    const auto mix = [t](double x, double y) { return x + (y - x) * t; };
    return {mix(a.hours, b.hours), mix(a.charge, b.charge), mix(a.volts, b.volts), mix(a.amps, b.amps),
            mix(a.light, b.light)};
}

/// The cell behind the circuit's source; nullptr for a supply that does not empty.
const CellType* emptying_cell(const Part& source) {
    const CellType* cell =
        source.kind == "battery" ? built_in_catalogue().cell(source.text("cell")) : nullptr;
    return cell && !cell->endless() ? cell : nullptr;
}

void summarise(Discharge& d, const CellType& cell, double end_charge) {
    d.charge_left = end_charge;
    d.energy_left = energy_below(cell, end_charge);
    d.hours = d.samples.back().hours;
    double weighted = 0;
    for (std::size_t k = 1; k < d.samples.size(); ++k) {
        const auto &a = d.samples[k - 1], &b = d.samples[k];
        const double dt = b.hours - a.hours;
        d.delivered += (a.amps + b.amps) / 2 * dt;
        weighted += (perceived(a.light) + perceived(b.light)) / 2 * dt;
    }
    d.average_light = d.hours > 0 ? weighted / d.hours : 0;
}

}  // namespace

std::optional<double> Discharge::hours_at(double wanted) const {
    for (std::size_t k = 1; k < samples.size(); ++k) {
        const auto &a = samples[k - 1], &b = samples[k];
        if (b.charge <= wanted)
            return a.hours + (b.hours - a.hours) * (a.charge - wanted) / std::max(a.charge - b.charge, 1e-12);
    }
    return std::nullopt;
}

Result<Discharge> discharge(const Circuit& circuit, const Conditions& conditions, double end_brightness,
                            const Corner& corner) {
    const Catalogue& catalogue = built_in_catalogue();
    Conditions c = lit(circuit, conditions);
    Discharge d;
    OperatingPoint op;
    double fresh_light = 0;
    const Part* source = circuit.source();
    const CellType* cell = source ? emptying_cell(*source) : nullptr;
    const double cells = cell ? source->number("count") : 1;
    const double end_light = luminance_for(end_brightness);
    double rate_before = 0;
    for (int k = 0; k <= steps; ++k) {
        c.battery = 1.0 - double(k) / steps;
        auto solved = operating_point(circuit, catalogue, c, corner, k ? &op : nullptr);
        if (!solved) return solved.error();
        op = std::move(solved).value();
        const double intensity = total_intensity(circuit, catalogue, op);
        if (k == 0) fresh_light = intensity;
        const double amps = std::max(op.supply_current(), 1e-9);
        DischargeSample s{0, c.battery, op.part(op.source).voltage, amps,
                          fresh_light > 0 ? intensity / fresh_light : 0};
        if (!cell) {
            d.samples.push_back(s);
            d.hours = endless, d.charge_left = 1, d.energy_left = 1, d.average_light = 1,
            d.ended_by = "it does not empty";
            return d;
        }
        const double rate = cell->usable_charge(amps, c.celsius) * (1 + 0.1 * corner.capacity) /
                            amps;  // h for all of the charge
        if (k > 0) s.hours = d.samples.back().hours + (rate + rate_before) / 2 / steps;
        rate_before = rate;
        const bool dark = fresh_light > 0 && s.light < end_light;
        const bool empty = s.volts < cells * cell->cutoff;
        if (k > 0 && (dark || empty)) {
            const auto& last = d.samples.back();
            const double t_dark = dark ? (last.light - end_light) / std::max(last.light - s.light, 1e-12) : 1;
            const double t_empty =
                empty ? (last.volts - cells * cell->cutoff) / std::max(last.volts - s.volts, 1e-12) : 1;
            d.ended_by = dark && t_dark <= t_empty
                             ? fmt::format("light below {:.0f} % of fresh", 100 * end_brightness)
                             : "cells empty";
            d.samples.push_back(between(last, s, std::clamp(std::min(t_dark, t_empty), 0.0, 1.0)));
            summarise(d, *cell, d.samples.back().charge);
            return d;
        }
        d.samples.push_back(s);
    }
    d.ended_by = "cells empty";
    summarise(d, *cell, 0);
    return d;
}

namespace {

Figure standby_figures(const Design& design, const Conditions& conditions, const OperatingPoint& off,
                       Figure& current) {
    current = {"power.standby_current",
               "current with every switch off",
               off.supply_current(),
               Unit::ampere,
               {},
               {},
               {"operating point with every switch open, fresh cells"}};
    const Part* source = design.circuit.source();
    const CellType* cell = emptying_cell(*source);
    Figure f{"power.standby", "standby life, switched off", endless, Unit::year, {}, {}, {}};
    if (!cell) return f;
    const double drain =
        std::max(0.0, off.supply_current()) * 8766 / cell->usable_charge(1e-6, conditions.celsius);
    const double computed = 1 / (cell->self_discharge_per_year + drain);
    f.value = std::min(computed, shelf_life);
    f.working = {"T = 1 / (self-discharge + drain × 8766 h / capacity)",
                 fmt::format("  = 1 / ({:.2g} + {:.2g}) = {}", cell->self_discharge_per_year, drain,
                             format_quantity(computed, Unit::year))};
    if (computed > shelf_life) f.working.push_back("more than a cell keeps on the shelf: shown as 10 years");
    const bool any_switch = std::any_of(design.circuit.parts.begin(), design.circuit.parts.end(),
                                        [](const Part& p) { return p.kind == "switch"; });
    if (!any_switch) f.working.push_back("there is no switch: it is never off");
    return f;
}

std::vector<std::string> run_time_working(const Discharge& d, const CellType* cell, const Conditions& c) {
    if (!cell) return {"a supply that does not empty"};
    const auto &first = d.samples.front(), &last = d.samples.back();
    return {"ds/dt = −I / Q(I):  the engine solves the circuit at each state of charge s",
            fmt::format("fresh: I = {}, Q = {}; at the end (s = {:.0f} %): I = {}, Q = {}",
                        format_quantity(first.amps, Unit::ampere),
                        format_quantity(cell->usable_charge(first.amps, c.celsius), Unit::ampere_hour),
                        100 * last.charge, format_quantity(last.amps, Unit::ampere),
                        format_quantity(cell->usable_charge(last.amps, c.celsius), Unit::ampere_hour)),
            fmt::format("∫ I dt = {} taken out; ended by: {}",
                        format_quantity(d.delivered, Unit::ampere_hour), d.ended_by)};
}

}  // namespace

Figure supply_voltage(const Circuit& circuit, const Conditions& conditions, const OperatingPoint& op) {
    Figure f{"power.voltage",
             "voltage at the battery leads now",
             op.part(op.source).voltage,
             Unit::volt,
             {},
             {},
             {}};
    const Part* source = circuit.source();
    const auto model =
        source ? source_model(*source, built_in_catalogue(), conditions) : Result<Thevenin>(Thevenin{});
    if (!model) return f;
    f.working = {"V = V0 − I × R of cells and leads",
                 fmt::format("  = {} − {} × {} = {}", format_quantity(model.value().voltage, Unit::volt),
                             format_quantity(op.supply_current(), Unit::ampere),
                             format_quantity(model.value().resistance, Unit::ohm), f.text())};
    return f;
}

Result<PowerResult> analyse_power(const Design& design, const Conditions& conditions) {
    PowerResult r;
    const double end = design.brief.end_brightness;
    auto typical = discharge(design.circuit, conditions, end);
    if (!typical) return typical.error();
    r.typical = std::move(typical).value();
    double shortest = r.typical.hours, longest = r.typical.hours;
    for (const double bin : {-1.0, 1.0})
        for (const double capacity : {-1.0, 1.0}) {
            auto d = discharge(design.circuit, conditions, end, {bin, bin, capacity});
            if (!d) return d.error();
            shortest = std::min(shortest, d.value().hours), longest = std::max(longest, d.value().hours);
            r.corners.push_back(std::move(d).value());
        }
    const CellType* cell = emptying_cell(*design.circuit.source());
    r.run_time = {"power.run_time",
                  "run time from fresh cells",
                  r.typical.hours,
                  Unit::hour,
                  shortest,
                  longest,
                  run_time_working(r.typical, cell, conditions)};
    r.run_time.working.push_back(
        fmt::format("over LED bins, tolerances and cells ±10 %: {} h", r.run_time.spread_text()));
    r.energy_left = {"power.energy_left",
                     "energy left in the cells at the end",
                     100 * r.typical.energy_left,
                     Unit::percent,
                     {},
                     {},
                     {"∫ V ds below the end over ∫ V ds from full to empty, open-circuit voltage",
                      fmt::format("end at s = {:.0f} %: {:.0f} % of the energy stays unused",
                                  100 * r.typical.charge_left, 100 * r.typical.energy_left)}};
    r.average_brightness = {"power.average",
                            "average perceived brightness",
                            100 * r.typical.average_light,
                            Unit::percent,
                            {},
                            {},
                            {"mean of CIE lightness over the run time, fresh = 100 %"}};
    Conditions off = conditions;
    off.battery = 1;
    for (const Part& part : design.circuit.parts)
        if (part.kind == "switch") off.switches[part.designator] = false;
    auto op = operating_point(design.circuit, built_in_catalogue(), off);
    if (!op) return op.error();
    r.standby = standby_figures(design, conditions, op.value(), r.standby_current);
    return r;
}

}  // namespace elkit
