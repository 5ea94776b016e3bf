#include "recipes/pulse_latch.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "recipes/switching.hpp"

namespace elkit {
namespace {

constexpr double gain_forced = 20, worn = 0.75;        // of both transistors, at so much of fresh cells
constexpr double pair_base_on = 0.7, saturated = 0.1;  // V
constexpr double pnp_opens = 0.6;                      // V
constexpr double upper_base = 10e3;  // Ω from the PNP's base to plus: leakage opens it no more
constexpr double contact_series = 10e3, contact_base = 10e3, contact_filter = 100e-9;
constexpr double loop_base = 100e3, loop_coupling = 10e-6,
                 loop_filter = 10e-9;  // or the rush at power-on would set it
constexpr double latch_press = 0.2;    // s
constexpr double warm = 60;            // °C at which it must still wait

/// A loop of wire that a magnet passes.
constexpr double loop_radius = 0.015, bundle = 0.002, wire_diameter = 0.2e-3;  // m
constexpr double copper = 1.75e-8;                                             // Ω m
constexpr double magnet_flux = 8e-6, pass_time = 0.01;  // Wb of 0.1 T on 10 mm; s over 10 mm at 1 m/s

/// H of a round coil: μ0 N² r (ln(8 r/a) − 2), a the radius of its bundle (Grover, Inductance Calculations).
double loop_inductance(double turns) {
    return 4e-7 * std::numbers::pi * turns * turns * loop_radius * (std::log(8 * loop_radius / bundle) - 2);
}

double loop_resistance(double turns) {
    const double length = turns * 2 * std::numbers::pi * loop_radius;
    return copper * length / (std::numbers::pi * wire_diameter * wire_diameter / 4);
}

/// Resistors that hold each other's base, and V at which it flips.
struct Pair {
    const PartType* npn = nullptr;
    double hold = 0, link = 0, lower_base = 0;  ///< Ω
    double flips = 0, into_base = 0;            ///< V on the base of the NPN then, and A into it
    double own = 0;                             ///< A while it is on, beside the lights
};

/// A through the lights with so many volts across them and their resistors, that are sized for the supply.
double lights_at(const Lights& lights, double supply, double volts) {
    const auto law = light_junction(lights);
    if (!law) return 0;
    const auto diodes = [&](double amps) { return lights.longest() * law.value().voltage_at(amps); };
    const double ohms = std::max(1.0, (supply - saturated - diodes(lights.current)) / lights.current);
    double low = 1e-9, high = lights.current;
    for (int k = 0; k < 60; ++k) {
        const double amps = std::sqrt(low * high);
        (diodes(amps) + amps * ohms < volts ? low : high) = amps;
    }
    return low * lights.strings();
}

Result<Pair> sized_pair(const Goals& goals, double supply) {
    const double total = lights_of(goals).total();
    auto npn = npn_for(total);
    if (!npn) return Error{Fault::design, "lights", npn.error().found, "less current, or fewer lights"};
    if (worn * supply < 2 * pair_base_on)
        return Error{
            Fault::design, "supply",
            fmt::format("{} is little for two junctions in a row", format_quantity(supply, Unit::volt)),
            "two cells or more"};
    Pair p;
    p.npn = npn.value();
    p.lower_base = goals.text("trigger") == "loop" ? loop_base : contact_base;
    const double into_npn = total / gain_forced + pair_base_on / p.lower_base;
    p.hold = nearest_preferred((worn * supply - saturated - pair_base_on) / into_npn, Series::e24);
    const double into_pnp = into_npn / gain_forced + pair_base_on / upper_base;
    p.link = nearest_preferred((worn * supply - pair_base_on - saturated) / into_pnp, Series::e24);
    // it flips once the lamp's net is low enough to open the PNP through the link; the lights have what is
    // between it and plus then, and their current flows through the NPN too
    const double opens = pnp_opens * (1 + p.link / upper_base);
    if (opens > supply - saturated)
        return Error{Fault::design, "supply",
                     fmt::format("{} do not open both transistors", format_quantity(supply, Unit::volt)),
                     "more cells"};
    const double collector = pnp_opens / upper_base + lights_at(lights_of(goals), supply, opens);
    p.flips = base_volts(*p.npn, collector);
    p.into_base = collector / p.npn->value("gain");
    p.own = (supply - pair_base_on - saturated) * (1 / p.hold + 1 / p.link);
    return p;
}

void place_pair(Sketch& s, const Pair& p, const std::string& plus) {
    s.add({"Qhold",
           "pnp",
           {{"type", std::string("pnp-small")}},
           {{"c", "HOLD"}, {"b", "UPPER"}, {"e", plus}},
           {}});
    s.add({"Qset", "npn", {{"type", p.npn->id}}, {{"c", "LAMP"}, {"b", "BASE"}, {"e", "GND"}}, {}});
    s.resistor("Rupper", upper_base, plus, "UPPER");
    s.resistor("Rlower", p.lower_base, "BASE", "GND");
    s.chose("Rupper", "base resistor of the PNP", upper_base, Unit::ohm,
            {"leakage flows through it and not into the base: without it warmth would set the latch"});
    s.chose("Rlower", "base resistor of the NPN", p.lower_base, Unit::ohm,
            {"likewise, and it empties what a spike left"});
    s.resistor("Rlink", p.link, "UPPER", "LAMP");
    s.chose(
        "Rlink", "link resistor", p.link, Unit::ohm,
        {fmt::format("a {:.0f}th of what the PNP gives, at {:.0f} % of fresh cells; it keeps the latch from "
                     "shorting the supply",
                     gain_forced, 100 * worn)});
    s.resistor("Rhold", p.hold, "HOLD", "BASE");
    s.chose("Rhold", "holding resistor", p.hold, Unit::ohm,
            {fmt::format("a {:.0f}th of the lights' current into the base, at {:.0f} % of fresh cells",
                         gain_forced, 100 * worn)});
}

/// What sets it, and the volts there that do.
struct Trigger {
    std::string part;  ///< its name; empty if another block does
    double level = 0, rise = 0.2;
};

Trigger place_trigger(Sketch& s, const Goals& goals, const Pair& p, const std::string& plus) {
    const std::string by = goals.text("trigger");
    if (by == "loop") {
        const double turns = goals.number("turns");
        s.add({"LIloop",
               "inductor",
               {{"value", std::stod(fmt::format("{:.3g}", loop_inductance(turns)))},
                {"resistance", std::stod(fmt::format("{:.3g}", loop_resistance(turns)))}},
               {{"a", "GND"}, {"b", "LOOP"}},
               {}});
        s.capacitor("Cloop", loop_coupling, "BASE", "LOOP");
        s.capacitor("Cfilter", loop_filter, "BASE", "GND");
        return {"LIloop", p.flips, 2 * pass_time};
    }
    if (by == "contact") s.button("Sset", plus, "TRIGGER");
    s.resistor("Rtrigger", contact_series, "TRIGGER", "BASE");
    s.capacitor("Cfilter", contact_filter, "BASE", "GND");
    return {by == "contact" ? "Sset" : "", p.flips + contact_series * (p.flips / p.lower_base + p.into_base)};
}

void expect_latching(Sketch& s, const Goals& goals, const Trigger& trigger, double supply) {
    if (!trigger.part.empty()) {
        Expectation level{"set at",   "part:L1", trigger.level, 0.85 * trigger.level, 1.15 * trigger.level,
                          "triggers", Unit::volt};
        level.bench = {trigger.part, 2 * trigger.level, trigger.rise};
        if (goals.text("trigger") == "loop") s.lit_once_triggered(level.bench);
        s.expect(std::move(level));
    }
    const bool contact = goals.text("trigger") == "contact";
    if (contact && goals.text("reset") == "button") {
        Expectation off{"after reset", "part:L1", 0, -1e-6, 2e-6, "after", Unit::ampere};
        off.presses = {"Sset", "Sreset"}, off.pressed = latch_press, off.wait = 1;
        s.expect(std::move(off));
    }
    const Expectation waits{"takes while it waits",
                            "part:" + std::string(recipe_source),
                            0,
                            0,
                            1e-6 + supply * 1e-7,
                            "mean",
                            Unit::ampere};
    s.expect(waits);
    Expectation in_warmth = waits;
    in_warmth.label = fmt::format("waits at {:.0f} °C", warm), in_warmth.celsius = warm, in_warmth.high *= 10;
    s.expect(std::move(in_warmth));
    if (contact) s.lit_after({"Sset"}, latch_press, 3);
    if (goals.text("trigger") == "joined") s.lit_by_another();
}

Result<Sized> size_pulse_latch(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto feed = s.feed();
    if (!feed) return feed.error();
    const double supply = feed.value().fresh.voltage;
    auto pair = sized_pair(goals, supply);
    if (!pair) return pair.error();
    const Pair& p = pair.value();
    const Trigger trigger = place_trigger(s, goals, p, feed.value().net);
    place_pair(s, p, feed.value().net);
    if (goals.text("reset") == "button") s.button("Sreset", "BASE", "GND");
    expect_latching(s, goals, trigger, supply);
    Figure level{"recipe.level",
                 "set at",
                 trigger.level,
                 Unit::volt,
                 0.85 * trigger.level,
                 1.15 * trigger.level,
                 {fmt::format("{} on the base, where what it lets through opens the other transistor",
                              format_quantity(p.flips, Unit::volt)),
                  "2 mV less for each °C"}};
    if (goals.text("trigger") == "loop") {
        const double turn = magnet_flux / pass_time;
        level.working.push_back(fmt::format(
            "a turn gives {} as a magnet of 10 mm and 0.1 T passes at 1 m/s (Faraday's law: 8 µWb in 10 ms): "
            "{:.0f} turns give {}",
            format_quantity(turn, Unit::volt), goals.number("turns"),
            format_quantity(turn * goals.number("turns"), Unit::volt)));
        if (turn * goals.number("turns") < 1.15 * trigger.level)
            return Error{
                Fault::design, "turns",
                fmt::format("they give {} as a magnet passes",
                            format_quantity(turn * goals.number("turns"), Unit::volt)),
                fmt::format("{:.0f} at least, for {}", std::ceil(1.15 * trigger.level / turn / 10) * 10,
                            format_quantity(1.15 * trigger.level, Unit::volt))};
    }
    s.result(std::move(level));
    s.result({"recipe.own",
              "holding takes",
              p.own,
              Unit::ampere,
              {},
              {},
              {fmt::format("through {} and {}, while it is set", format_quantity(p.hold, Unit::ohm),
                           format_quantity(p.link, Unit::ohm)),
               "while it waits nothing flows but leakage"}});
    Thevenin from = feed.value().fresh;
    from.voltage -= saturated;
    if (auto lit = s.lights(lights_of(goals), from, feed.value().net, "LAMP"); !lit) return lit.error();
    return s.done();
}

Goals complete_pulse_latch(Goals g, const std::set<std::string>& said, const Environment& environment) {
    const double volts = fresh_volts(g, environment);
    suit_led(g, said, volts);
    if (!said.contains("switch")) g.values["switch"] = std::string("no");
    if (!said.contains("turns"))
        if (const auto pair = sized_pair(g, volts))
            g.values["turns"] = std::ceil(1.3 * pair.value().flips * pass_time / magnet_flux / 50) * 50;
    return g;
}

}  // namespace

Recipe pulse_latch() {
    Recipe r = declared_recipe("pulse-latch").value();
    r.size = size_pulse_latch, r.complete = complete_pulse_latch;
    return r;
}

}  // namespace elkit
