#include "recipes/press_fade.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "recipes/switching.hpp"
#include "recipes/timer_parts.hpp"

namespace elkit {
namespace {

constexpr double usual_charging = 100, least_charging = 22;  // Ω between button and capacitor
constexpr double usual_hold = 0.3;                           // s that a button is pressed
constexpr double least_bleed = 10e3, most_bleed = 10e6, comfortable_bleed = 4.7e6;  // Ω
constexpr double bins = 0.15;        // V that an LED differs by
constexpr double leak_spread = 10;   // times more or less than usual: 100 to 1
constexpr double diode_volts = 0.5;  // V that another block loses at its diode

std::string in_seconds(double s) { return format_quantity(s, Unit::second); }

/// The gate's capacitor as it empties.
struct Fading {
    double from = 0;                        ///< V at letting go
    double ninth = 0, half = 0, tenth = 0;  ///< V of the gate at 9/10, 1/2 and 1/10 of the light
    double spread = 0;                      ///< V by which these differ over a batch
    double seconds(double tau, double volts) const { return tau * std::log(from / volts); }
};

double charging_ohms(double farads) { return farads > 330e-6 ? least_charging : usual_charging; }

bool gentle(const Goals& goals) { return goals.text("shape") == "gentle"; }

/// V that the lights want above ground at a part of their current: below a follower they hang with their
/// resistors, that are chosen for `full` [V] there.
Result<double> lights_volts(const Lights& lights, double full, double part) {
    const auto law = light_junction(lights);
    if (!law) return law.error();
    const auto diodes = [&](double amps) { return lights.longest() * law.value().voltage_at(amps); };
    return diodes(part * lights.current) + part * (full - diodes(lights.current));
}

/// Errors: a supply that hardly opens the gate; a press that charges too little.
Result<Fading> fading(const Goals& goals, const Feed& feed, double farads, double hold) {
    const Lights lights = lights_of(goals);
    const double total = lights.total();
    Fading f;
    const double supply = feed.fresh.voltage - (goals.text("input") == "joined" ? diode_volts : 0);
    f.from = supply * -std::expm1(-hold / (charging_ohms(farads) * farads));
    for (const auto& [part, volts] :
         {std::pair(0.9, &f.ninth), std::pair(0.5, &f.half), std::pair(0.1, &f.tenth)}) {
        auto gate = gate_volts(switch_mosfet, part * total);
        if (!gate) return gate.error();
        *volts = gate.value();
    }
    f.spread = threshold_spread * f.half;
    if (gentle(goals)) {  // the lights follow the gate, less its threshold
        const double full = f.from - gate_volts(switch_mosfet, total).value();
        f.spread += bins * lights.longest();
        for (const auto& [part, volts] :
             {std::pair(0.9, &f.ninth), std::pair(0.5, &f.half), std::pair(0.1, &f.tenth)}) {
            auto wanted = lights_volts(lights, full, part);
            if (!wanted) return wanted.error();
            *volts += wanted.value();
        }
    } else if (f.from < f.ninth + f.spread + 0.2)
        return Error{
            Fault::design, f.from < 0.9 * supply ? "capacitor" : "supply",
            fmt::format("it is charged to {}, and the gate wants {} for all kits",
                        format_quantity(f.from, Unit::volt), format_quantity(f.ninth + f.spread, Unit::volt)),
            f.from < 0.9 * supply ? "a smaller one" : "more cells"};
    return f;
}

/// What empties it: its bleed resistor and its own leak [Ω], side by side.
double emptied_by(double bleed, double leak) { return bleed > 0 ? 1 / (1 / bleed + 1 / leak) : leak; }

/// s to a voltage over a batch: parts, threshold and a leak of a tenth to ten times what is usual.
std::pair<double, double> time_spread(const Fading& f, double volts, double farads, double bleed,
                                      double leak) {
    const double c = capacitor_tolerance(farads), r = usual_tolerance("resistor");
    const double late = std::max(0.2, volts - f.spread), early = std::min(0.98 * f.from, volts + f.spread);
    return {f.seconds(emptied_by(bleed * (1 - r), leak / leak_spread) * farads * (1 - c), early),
            f.seconds(emptied_by(bleed * (1 + r), leak * leak_spread) * farads * (1 + c), late)};
}

/// The bleed resistor for a time [Ω], beside the leak; 0 if that alone empties it sooner.
double exact_bleed(double tau, double farads, double leak) {
    const double all = tau / farads;
    return all < leak ? 1 / (1 / all - 1 / leak) : 0;
}

Result<double> placed_bleed(Sketch& s, const Goals& goals, const Fading& f, double farads, double leak) {
    const double wanted = goals.number("time");
    if (goals.text("bleed") == "leak") {
        const auto [least, most] = time_spread(f, f.tenth, farads, 0, leak);
        if (wanted >= least && wanted <= most) return 0.0;
        return Error{Fault::design, "emptied by",
                     leak > 1e12
                         ? std::string("the leak of a film capacitor is not known to anybody")
                         : fmt::format("its leak alone makes {} to {}", in_seconds(least), in_seconds(most)),
                     fmt::format("a bleed resistor, for {}", in_seconds(wanted))};
    }
    const double exact = exact_bleed(wanted / std::log(f.from / f.tenth), farads, leak);
    if (exact < least_bleed || exact > most_bleed)
        return Error{
            Fault::design, "capacitor",
            exact > 0 ? fmt::format("with {} the bleed resistor would be {}",
                                    format_quantity(farads, Unit::farad), format_quantity(exact, Unit::ohm))
                      : "its own leak empties it sooner",
            fmt::format("{} to {}", format_quantity(least_bleed, Unit::ohm),
                        format_quantity(most_bleed, Unit::ohm))};
    return s.chosen_resistor(
        "Rbleed", "bleed resistor", exact, "FADE", "GND",
        {fmt::format(
             "T = R C ln(V0/V) from {} at letting go to {} on the gate, where a tenth of the light is left",
             format_quantity(f.from, Unit::volt), format_quantity(f.tenth, Unit::volt)),
         leak < 1e12 ? fmt::format("beside its leak of {}", format_quantity(leak, Unit::ohm))
                     : "a film capacitor leaks next to nothing"});
}

Result<Sized> size_press_fade(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto feed = s.feed();
    if (!feed) return feed.error();
    const double farads = goals.number("capacitor"), leak = timing_capacitor(farads).leak;
    const double hold = std::min(usual_hold, goals.number("time") / 5);
    auto found = fading(goals, feed.value(), farads, hold);
    if (!found) return found.error();
    const Fading& f = found.value();
    const bool pressed = goals.text("input") == "button";
    if (pressed)
        s.button("Spress", feed.value().net, "PRESS");
    else
        s.add({"Dcharge", "diode", {{"type", std::string("signal")}}, {{"a", "CHARGE"}, {"k", "PRESS"}}, {}});
    s.resistor("Rcharge", charging_ohms(farads), "PRESS", "FADE");
    s.chose("Rcharge", "charging resistor", charging_ohms(farads), Unit::ohm,
            {"spares the contact the surge of an empty capacitor"});
    s.capacitor("Cfade", farads, "FADE", "GND");
    auto bleed = placed_bleed(s, goals, f, farads, leak);
    if (!bleed) return bleed.error();
    const std::string drain = gentle(goals) ? feed.value().net : "LAMP",
                      source = gentle(goals) ? "LAMP" : "GND";
    s.add({"Q1",
           "nmos",
           {{"type", std::string(switch_mosfet)}},
           {{"d", drain}, {"g", "FADE"}, {"s", source}},
           {}});
    const double tau = emptied_by(bleed.value(), leak) * farads;
    const double tenth = f.seconds(tau, f.tenth), half = f.seconds(tau, f.half),
                 ninth = f.seconds(tau, f.ninth);
    const auto [least, most] = time_spread(f, f.tenth, farads, bleed.value(), leak);
    Figure time{"recipe.time",
                "time",
                tenth,
                Unit::second,
                least,
                most,
                {fmt::format("τ = {}", in_seconds(tau)),
                 fmt::format("spread: capacitor ±{:.0f} %, gate ±{:.2g} V, leakage 100 to 1",
                             100 * capacitor_tolerance(farads), f.spread)}};
    if (bleed.value() == 0)
        time.working.push_back(
            "without a bleed resistor nobody can say it nearer; damp fingers shorten it further");
    if (pressed) {
        const auto lasts = [&](const char* label, double level, double target,
                               std::pair<double, double> range) {
            Expectation e{label,   "part:L1",   target, range.first, range.second + 1.2 * hold,
                          "lasts", Unit::second};
            e.presses = {"Spress"}, e.pressed = hold, e.level = level;
            s.expect(std::move(e));
        };
        lasts("time to a tenth", 0.1, goals.number("time"), {least, most});
        lasts("time to half", 0.5, half, time_spread(f, f.half, farads, bleed.value(), leak));
        s.lit_after({"Spress"}, hold, 0.9 * hold);
    } else {
        s.lit_by_another();
    }
    s.result(std::move(time));
    s.result({"recipe.shape",
              "dies away in",
              tenth - ninth,
              Unit::second,
              {},
              {},
              {fmt::format("full for {}, then from nine tenths to one tenth: the gate goes from {} to {}",
                           in_seconds(ninth), format_quantity(f.ninth, Unit::volt),
                           format_quantity(f.tenth, Unit::volt))}});
    Thevenin from = feed.value().fresh;
    if (gentle(goals)) from.voltage = f.from - gate_volts(switch_mosfet, lights_of(goals).total()).value();
    const auto lit = gentle(goals) ? s.lights(lights_of(goals), from, "LAMP", "GND")
                                   : s.lights(lights_of(goals), from, feed.value().net, "LAMP");
    if (!lit) return lit.error();
    return s.done();
}

Goals complete_press_fade(Goals g, const std::set<std::string>& said, const Environment& environment) {
    const double volts = fresh_volts(g, environment);
    suit_led(g, said, volts);
    if (said.contains("capacitor") || !(volts > 0)) return g;
    const auto f = fading(g, {"ON", {volts, 0, {}}}, 1e-6, usual_hold);
    if (!f) return g;
    const double tau = g.number("time") / std::log(f.value().from / f.value().tenth);
    g.values["capacitor"] =
        suitable_capacitor(environment, [&](double c) { return tau / c * 1e6 / comfortable_bleed; });
    if (g.text("bleed") == "leak" && !said.contains("time")) {
        g.values["capacitor"] = std::max(g.number("capacitor"), 1e-5);
        g.values["time"] = std::stod(
            fmt::format("{:.2g}", f.value().seconds(timing_capacitor(1e-5).leak * 1e-5, f.value().tenth)));
    }
    return g;
}

}  // namespace

Recipe press_fade() {
    Recipe r = declared_recipe("press-fade").value();
    r.size = size_press_fade, r.complete = complete_press_fade, r.variants = capacitor_variants;
    return r;
}

}  // namespace elkit
