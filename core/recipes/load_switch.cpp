#include "recipes/load_switch.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "light/strings.hpp"
#include "recipes/switching.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double load_press = 0.5, load_looked_at = 0.45;  // s of the button; after it was pressed
constexpr double load_gain = 20, load_worn = 0.75;         // of a transistor that is on; of fresh cells
constexpr double load_base_on = 0.75, held_off = 10e3;     // V; Ω from a base to its emitter
constexpr double most_drive = 0.008;                       // A that a chip's output gives willingly
constexpr double overdriven = 3;                           // times the load, that the gate has to let through
constexpr double strip_volts[] = {9, 14};                  // V that suit a strip of three in series
constexpr double motor_spread = 0.35, load_spread = 0.2;

/// What is switched.
struct Load {
    std::string part;            ///< that carries its current
    double amps = 0, surge = 0;  ///< A in the long run, and at the start
    double spread = load_spread;
    bool coil = false;
};

/// A strip, a motor or a buzzer of the usual type, as parts have it; not yet joined.
Part load_part(const Goals& goals) {
    const std::string load = goals.text("load");
    if (load == "strip") return {"LS1", "strip", {{"length", goals.number("length")}}, {}, {}};
    if (load == "motor") return {"M1", "motor", {{"type", std::string("motor-3V")}}, {}, {}};
    return {"BZ1", "buzzer", {{"type", std::string("buzzer-5V")}}, {}, {}};
}

/// What the load takes from so many volts. Design error where it does not work with them.
Result<Load> load_of(const Goals& goals, double volts) {
    const std::string load = goals.text("load");
    if (load == "lights") {
        const double total = lights_of(goals).total();
        return Load{"L1", total, total};
    }
    const Part part = load_part(goals);
    Load l{part.designator};
    double low = 0, high = 0;
    if (load == "strip") {
        l.amps = l.surge = strip_current(part, volts);
        low = strip_volts[0], high = strip_volts[1];
    } else {
        low = part.number("low"), high = part.number("high");
        l.amps = l.surge = volts / part.number("resistance");
        l.coil = part.number("inductance") > 0;
        if (load == "motor") l.amps *= 1 - part.number("back_share"), l.spread = motor_spread;
    }
    if (volts < low || volts > high)
        return Error{Fault::design, "cells", fmt::format("{} do not suit it", volts_text(volts)),
                     fmt::format("{} to {}", volts_text(low), volts_text(high))};
    return l;
}

/// Between two nets; a coil with its diode. Errors as Sketch::lights().
Result<void> add_load(Sketch& s, const Goals& goals, const Load& load, const Thevenin& from,
                      const std::string& high, const std::string& low) {
    if (goals.text("load") == "lights") return s.lights(lights_of(goals), from, high, low);
    s.carries(std::max(load.amps, load.coil ? load.surge : 0));
    Part part = load_part(goals);
    part.pins = {{"+", high}, {"-", low}};
    s.add(std::move(part));
    if (load.coil)
        s.add({"Dcoil",
               "diode",
               {{"type", std::string(load.surge > 0.2 ? "rectifier" : "signal")}},
               {{"a", low}, {"k", high}},
               {}});
    return success();
}

Error too_much_drive(double amps) {
    return {Fault::design, "switched by", fmt::format("its base would take {}", amps_text(amps)),
            fmt::format("{} at most from what drives it: a MOSFET", amps_text(most_drive))};
}

/// A base resistor for so much in the collector, from a net that is at `volts`; what it takes [A].
Result<double> add_base(Sketch& s, double collector, double volts, const std::string& from,
                        const std::string& base, bool by_button) {
    const double drive = collector / load_gain;
    if (drive > most_drive && !by_button) return too_much_drive(drive);
    const double exact = (load_worn * volts - load_base_on) / drive;
    if (!(exact > 0))
        return Error{Fault::design, "cells", volts_text(volts) + " do not open a transistor", "more cells"};
    auto ohms = s.chosen_resistor(
        "Rbase", "base resistor", exact, from, base,
        {fmt::format("R = (V − Vbe)/(I/{:.0f}), at {:.0f} % of fresh cells: {} − {} over {}", load_gain,
                     100 * load_worn, volts_text(load_worn * volts), volts_text(load_base_on),
                     amps_text(drive))});
    if (!ohms) return ohms.error();
    return (volts - load_base_on) / ohms.value();
}

/// What turns a plus-side switch on by pulling `net` to ground: the button, or a transistor for a block whose
/// output is high when it wants it on.
void add_pull(Sketch& s, bool by_button, const std::string& net) {
    if (by_button) return s.button("Spress", net, "GND");
    s.rough_resistor("Rinput", "input resistor", 47e3, "IN", "TURN",
                     {"of the transistor that turns the sense"});
    s.rough_resistor("Rheld", "its pull-down", 100e3, "TURN", "GND",
                     {"holds it off while nothing drives it"});
    s.add({"Qturn",
           "npn",
           {{"type", std::string("npn-small")}},
           {{"c", net}, {"b", "TURN"}, {"e", "GND"}},
           {}});
}

