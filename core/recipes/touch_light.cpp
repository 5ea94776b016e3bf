#include "recipes/touch_light.hpp"

#include <fmt/format.h>

#include "recipes/switching.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double touched = 0.5, seen_after = 0.4;  // s of a finger; after it came
constexpr double willing = 0.8;                    // of what the output is rated for

/// One of the four modules that its two pads make of it.
const PartKind& touch_module(const Goals& goals) {
    const std::string kind = goals.text("mode") == "latched" ? "touch_latch" : "touch_switch";
    return *part_kind(goals.text("active") == "low" ? kind + "_low" : kind);
}

/// Lights that the output feeds or sinks by itself. Errors as Sketch::lights(); more than it gives.
Result<void> straight(Sketch& s, const Goals& goals, const PartKind& module, const Feed& feed) {
    const double most = willing * usual_number(module, "max_current"), total = lights_of(goals).total();
    if (total > most)
        return Error{Fault::design, "lights hang", fmt::format("the output would carry {}", amps_text(total)),
                     fmt::format("{} at most, or a transistor", amps_text(most))};
    Thevenin from = feed.fresh;
    from.resistance += usual_number(module, "resistance");
    return goals.text("active") == "low" ? s.lights(lights_of(goals), from, feed.net, "OUT")
                                         : s.lights(lights_of(goals), from, "OUT", "GND");
}

/// Lights behind a MOSFET: in the minus lead for an output that goes high, in the plus lead for one that goes
/// low.
Result<void> by_transistor(Sketch& s, const Goals& goals, const Feed& feed) {
    if (goals.text("active") != "low") {
        add_gate(s, "LAMP", 100e3, "OUT");
        return s.lights(lights_of(goals), feed.fresh, feed.net, "LAMP");
    }
    s.rough_resistor("Rup", "gate pull-up", 100e3, feed.net, "GATE",
                     {"holds the gate at plus, and it off, while nothing drives it"});
    s.rough_resistor("Rgate", "gate resistor", 1e3, "GATE", "OUT",
                     {"slows the edge; the gate takes no current"});
    s.add({"Q1",
           "pmos",
           {{"type", std::string(high_side_mosfet)}},
           {{"d", "LAMP"}, {"g", "GATE"}, {"s", feed.net}},
           {}});
    return s.lights(lights_of(goals), feed.fresh, "LAMP", "GND");
}

Result<Sized> size_touch(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto fed = s.feed();
    if (!fed) return fed.error();
    const Feed& feed = fed.value();
    const PartKind& module = touch_module(goals);
    const double idle = usual_number(module, "idle_current");
    if (auto fits = fits_supply(module, feed.fresh.voltage); !fits) return fits.error();
    const bool momentary = goals.text("mode") == "momentary";
    s.add({"Utouch", module.id, {}, {{"vcc", feed.net}, {"gnd", "GND"}, {"out", "OUT"}}, {}});
    s.capacitor("Csupply", 1e-7, feed.net, "GND");
    if (momentary) s.lit_after({"Utouch"}, touched, seen_after);
    if (goals.text("drives") != "nothing") {
        const auto lit = goals.text("drives") == "direct" ? straight(s, goals, module, feed)
                                                          : by_transistor(s, goals, feed);
        if (!lit) return lit.error();
    }
    if (momentary)
        s.expect({"takes untouched", "part:" + std::string(recipe_source), idle, 0.5 * idle, 2 * idle, "mean",
                  Unit::ampere});
    s.result(
        {"recipe.standby",
         "takes while it waits",
         idle,
         Unit::ampere,
         {},
         {},
         {"the module's own current: it feels for a finger all the while",
          "its pads say whether it follows the finger or goes from touch to touch, and whether its output is "
          "high or low then: see the leaflet of yours, and try it before it is closed in",
          "a thicker cover makes it less sensitive: a larger pad of copper behind it makes up for that"}});
    return s.done();
}

Goals complete_touch(Goals g, const std::set<std::string>& said, const Environment& environment) {
    suit_led(g, said, fresh_volts(g, environment));
    if (!said.contains("drives"))
        g.values["drives"] = lights_of(g).total() > willing * usual_number(touch_module(g), "max_current")
                                 ? std::string("transistor")
                                 : std::string("direct");
    return g;
}

}  // namespace

Recipe touch_light() {
    Recipe r = declared_recipe("touch-light").value();
    r.size = size_touch, r.complete = complete_touch;
    return r;
}

}  // namespace elkit
