// What parts bear in the long run, against what they may: currents, voltages, power, supply, drain when off.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/connectivity.hpp"
#include "circuit/edit.hpp"
#include "power/standby.hpp"
#include "power/supply_range.hpp"
#include "quantity/preferred.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

/// One limit of one part: what it bears and what it may bear.
struct Load {
    std::string what;  ///< "its output", "collector current"
    double value, limit;
    Unit unit;
    bool peak = true;
};

double highest(const LongRun& run, const Part& part, const char* plus, const char* minus) {
    const auto [low, high] = run.between(part.net(plus), part.net(minus));
    return std::max(std::abs(low), std::abs(high));
}

std::vector<Load> loads_of(const Part& part, const LongRun& run) {
    const std::string& d = part.designator;
    const double power = run.mean().part(d).power();
    const auto current = [&](const char* pin) { return run.lasting(d, pin); };
    std::vector<Load> loads;
    if (part.kind == "npn" || part.kind == "pnp" || part.kind == "nmos" || part.kind == "pmos") {
        const bool bipolar = part.kind == "npn" || part.kind == "pnp";
        const char *in = bipolar ? "c" : "d", *to = bipolar ? "e" : "s";
        loads = {{bipolar ? "collector current" : "drain current", current(in), part.number("max_current"),
                  Unit::ampere},
                 {bipolar ? "collector voltage" : "drain voltage", highest(run, part, in, to),
                  part.number("max_voltage"), Unit::volt},
                 {"power", power, part.number("max_power"), Unit::watt, false}};
    } else if (part.kind == "diode") {
        loads = {{"current", run.rms(d, "a"), part.number("max_current"), Unit::ampere, false}};
    } else if (part.kind == "capacitor" || part.kind == "electrolytic") {
        const bool polar = part.kind == "electrolytic";
        loads = {{"voltage", highest(run, part, polar ? "+" : "a", polar ? "-" : "b"), part.number("rating"),
                  Unit::volt}};
    } else if (part.kind == "potentiometer" || part.kind == "ldr") {
        loads = {{"power", power, part.number("rating"), Unit::watt, false}};
    } else if (part.kind == "inductor") {
        loads = {{"current", current("a"), part.number("saturation"), Unit::ampere}};
    } else if (part.kind == "fuse") {
        loads = {{"current", run.rms(d, "a"), part.number("hold"), Unit::ampere, false}};
    } else if (part.kind == "relay") {
        loads = {{"contact current", current("common"), part.number("max_current"), Unit::ampere}};
    } else if (is_contact(part) && part.kind != "switch") {
        const char* pin = part.kind == "changeover" ? "common" : part.kind == "double_switch" ? "a1" : "a";
        loads = {{"contact current", run.rms(d, pin), part.number("rating"), Unit::ampere, false}};
    } else if (part.kind == "connector") {
        for (const Pin& pin : part.pins)
            loads.push_back({"current of pin " + pin.name, run.rms(d, pin.name), part.number("rating"),
                             Unit::ampere, false});
    }
    return loads;
}

void part_rating(const Evidence& e, std::vector<Finding>& out) {
    const LongRun* run = fresh_run(e);
    if (!run) return;
    for (const Part& part : e.design.circuit.parts)
        for (const Load& load : loads_of(part, *run)) {
            if (!(load.limit > 0) || load.value <= load.limit) continue;
            const bool saturates = part.kind == "inductor";
            add_finding(
                out, saturates || part.kind == "fuse" ? Severity::warning : Severity::error, "circuit",
                "part:" + part.designator,
                fmt::format("{}: {} {}{}, it may have {}", part.designator, load.what,
                            load.peak && run->moves() ? "peaks at " : "",
                            format_quantity(load.value, load.unit), format_quantity(load.limit, load.unit)),
                saturates ? "Above it the core is full: the inductance falls and the current runs away."
                          : (part.kind == "fuse" ? "It will open sooner or later: take the next larger one, "
                                                   "still below what the leads can carry."
                                                 : "From fresh cells, everything switched on. Take a larger "
                                                   "part, or ask less of it."));
        }
}

constexpr double pulse_share = 10.0 / 3;  // typical datasheets: 100 mA for a tenth of the time at 30 mA

double led_limit(const Part& led) {
    const double own = led.number("max_current");
    const LedType* type = built_in_catalogue().led(led.text("type"));
    return own > 0 || !type ? own : type->max_current;
}

bool led_overdriven(const Part& led, const LongRun& run) {
    const double limit = led_limit(led);
    return run.mean().part(led.designator).current > limit ||
           run.lasting(led.designator, "a") > pulse_share * limit;
}