/// Whether the gate's volts let the load through with tired cells. Errors as gate_volts(), or that.
Result<void> opens(const char* kind, const char* type, double amps, double volts) {
    const auto needed = gate_volts(type, overdriven * amps, kind);
    if (!needed) return needed.error();
    if (load_worn * volts < needed.value())
        return Error{Fault::design, "switched by",
                     fmt::format("the MOSFET is not fully on with {}: it needs {}",
                                 volts_text(load_worn * volts), volts_text(needed.value())),
                     "more cells, or a bipolar transistor"};
    if (const double most = known_catalogue().type(kind, type)->value("max_voltage"); volts > most)
        return Error{Fault::design, "cells", volts_text(volts) + " are more than the MOSFET bears",
                     volts_text(most) + " at most"};
    return success();
}

/// The switch between LAMP and ground; what it takes from what drives it [A].
Result<double> add_low_side(Sketch& s, const Goals& goals, const Load& load, const Feed& feed) {
    const bool by_button = goals.text("input") == "button";
    if (by_button) s.button("Spress", feed.net, "IN");
    const double volts = feed.fresh.voltage;
    if (goals.text("by") == "mosfet") {
        if (auto open = opens("nmos", switch_mosfet, load.surge, volts); !open) return open.error();
        add_gate(s, "LAMP", 100e3, "IN");
        return volts / 100e3;
    }
    auto npn = npn_for(load.surge);
    if (!npn) return npn.error();
    auto takes = add_base(s, load.surge, volts, "IN", "BASE", by_button);
    if (!takes) return takes.error();
    s.rough_resistor("Rdown", "base pull-down", held_off, "BASE", "GND",
                     {"holds it off while nothing drives it"});
    s.add({"Q1", "npn", {{"type", npn.value()->id}}, {{"c", "LAMP"}, {"b", "BASE"}, {"e", "GND"}}, {}});
    return takes.value();
}

/// The switch between plus and LAMP.
Result<double> add_high_side(Sketch& s, const Goals& goals, const Load& load, const Feed& feed) {
    const bool by_button = goals.text("input") == "button";
    const double volts = feed.fresh.voltage, turning = volts / 47e3;
    if (goals.text("by") == "mosfet") {
        if (auto open = opens("pmos", high_side_mosfet, load.surge, volts); !open) return open.error();
        s.rough_resistor("Rup", "gate pull-up", 100e3, feed.net, "GATE",
                         {"holds the gate at plus, and it off, while nothing pulls it down"});
        s.rough_resistor("Rgate", "gate resistor", 1e3, "GATE", "PULL",
                         {"slows the edge; the gate takes no current"});
        s.add({"Q1",
               "pmos",
               {{"type", std::string(high_side_mosfet)}},
               {{"d", "LAMP"}, {"g", "GATE"}, {"s", feed.net}},
               {}});
        add_pull(s, by_button, "PULL");
        return by_button ? volts / 100e3 : turning;
    }
    auto pnp = transistor_for("pnp", load.surge);
    if (!pnp) return pnp.error();
    auto takes = add_base(s, load.surge, volts, "PULL", "BASE", true);
    if (!takes) return takes.error();
    s.rough_resistor("Rup", "base pull-up", held_off, feed.net, "BASE",
                     {"holds it off while nothing pulls it down"});
    s.add({"Q1", "pnp", {{"type", pnp.value()->id}}, {{"c", "LAMP"}, {"b", "BASE"}, {"e", feed.net}}, {}});
    add_pull(s, by_button, "PULL");
    return by_button ? takes.value() : turning;
}

Expectation after_press(std::string label, std::string probe, double target, double low, double high,
                        Unit unit) {
    Expectation e{std::move(label), std::move(probe), target, low, high, "after", unit};
    e.presses = {"Spress"}, e.pressed = load_press, e.wait = load_looked_at;
    return e;
}

Figure drive_figure(double amps) {
    return {"recipe.drive",
            "takes from what drives it",
            amps,
            Unit::ampere,
            {},
            {},
            {"while it is on, from fresh cells"}};
}

/// Nothing but leakage while nobody presses.
void expect_off(Sketch& s, double most) {
    s.expect({"takes when off", "part:" + std::string(recipe_source), 0, -1e-9, most, "mean", Unit::ampere});
}

Result<Sized> size_load_switch(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto fed = s.feed();
    if (!fed) return fed.error();
    const Feed& feed = fed.value();
    auto found = load_of(goals, feed.fresh.voltage);
    if (!found) return found.error();
    const Load& load = found.value();
    const bool low_side = goals.text("side") == "minus", by_button = goals.text("input") == "button";
    auto takes = low_side ? add_low_side(s, goals, load, feed) : add_high_side(s, goals, load, feed);
    if (!takes) return takes.error();
    if (by_button)
        s.lit_after({"Spress"}, load_press, load_looked_at);
    else
        s.lit_by_another();
    Thevenin from = feed.fresh;
    from.voltage -= saturation;
    const auto added = low_side ? add_load(s, goals, load, from, feed.net, "LAMP")
                                : add_load(s, goals, load, from, "LAMP", "GND");
    if (!added) return added.error();
    if (by_button) {
        const double sagged = feed.fresh.voltage - load.amps * feed.fresh.lasting();
        if (goals.text("load") != "lights")
            s.expect(after_press("through the " + goals.text("load"), "part:" + load.part, load.amps,
                                 (1 - load.spread) * load.amps * sagged / feed.fresh.voltage,
                                 (1 + load.spread) * load.amps, Unit::ampere));
        s.expect(low_side
                     ? after_press("across the switch", "net:LAMP", saturation, 0, most_across, Unit::volt)
                     : after_press("reaches the load", "net:LAMP", sagged - saturation,
                                   0.97 * sagged - most_across, feed.fresh.voltage, Unit::volt));
        expect_off(s, 2e-6);
    }
    s.result(drive_figure(takes.value()));
    return s.done();
}

