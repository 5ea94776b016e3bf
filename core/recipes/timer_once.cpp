// The timer that waits for a press: once for a time, or until it is reset.
#include "recipes/timer_once.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "recipes/timer_parts.hpp"
#include "recipes/timer_times.hpp"

namespace elkit {
namespace {

constexpr double pin_pull_up = 100e3, button_pull_up = 10e3;  // Ω
constexpr double pulse = 10e-9;      // F: with the pull-up a millisecond, whatever the press
constexpr double usual_press = 0.2;  // s

void hold_high(Sketch& s, const char* name, const char* what, const std::string& net, const Feed& feed) {
    s.rough_resistor(name, what, pin_pull_up, feed.net, net,
                     {fmt::format("holds the pin high until something pulls it down, at {} while it does",
                                  format_quantity(feed.fresh.voltage / pin_pull_up, Unit::ampere))});
}

/// The button on the trigger pin: straight, so that a long press prolongs the time, or through a capacitor
/// that passes its first moment only.
void add_trigger(Sketch& s, const Goals& goals, const Feed& feed) {
    hold_high(s, "Rtrigger", "trigger pull-up", "TRIGGER", feed);
    if (goals.text("input") == "joined") return;
    if (goals.text("trigger") == "held") return s.button("Spress", "TRIGGER", "GND");
    s.button("Spress", "PRESS", "GND");
    s.rough_resistor("Rpress", "button pull-up", button_pull_up, feed.net, "PRESS",
                     {"charges the coupling capacitor again when the button is let go"});
    s.capacitor("Cpress", pulse, "PRESS", "TRIGGER");
    s.add({"Dclamp", "diode", {{"type", std::string("signal")}}, {{"a", "TRIGGER"}, {"k", feed.net}}, {}});
}

Result<Sized> size_one_shot(const Goals& goals, const Environment& environment) {
    auto begun = begin_timer(goals, environment);
    if (!begun) return begun.error();
    auto& [s, feed, chip] = begun.value();
    const double c = goals.number("capacitor"), wanted = goals.number("time");
    const TimingCapacitor capacitor = timing_capacitor(c);
    double exact = 0;  // longer with more of it, up to half of the leak, where it never ends
    for (double step = std::min(wanted / std::log(3.0) / c, capacitor.leak / 2); step > 1e-9 * exact;
         step /= 2)
        if (one_shot_time(exact + step, capacitor) <= wanted) exact += step;
    if (auto good = check_timing("the timing resistor", exact, c); !good) return good.error();
    add_timer(s, chip, feed, {"TRIGGER", "TIMING", "TIMING"});
    auto r = s.chosen_resistor(
        "Rtiming", "timing resistor", exact, feed.net, "TIMING",
        {"T = ln 3 R C, from empty to two thirds of the supply, and longer for the leak of an "
         "electrolytic capacitor"});
    if (!r) return r.error();
    s.capacitor("Ctiming", c, "TIMING", "GND");
    add_trigger(s, goals, feed);
    const double time = one_shot_time(r.value(), capacitor), tr = usual_tolerance("resistor"),
                 tc = capacitor_tolerance(c);
    const Figure lasts{
        "recipe.time",
        "time",
        time,
        Unit::second,
        time * (1 - tr) * (1 - tc),
        time * (1 + tr) * (1 + tc),
        {fmt::format("T = ln 3 × {} × {} = {}; {} with a leak of {}", format_quantity(r.value(), Unit::ohm),
                     format_quantity(c, Unit::farad),
                     format_quantity(std::log(3.0) * r.value() * c, Unit::second),
                     format_quantity(time, Unit::second), format_quantity(capacitor.leak, Unit::ohm)),
         fmt::format("spread: capacitor ±{:.0f} %, resistor ±{:.0f} %", 100 * tc, 100 * tr)}};
    const double press = std::min(usual_press, wanted / 4);
    if (goals.text("input") == "button") {
        Expectation e{"time after a press", "net:OUT", wanted,      *lasts.low,
                      *lasts.high,          "lasts",   Unit::second};
        e.presses = {"Spress"}, e.pressed = press;
        s.expect(std::move(e));
        s.lit_after({"Spress"}, press, 1.5 * press);
    } else {
        s.lit_by_another();
    }
    if (auto lit = add_driven_lights(s, goals, chip, feed); !lit) return lit.error();
    s.result(lasts);
    s.result(own_current(chip, chip.volts() / r.value(),
                         "through the timing resistor at rest, into the discharge pin"));
    return s.done();
}

Goals complete_one_shot(Goals g, const std::set<std::string>& said, const Environment& environment) {
    complete_drive(g, said, fresh_volts(g, environment));
    if (!said.contains("capacitor"))
        g.values["capacitor"] =
            suitable_capacitor(environment, [&](double c) { return g.number("time") / std::log(3.0) / c; });
    return g;
}

Result<Sized> size_set_reset(const Goals& goals, const Environment& environment) {
    auto begun = begin_timer(goals, environment);
    if (!begun) return begun.error();
    auto& [s, feed, chip] = begun.value();
    add_timer(s, chip, feed, {"SET", "GND", {}, "RESET"});
    hold_high(s, "Rset", "pull-up of the set pin", "SET", feed);
    hold_high(s, "Rreset", "pull-up of the reset pin", "RESET", feed);
    s.button("Sset", "SET", "GND");
    s.button("Sreset", "RESET", "GND");
    s.lit_after({"Sset"}, usual_press, 5);
    if (auto lit = add_driven_lights(s, goals, chip, feed); !lit) return lit.error();
    Expectation off{"output after reset", "net:OUT", 0, -0.01, 0.05, "after", Unit::volt};
    off.presses = {"Sset", "Sreset"}, off.wait = 1;
    s.expect(std::move(off));
    s.result(own_current(chip, 0, "beside that"));
    return s.done();
}

Goals complete_set_reset(Goals g, const std::set<std::string>& said, const Environment& environment) {
    complete_drive(g, said, fresh_volts(g, environment));
    return g;
}

}  // namespace

Recipe timer_one_shot() {
    Recipe r = declared_recipe("timer-one-shot").value();
    r.size = size_one_shot, r.complete = complete_one_shot;
    r.variants = capacitor_variants;
    return r;
}

Recipe timer_set_reset() {
    Recipe r = declared_recipe("timer-set-reset").value();
    r.size = size_set_reset, r.complete = complete_set_reset;
    return r;
}

}  // namespace elkit
