#include "recipes/cell_booster.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "recipes/switching.hpp"
#include "recipes/winding.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double usual_rate = 60e3;    // Hz: above what is heard, below where the transistor's storage counts
constexpr double of_saturation = 0.7;  // of the core's current, at the peak
constexpr double most_lost = 0.12;     // of the peak, in the core
constexpr double drive_volts = 0.8;    // V of the base while it carries the peak
constexpr double pulse_efficiency = 0.85, whole_efficiency = 0.8;  // of the peak's energy; of the cell's
constexpr double growing = 4, barely = 0.02;  // times what keeps a swing up; of its most, where it is lit
constexpr double smoothing = 10e-6;           // F beside the cell

/// What the peak of the current makes of cell, light and core. All of it follows from equal windings: the
/// current rises with V/L, and falls with (V light − V)/L into the light.
struct Boost {
    double supply = 0, light = 0;            ///< V
    double peak = 0;                         ///< A of the winding, for the light's mean
    double factor = 0, saturation_flux = 0;  ///< H a turn squared; Wb
    double loss = 0;                         ///< Ω across one turn

    double inductance(double turns) const { return factor * turns * turns; }
    double saturates(double turns) const { return saturation_flux / (factor * turns); }  ///< A
    double rate(double turns) const { return supply * (light - supply) / (inductance(turns) * peak * light); }
    double turns_for(double hertz) const {
        return std::sqrt(supply * (light - supply) / (hertz * factor * peak * light));
    }
    /// What the core's own loss takes of the peak while it feeds the light.
    double lost(double turns) const { return (light - supply) / (loss * turns * turns) / peak; }
    double most_turns() const { return of_saturation * saturation_flux / (factor * peak); }
};

Result<Boost> boost_of(const Goals& goals, double supply) {
    const Lights lights = lights_of(goals);
    const PartType* core = known_catalogue().type("core", goals.text("core"));
    const auto law = light_junction(lights);
    if (!law) return law.error();
    if (!core) return Error{Fault::design, "core", "is unknown", "a core of the catalogue"};
    if (lights.strings() != 1)
        return Error{Fault::design, "lights", "side by side they share a booster's pulses unequally",
                     "all in one string"};
    Boost b;
    b.supply = supply;
    b.light = lights.count * law.value().voltage_at(2 * lights.current);
    if (b.light < 1.15 * supply)
        return Error{Fault::design, "cells",
                     fmt::format("{} light {} without it", format_quantity(supply, Unit::volt),
                                 format_quantity(b.light, Unit::volt)),
                     "one cell, or more LEDs in series"};
    b.peak = 2 * lights.current * b.light / supply / pulse_efficiency;
    b.factor = core->value("al"), b.loss = core->value("core_loss"),
    b.saturation_flux = core->value("bsat") * core->value("area") * 1e-6;
    return b;
}

void expect_boosting(Sketch& s, const Goals& goals, const Boost& b, double turns, const PartType& q,
                     double base) {
    const double current = lights_of(goals).current, rate = b.rate(turns);
    // what the base's drive makes of a transistor: its gain differs by half, and its storage adds
    s.expect({"light on average", "part:L1", current, 0.5 * current, 1.7 * current, "mean", Unit::ampere});
    s.expect({"rate", "net:COLLECTOR", rate, 0.5 * rate, 2 * rate, "frequency", Unit::hertz});
    const double taken = current * b.light / b.supply / whole_efficiency;
    s.expect({"from the cell", "part:" + std::string(recipe_source), taken, 0.5 * taken, 1.8 * taken, "mean",
              Unit::ampere});
    // little by little: where the transistor's slope Ic/(kT/q) is four times what the core's loss takes
    const double ohms = b.loss * turns * turns, small = growing * thermal_voltage(21) / ohms;
    const double least = base_volts(q, small) + small / q.value("gain") * base;
    Expectation ends{"starts from", "part:L1", least, least - 0.1, least + 0.16, "starts", Unit::volt};
    ends.bench = {std::string(recipe_source), b.supply, 30 / rate}, ends.level = barely;
    s.expect(ends);
    ends.label = "stops at", ends.reading = "stops", ends.low = least - 0.2;  // a swing keeps itself up
    ends.bench.volts = std::min(b.supply, 1.0), ends.bench.seconds = 60 / rate;
    s.expect(ends);
}