Goals complete_load_switch(Goals g, const std::set<std::string>& said, const Environment& environment) {
    const std::string load = g.text("load");
    if (!said.contains("cells") && !environment.source)
        g.values["cells"] = load == "strip" ? 1.0 : load == "motor" ? 2.0 : 3.0;
    if (!said.contains("cell") && !said.contains("cells") && !environment.source && load == "strip")
        g.values["cell"] = std::string("Lead-12V");
    suit_led(g, said, fresh_volts(g, environment));
    return g;
}

Result<Sized> size_relay_switch(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto fed = s.feed();
    if (!fed) return fed.error();
    const Feed& feed = fed.value();
    const double volts = feed.fresh.voltage;
    const bool by_button = goals.text("input") == "button", rests_on = goals.text("idle") == "on";
    const std::string contact = rests_on ? "nc" : "no";
    if (by_button) s.button("Spress", feed.net, "IN");
    if (goals.text("relay") == "module") {
        const PartKind& module = *part_kind("relay_module");
        if (auto fits = fits_supply(module, volts); !fits) return fits.error();
        s.add({"Krelay",
               "relay_module",
               {},
               {{"vcc", feed.net}, {"gnd", "GND"}, {"in", "IN"}, {"common", feed.net}, {contact, "LAMP"}},
               {}});
        s.result(drive_figure(volts / usual_number(module, "input_resistance")));
        s.carries(usual_number(module, "active_current") + lights_of(goals).total());
    } else {
        const PartType* relay = nullptr;
        for (const PartType& t : known_catalogue().types)
            if (t.kind == "relay" && load_worn * volts - saturation > t.value("pull_in") &&
                volts < 2 * t.value("pull_in"))
                relay = &t;
        if (!relay)
            return Error{Fault::design, "cells",
                         fmt::format("no relay pulls in with {}", volts_text(load_worn * volts)),
                         "about 6 V, or 14"};
        const double coil = volts / relay->value("coil_resistance");
        auto npn = npn_for(coil);
        if (!npn) return npn.error();
        auto takes = add_base(s, coil, volts, "IN", "BASE", by_button);
        if (!takes) return takes.error();
        s.rough_resistor("Rdown", "base pull-down", held_off, "BASE", "GND",
                         {"holds it off while nothing drives it"});
        s.add({"Q1", "npn", {{"type", npn.value()->id}}, {{"c", "COIL"}, {"b", "BASE"}, {"e", "GND"}}, {}});
        s.add({"Krelay",
               "relay",
               {{"type", relay->id}},
               {{"coil+", feed.net}, {"coil-", "COIL"}, {"common", feed.net}, {contact, "LAMP"}},
               {}});
        s.add({"Dcoil", "diode", {{"type", std::string("signal")}}, {{"a", "COIL"}, {"k", feed.net}}, {}});
        if (by_button)
            s.expect(
                after_press("through the coil", "part:Krelay", coil, 0.8 * coil, 1.1 * coil, Unit::ampere));
        s.result(drive_figure(takes.value()));
        s.carries(coil + lights_of(goals).total());
    }
    if (!by_button)
        s.lit_by_another();
    else if (!rests_on)
        s.lit_after({"Spress"}, load_press, load_looked_at);
    if (auto lit = s.lights(lights_of(goals), feed.fresh, "LAMP", "GND"); !lit) return lit.error();
    if (by_button && rests_on)
        s.expect(after_press("lights while pressed", "part:L1", 0, -1e-6, 1e-5, Unit::ampere));
    return s.done();
}

Goals complete_relay_switch(Goals g, const std::set<std::string>& said, const Environment& environment) {
    if (!environment.source) {
        const bool module = g.text("relay") == "module";
        if (!said.contains("cell") && !said.contains("cells") && module)
            g.values["cell"] = std::string("USB");
        if (!said.contains("cells")) g.values["cells"] = g.text("cell") == "USB" ? 1.0 : 4.0;
    }
    suit_led(g, said, fresh_volts(g, environment));
    return g;
}

}  // namespace

Recipe load_switch() {
    Recipe r = declared_recipe("load-switch").value();
    r.size = size_load_switch, r.complete = complete_load_switch;
    return r;
}

Recipe relay_switch() {
    Recipe r = declared_recipe("relay-switch").value();
    r.size = size_relay_switch, r.complete = complete_relay_switch;
    return r;
}

}  // namespace elkit