/// Raises the resistor in a row with the LED by E24 steps until its currents fit; nothing if there is none.
std::optional<Remedy> raise_resistor(const Design& design, const std::string& led, const Conditions& on) {
    const Part* resistor = nullptr;
    for (const Chain& chain : chains(design.circuit)) {
        const auto holds = [&](const Part* p) { return p->designator == led; };
        if (std::none_of(chain.parts.begin(), chain.parts.end(), holds)) continue;
        for (const Part* p : chain.parts)
            if (p->kind == "resistor") resistor = p;
    }
    if (!resistor) return std::nullopt;
    const std::string name = resistor->designator;
    return Remedy{"Raise " + name + " until it fits", [=](const Design& from) -> Result<Design> {
                      Design next = from;
                      for (int step = 0; step < 72; ++step) {
                          Part* r = next.circuit.find(name);
                          const Part* l = next.circuit.find(led);
                          if (!r || !l) break;
                          r->params["value"] = preferred_at_least(r->number("value") * 1.01, Series::e24);
                          const auto run = long_run(next.circuit, built_in_catalogue(), on);
                          if (run && !led_overdriven(*l, run.value())) return next;
                      }
                      return Error{Fault::design, "part " + name, "no value of it is enough",
                                   "another way to limit the current"};
                  }};
}

void pulsed_led(const Evidence& e, std::vector<Finding>& out) {
    const LongRun* run = fresh_run(e);
    if (!run || !run->moves()) return;  // a steady one is judged in its worst corner by led-current
    Conditions on = lit(e.design.circuit, e.conditions);
    on.battery = 1;
    for (const Part& part : e.design.circuit.parts) {
        if (part.kind != "led" || !led_overdriven(part, *run)) continue;
        const double limit = led_limit(part), mean = run->mean().part(part.designator).current;
        auto& f = add_finding(
            out, Severity::error, "light", "part:" + part.designator,
            mean > limit ? fmt::format("{} gets {} on average, it may have {}", part.designator, amps(mean),
                                       amps(limit))
                         : fmt::format("{} peaks at {}, pulses may reach {}", part.designator,
                                       amps(run->lasting(part.designator, "a")), amps(pulse_share * limit)),
            "Above its rating an LED ages fast and may die at once.");
        if (auto remedy = raise_resistor(e.design, part.designator, on))
            f.remedies.push_back(std::move(*remedy));
    }
}

void pin_current(const Evidence& e, std::vector<Finding>& out) {
    const LongRun* run = fresh_run(e);
    if (!run) return;
    for (const Part& part : e.design.circuit.parts) {
        if (part.kind != "timer" && part.kind != "comparator" && part.kind != "regulator") continue;
        const double peak = run->lasting(part.designator, "out"), limit = part.number("max_current");
        if (!(limit > 0) || peak <= limit) continue;
        add_finding(
            out, Severity::error, "circuit", "part:" + part.designator,
            fmt::format("{} pin out carries {}, it is good for {}", part.designator, amps(peak), amps(limit)),
            "Above it the output sags and the chip heats up: raise the load's resistor, or let the "
            "pin drive a transistor.");
    }
}

Remedy flip(const std::string& designator) {
    return {"Turn " + designator + " round", [designator](const Design& design) -> Result<Design> {
                auto circuit = flip_part(design.circuit, designator);
                if (!circuit) return circuit.error();
                Design next = design;
                next.circuit = std::move(circuit).value();
                return next;
            }};
}

void electrolytic_reversed(const Evidence& e, std::vector<Finding>& out) {
    constexpr double allowed = 0.3;  // V, what a film of oxide stands without harm
    const LongRun* run = fresh_run(e);
    if (!run) return;
    for (const Part& part : e.design.circuit.parts) {
        if (part.kind != "electrolytic") continue;
        const auto [low, high] = run->between(part.net("+"), part.net("-"));
        if (low >= -allowed) continue;
        auto& f =
            add_finding(out, Severity::error, "circuit", "part:" + part.designator,
                        fmt::format("{} stands {} the wrong way round", part.designator, volts(-low)),
                        "An electrolytic capacitor leaks and may burst: wear glasses when you test it.");
        if (high < -low) f.remedies.push_back(flip(part.designator));
    }
}

void led_reverse_voltage(const Evidence& e, std::vector<Finding>& out) {
    const LongRun* run = fresh_run(e);
    if (!run) return;
    for (const Part& part : e.design.circuit.parts) {
        const LedType* type = part.kind == "led" ? built_in_catalogue().led(part.text("type")) : nullptr;
        if (!type) continue;
        const double back = -run->between(part.net("a"), part.net("k")).first;
        if (back <= type->reverse_voltage) continue;
        auto& f = add_finding(out, Severity::error, "light", "part:" + part.designator,
                              fmt::format("{} gets {} backwards, it stands {}", part.designator, volts(back),
                                          volts(type->reverse_voltage)),
                              "It breaks down and fades for good. A small diode across it, the other way "
                              "round, keeps the voltage off.");
        f.remedies.push_back({"Add a diode across " + part.designator,
                              [d = part.designator](const Design& design) -> Result<Design> {
                                  Design next = design;
                                  const Part* led = next.circuit.find(d);
                                  if (!led) return Error{Fault::design, "part " + d, "it is gone", "an LED"};
                                  Part diode;
                                  diode.kind = "diode", diode.designator = next.circuit.free_designator("D");
                                  diode.pins = {{"a", led->net("k")}, {"k", led->net("a")}};
                                  next.circuit.parts.push_back(std::move(diode));
                                  return next;
                              }});
    }
}

