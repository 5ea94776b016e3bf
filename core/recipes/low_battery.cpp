#include "recipes/low_battery.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "quantity/format.hpp"
#include "quantity/preferred.hpp"
#include "recipes/blocks.hpp"
#include "recipes/sketch.hpp"

namespace elkit {
namespace {

constexpr double celsius = 21, cold = 0, hot = 40;
constexpr double reference_current = 20e-6;  // A through the diodes: steep enough, and little
constexpr double feedback = 25;              // times R1: the light goes off some 4 % above where it came on
constexpr double pull_up = 1e5;              // Ω, of an open collector
constexpr double upper[]{180e3, 200e3, 220e3, 240e3, 270e3, 300e3, 330e3, 360e3, 390e3};  // R1, E24
constexpr double least_for_light = 0.1;  // V that are left for its resistor

Part reference_diode(const char* name, const char* anode, const char* cathode) {
    return {name, "diode", {{"type", std::string("signal")}}, {{"a", anode}, {"k", cathode}}, {}};
}

Part resistor(const char* name, double ohms, const char* a, const char* b) {
    return {name, "resistor", {{"value", ohms}}, {{"a", a}, {"b", b}}, {}};
}

struct Divider {
    double r1 = 0, r2 = 0, rh = 0;
    double falling(double reference) const {
        return reference * (1 / r1 + 1 / r2 + 1 / rh) / (1 / r1 + 1 / rh);
    }
    double rising(double reference) const { return reference * (1 / r1 + 1 / r2 + 1 / rh) * r1; }
};

/// The pair of preferred values that comes nearest.
Divider nearest_divider(double warn, double reference) {
    Divider best;
    for (const double r1 : upper) {
        Divider d{r1, 0, nearest_preferred(feedback * r1, Series::e24)};
        d.r2 = nearest_preferred(1 / ((1 / d.r1 + 1 / d.rh) * (warn / reference - 1)), Series::e24);
        const auto off = [&](const Divider& of) { return std::abs(std::log(of.falling(reference) / warn)); };
        if (best.r1 == 0 || off(d) < off(best)) best = d;
    }
    return best;
}

/// V of the two diodes at a supply and warmth, behind their resistor.
Result<double> reference_volts(double supply, double ohms, double at_celsius) {
    auto law = junction_model(reference_diode("D1", "REF", "HALF"), known_catalogue(), at_celsius, 0);
    if (!law) return law.error();
    double amps = reference_current;
    for (int round = 0; round < 30; ++round)
        amps = std::max(1e-9, 0.5 * amps + 0.5 * (supply - 2 * law.value().voltage_at(amps)) / ohms);
    return 2 * law.value().voltage_at(amps);
}

/// A warning that another supply would never reach, or always have, is set to what is usual for it: nearly
/// empty cells have some three quarters of their fresh volts.
Goals suited_to_cells(Goals g) {
    const CellType* cell = known_catalogue().cell(g.text("cell"));
    if (!cell) return g;
    const double fresh = g.number("cells") * cell->open_circuit.at(1), warn = g.number("warn");
    if (warn < 0.95 * fresh && warn > 0.5 * fresh) return g;
    const GoalInfo& info = *find_recipe(low_battery_recipe)->goal("warn");
    g.values["warn"] = std::clamp(std::round(7.5 * fresh) / 10, info.info.low, info.info.high);
    return g;
}

Result<Sized> size_warning(const Goals& goals, const Environment&) {
    const double warn = goals.number("warn"), glow = goals.number("glow");
    const CellType* cell = known_catalogue().cell(goals.text("cell"));
    if (!cell)
        return Error{Fault::design, "cell", "\"" + goals.text("cell") + "\" is unknown", "a cell type"};
    const double fresh = goals.number("cells") * cell->open_circuit.at(1);
    const PartType* type = comparator_for(fresh);
    if (!type)
        return Error{Fault::design, "cells",
                     fmt::format("{} is more than a comparator bears", format_quantity(fresh, Unit::volt)),
                     "fewer cells in series"};
    if (warn >= fresh || warn < type->value("lowest_supply"))
        return Error{Fault::design, "warns below", format_quantity(warn, Unit::volt),
                     fmt::format("less than the {} of fresh cells, and {} at least for the comparator",
                                 format_quantity(fresh, Unit::volt),
                                 format_quantity(type->value("lowest_supply"), Unit::volt))};
    Part light{"L1", "led", {{"type", goals.text("warning_led")}}, {{"a", "V+"}, {"k", "LAMP"}}, {}};
    auto law = junction_model(light, known_catalogue(), celsius, 0);
    if (!law) return law.error();
    const double left = warn - law.value().voltage_at(glow);
    if (left < least_for_light)
        return Error{Fault::design, "warning light",
                     fmt::format("it needs {} and the cells have {} then",
                                 format_quantity(law.value().voltage_at(glow), Unit::volt),
                                 format_quantity(warn, Unit::volt)),
                     "a red light, or a warning at more volts"};
    const double guess = nearest_preferred((warn - 1) / reference_current, Series::e12);
    auto reference = reference_volts(warn, guess, celsius);
    auto in_cold = reference_volts(warn, guess, cold), in_heat = reference_volts(warn, guess, hot);
    if (!reference || !in_cold || !in_heat) return reference ? in_cold.error() : reference.error();
    const double held = reference.value();
    const Divider d = nearest_divider(warn, held);
    const double lamp = nearest_preferred(left / glow, Series::e24);
    Sized out;
    out.parts.push_back({std::string(recipe_source),
                         "battery",
                         {{"cell", goals.text("cell")}, {"count", goals.number("cells")}},
                         {{"+", "V+"}, {"-", "GND"}},
                         {}});
    out.parts.push_back({"U1",
                         "comparator",
                         {{"type", type->id}},
                         {{"in+", "SENSE"}, {"in-", "REF"}, {"out", "LOW"}, {"vcc", "V+"}, {"gnd", "GND"}},
                         {}});
    out.parts.push_back({"C1", "capacitor", {{"value", 1e-7}}, {{"a", "V+"}, {"b", "GND"}}, {}});
    out.parts.push_back(resistor("R1", d.r1, "V+", "SENSE"));
    out.parts.push_back(resistor("R2", d.r2, "SENSE", "GND"));
    out.parts.push_back(resistor("R3", d.rh, "LOW", "SENSE"));
    out.parts.push_back(resistor("R4", guess, "V+", "REF"));
    out.parts.push_back(reference_diode("D1", "REF", "HALF"));
    out.parts.push_back(reference_diode("D2", "HALF", "GND"));
    out.parts.push_back(std::move(light));
    out.parts.push_back(resistor("R5", lamp, "LAMP", "LOW"));
    if (type->value("source_resistance") > 1e9) out.parts.push_back(resistor("R6", pull_up, "V+", "LOW"));
    const auto volts = [](double v) { return format_quantity(v, Unit::volt); };
    const double on = d.falling(held);
    const std::vector<std::string> working{
        fmt::format("two diodes hold {} at some {}", volts(held),
                    format_quantity(reference_current, Unit::ampere)),
        fmt::format(
            "on below {} = V ref (G1 + G2 + G3)/(G1 + G3), off again above {} = V ref (G1 + G2 + G3)/G1",
            volts(on), volts(d.rising(held))),
        fmt::format("the diodes follow warmth: on below {} at {:.0f} °C and {} at {:.0f} °C",
                    volts(d.falling(in_cold.value())), cold, volts(d.falling(in_heat.value())), hot)};
    for (const auto& [name, ohms] : {std::pair("R1", d.r1), std::pair("R2", d.r2), std::pair("R3", d.rh)})
        out.figures[fmt::format("{}.value", name)] = {fmt::format("recipe.{}", name),
                                                      fmt::format("resistor {} of the warning", name),
                                                      ohms,
                                                      Unit::ohm,
                                                      {},
                                                      {},
                                                      working};
    out.figures["R5.value"] = {
        "recipe.R5",
        "resistor of the warning light",
        lamp,
        Unit::ohm,
        {},
        {},
        {fmt::format("{} left of {} for {}", volts(left), volts(warn), format_quantity(glow, Unit::ampere))}};
    return out;
}

}  // namespace

Recipe low_battery() {
    Recipe r = declared_recipe(low_battery_recipe).value();
    r.size = size_warning;
    r.suited = suited_to_cells;
    return r;
}

Result<Design> with_low_battery_light(const Design& design, double volts) {
    Goals goals = find_recipe(low_battery_recipe)->standard();
    goals.values["warn"] = std::round(10 * volts) / 10;
    return with_block(design, low_battery_recipe, goals);
}

}  // namespace elkit