Result<Sized> size_booster(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto feed = s.feed();
    if (!feed) return feed.error();
    const double supply = feed.value().fresh.voltage, turns = goals.number("turns");
    auto found = boost_of(goals, supply);
    if (!found) return found.error();
    const auto winding = winding_of(goals);
    if (!winding) return winding.error();
    const Boost& b = found.value();
    auto npn = npn_for(b.peak);
    if (!npn) return Error{Fault::design, "current", npn.error().found, "less light"};
    if (b.peak > b.saturates(turns))
        return Error{Fault::design, "turns",
                     fmt::format("its core saturates at {}, and the peak is {}",
                                 format_quantity(b.saturates(turns), Unit::ampere),
                                 format_quantity(b.peak, Unit::ampere)),
                     fmt::format("{:.0f} at most, or a larger core", std::floor(b.most_turns()))};
    if (b.lost(turns) > most_lost)
        return Error{Fault::design, "core",
                     fmt::format("its own loss takes {:.0f} % of the peak at {} of light and {:.0f} turns",
                                 100 * b.lost(turns), format_quantity(b.light, Unit::volt), turns),
                     "less light, fewer LEDs in series or a larger core"};
    const PartType& q = *npn.value();
    const double gain = q.value("gain") / (1 + b.peak / q.value("knee_current"));
    const double exact = (2 * supply - drive_volts) / (b.peak / gain);
    auto base = s.chosen_resistor(
        "Rbase", "base resistor", exact, "DRIVE", "BASE",
        {fmt::format("peak {} = 2 I Vlight/V, and {:.0f} % lost on the way",
                     format_quantity(b.peak, Unit::ampere), 100 * (1 - pulse_efficiency)),
         fmt::format(
             "R = (2 V − Vbe) gain / I peak, with V and the winding's V in a row and a gain of {:.0f}",
             gain)});
    if (!base) return base.error();
    s.add({"Tboost",
           "core",
           {{"type", goals.text("core")},
            {"turns1", turns},
            {"turns2", turns},
            {"wire_resistance", std::stod(fmt::format("{:.3g}", winding.value().turn_ohms()))}},
           {{"1a", feed.value().net}, {"1b", "COLLECTOR"}, {"2a", "DRIVE"}, {"2b", feed.value().net}},
           {}});
    s.add({"Qboost", "npn", {{"type", q.id}}, {{"c", "COLLECTOR"}, {"b", "BASE"}, {"e", "GND"}}, {}});
    s.capacitor("Csmooth", smoothing, feed.value().net, "GND");
    const Lights lights = lights_of(goals);
    std::string net = "COLLECTOR";
    for (int k = 1; k <= lights.count; ++k) {
        const std::string next = k == lights.count ? "GND" : fmt::format("BETWEEN{}", k);
        s.add({fmt::format("L{}", k), "led", {{"type", lights.type}}, {{"a", net}, {"k", next}}, {}});
        net = next;
    }
    expect_boosting(s, goals, b, turns, q, base.value());
    s.result({"recipe.peak",
              "peak in the winding",
              b.peak,
              Unit::ampere,
              {},
              {},
              {fmt::format("the core saturates at {}: B A/(AL N)",
                           format_quantity(b.saturates(turns), Unit::ampere)),
               fmt::format("L = AL N² = {}", format_quantity(b.inductance(turns), Unit::henry))}});
    s.result(winding_plan(winding.value()));
    return s.done();
}

Goals complete_booster(Goals g, const std::set<std::string>& said, const Environment& environment) {
    if (!said.contains("cells") && !environment.source) g.values["cells"] = 1.0;
    if (!said.contains("led")) g.values["led"] = std::string("white-5mm");
    if (!said.contains("per_string")) g.values["per_string"] = std::min(g.number("count"), 10.0);
    const auto b = boost_of(g, fresh_volts(g, environment));
    if (b && !said.contains("turns"))
        g.values["turns"] = std::clamp(
            std::floor(std::min(b.value().turns_for(usual_rate), b.value().most_turns())), 3.0, 200.0);
    return g;
}

}  // namespace

Recipe cell_booster() {
    Recipe r = declared_recipe("cell-booster").value();
    r.size = size_booster, r.complete = complete_booster;
    r.picture = [](const Goals& goals, const Environment&) -> Result<Drawing> {
        const auto winding = winding_of(goals);
        if (!winding) return winding.error();
        return draw_winding(winding.value());
    };
    return r;
}

}  // namespace elkit