void chip_supply(const Evidence& e, std::vector<Finding>& out) {
    const LongRun* run = fresh_run(e);
    if (!run) return;
    for (const SupplyRange& range : supply_ranges(e.design.circuit)) {
        const std::string& d = range.designator;
        const double fresh = run->between(range.plus, range.minus).second;
        if (fresh > range.high && range.high > 0) {
            add_finding(out, Severity::error, "circuit", "part:" + d,
                        fmt::format("{} gets {}, it stands {}", d, volts(fresh), volts(range.high)),
                        "From fresh cells. Above its highest supply a part is destroyed.");
            continue;
        }
        if (!e.deep->flat_run || !e.deep->power) continue;
        const double last =
            e.deep->flat_run->mean().voltage(range.plus) - e.deep->flat_run->mean().voltage(range.minus);
        const double least = std::min(fresh, last);
        if (least >= 0.999 * range.low && e.deep->power->typical.ended_part != d) continue;
        const double left = e.deep->power->typical.charge_left;
        auto& f = add_finding(
            out, range.stops && fresh < range.low ? Severity::error : Severity::warning, "power", "part:" + d,
            fresh < range.low ? fmt::format("{} wants {} at least and gets {} from fresh cells", d,
                                            volts(range.low), volts(fresh))
                              : fmt::format("{} wants {} at least; the cells fall below it {:.0f} % full", d,
                                            volts(range.low), 100 * left),
            range.stops ? "Below its lowest supply it stops or misbehaves, and the rest of the cells is lost."
                        : "Below it, it works weakly or not at all.");
        const Part* part = e.design.circuit.find(d);
        if (part->kind == "timer" && part->text("type") == "timer-bipolar")
            f.remedies.push_back({"Use the CMOS timer", [d](const Design& design) -> Result<Design> {
                                      Design next = design;
                                      if (Part* p = next.circuit.find(d))
                                          p->params["type"] = std::string("timer-cmos");
                                      return next;
                                  }});
        const Part* source = e.design.circuit.source();
        if (source->kind == "battery")
            f.remedies.push_back(
                {"One cell more", [s = source->designator](const Design& design) -> Result<Design> {
                     Design next = design;
                     if (Part* p = next.circuit.find(s)) p->params["count"] = p->number("count") + 1;
                     return next;
                 }});
    }
}

void standby_drain(const Evidence& e, std::vector<Finding>& out) {
    if (!e.deep || !e.deep->power || !can_be_off(e.design.circuit)) return;
    const Figure &drain = e.deep->power->standby_current, &life = e.deep->power->standby;
    if (drain.value < 1e-7 || !(life.value < 5)) return;  // years
    std::string through;
    for (const auto& [part, current] : e.deep->power->drains)
        through += fmt::format("{}{}: {}", through.empty() ? "" : ", ", part, amps(current));
    add_finding(out, life.value < 1 ? Severity::warning : Severity::note, "power", "field:standby",
                fmt::format("With everything off it still takes {}", drain.text()),
                fmt::format("{}: the cells last {} on the shelf of the user. {}", off_text(e.design.circuit),
                            life.text(), through.empty() ? "" : "It goes through " + through + "."));
}

}  // namespace

const LongRun* fresh_run(const Evidence& e) {
    return e.deep && e.deep->fresh_run ? &*e.deep->fresh_run : nullptr;
}

std::vector<Rule> stress_rules() {
    return {
        {"electrolytic-reversed", "an electrolytic capacitor the wrong way round", "it leaks and may burst",
         "lowest voltage across it over a cycle, fresh cells", electrolytic_reversed},
        {"part-rating", "a part over its current, voltage or power", "it overheats, saturates or breaks down",
         "steady state or its peaks over a cycle, fresh cells, everything on", part_rating},
        {"pin-current", "a chip's output over its current", "it sags and heats up",
         "peak over a cycle, fresh cells", pin_current},
        {"pulsed-led", "an LED over its average or pulse current", "it ages fast or dies at once",
         "mean and peak over a cycle, fresh cells", pulsed_led},
        {"led-reverse", "an LED with more than its reverse voltage", "it breaks down and fades",
         "lowest voltage across it over a cycle", led_reverse_voltage},
        {"chip-supply", "a part outside its supply range over the cells' life",
         "too much destroys it, too little stops it", "averages fresh and at the end of the discharge",
         chip_supply},
        {"standby-drain", "current with everything off", "the gadget empties its cells on the shelf",
         "steady state with switches open, or in daylight", standby_drain},
    };
}

}  // namespace elkit
