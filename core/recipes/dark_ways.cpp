#include "recipes/dark_ways.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "recipes/switching.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double base_series = 10e3, reference_ohms = 470e3, output_pull_up = 100e3,
                 gate_down = 1e6;                 // Ω
constexpr double forced_gain = 20, tired = 0.75;  // of the second transistor, at so much of fresh cells
constexpr double idle_drive = 20e-6;              // A of a net that only holds another block
constexpr double base_on = 0.68;                  // V of a base that is on
constexpr double largest_snap = 4.7e6;            // Ω
constexpr double base_spread = 0.03;              // V of a transistor's base, by gain and warmth

Result<DarkWay> by_mosfet(const DarkWanted& wanted, const LightEye& eye, double supply) {
    if (wanted.snaps)
        return Error{Fault::design, "edge", "one MOSFET comes on gradually", "a comparator, or gradual"};
    if (!wanted.lights)
        return Error{Fault::design, "switched by", "a MOSFET gives no net that is high in the dark",
                     "a comparator or two transistors"};
    const double total = wanted.lights->total();
    auto gate = gate_volts(switch_mosfet, total / 2);
    if (!gate) return gate.error();
    if (gate.value() > 0.8 * supply)
        return Error{Fault::design, "switched by",
                     fmt::format("its gate wants {} of {}", volts_text(gate.value()), volts_text(supply)),
                     "more cells, or two transistors"};
    DarkWay way;
    way.node = {false, supply, {gate.value(), 0}, {gate.value(), 0}, threshold_spread * gate.value()};
    way.divider = (supply - gate.value()) / eye.amps(wanted.lux, gate.value());
    way.working = {
        fmt::format("half of {} flows at {} on the gate", amps_text(total), volts_text(gate.value()))};
    return way;
}

/// V above ground of the lights' net while so little flows: what their diodes leave of the supply.
double unlit_volts(const Lights& lights, double supply, double amps) {
    const auto law = light_junction(lights);
    return law ? std::max(0.3, supply - lights.longest() * law.value().voltage_at(amps)) : supply;
}

Result<DarkWay> by_transistors(const DarkWanted& wanted, const LightEye& eye, double supply) {
    const double total = wanted.lights ? wanted.lights->total() : 0;
    auto second = npn_for(total);
    if (!second) return second.error();
    if (wanted.snaps && !wanted.lights)
        return Error{Fault::design, "edge", "what makes two transistors snap comes from their lights",
                     "a comparator, or gradually"};
    const PartType& first = *known_catalogue().type("npn", "npn-small");
    const double drive = wanted.lights ? total / forced_gain : idle_drive;
    if (tired * supply < 1.3 * base_on)
        return Error{Fault::design, "switched by", volts_text(supply) + " is little for two transistors",
                     "two cells or more"};
    DarkWay way;
    way.second = second.value();
    const double pull = way.pull = nearest_preferred((tired * supply - base_on) / drive, Series::e24);
    const double through = (supply - (wanted.lights ? base_on : supply / 2)) / pull;
    const double stolen = wanted.lights ? through - total / 2 / second.value()->value("gain") : through;
    const double base = base_volts(first, stolen), into = stolen / first.value("gain"),
                 node = base + into * base_series;
    way.node = {true, supply, {node, into}, {node, into}, base_spread + 0.5 * into * base_series};
    const double on = eye.amps(wanted.lux, supply - node);
    double conductance = (on - into) / node;
    if (wanted.snaps) {  // the resistor from the lamp's net: it lifts the node while they are off
        const double off = eye.amps(wanted.lux * wanted.ratio, supply - node);
        const double off_volts = unlit_volts(*wanted.lights, supply, off - on);
        way.snap = nearest_preferred(off_volts / (off - on), Series::e24);
        way.node.wake.extra = into - (off_volts - node) / way.snap;
        way.node.sleep.extra = into + node / way.snap;
        conductance = (on - way.node.wake.extra) / node;
    }
    if (!(conductance > 0) || on < 2 * into || way.snap > largest_snap || (wanted.snaps && !(way.snap > 0)))
        return Error{Fault::design, "sensor",
                     fmt::format("it lets {} through at {}, and the base takes {}", amps_text(on),
                                 format_quantity(wanted.lux, Unit::lux), amps_text(into)),
                     "a sensor of fewer ohms, more light, or a MOSFET"};
    way.divider = 1 / conductance;
    way.drain = supply / pull, way.into_base = true;
    way.drain_words = fmt::format("{} through {}, that the first transistor holds down all day",
                                  amps_text(supply / pull), format_quantity(pull, Unit::ohm));
    way.working = {fmt::format("base {} at {} of collector current; {} on the node of the sensor",
                               volts_text(base), amps_text(stolen), volts_text(node)),
                   fmt::format("the second transistor's base wants {}: a {}th of the lights' current at {}",
                               amps_text(drive), forced_gain, volts_text(tired * supply))};
    return way;
}

Result<DarkWay> by_comparator(const DarkWanted& wanted, const LightEye& eye, double supply) {
    const PartType* chip = comparator_for(supply);
    if (!chip)
        return Error{Fault::design, "switched by", volts_text(supply) + " is more than a comparator bears",
                     "a MOSFET or two transistors"};
    const PartType& type = *chip;
    if (!wanted.snaps) return Error{Fault::design, "edge", "a comparator is on or off", "that it snaps"};
    if (supply < type.value("lowest_supply"))
        return Error{Fault::design, "switched by",
                     fmt::format("{} is too little for the {}", volts_text(supply), type.name),
                     volts_text(type.value("lowest_supply"))};
    DarkWay way;
    way.chip = chip;
    // h = Gh/G of the reference; an LDR's ohms are ratios of the divider, a phototransistor's amperes are not
    const double h = std::pow(wanted.ratio, eye.part.kind == "ldr" ? eye.steepness() / 2 : 1) - 1;
    way.snap = nearest_preferred(std::clamp(reference_ohms / h, 1e4, 2.2e7), Series::e24);
    const bool open = type.value("source_resistance") > 1e9;  // its pull-up and the gate's resistor divide
    const double real = reference_ohms / way.snap, low = supply / (2 + real),
                 back = reference_ohms / (way.snap + (open ? output_pull_up : 0)),
                 lifted = open && wanted.lights ? gate_down / (gate_down + output_pull_up) : 1,
                 high = supply * (1 + back * lifted) / (2 + back);
    way.node = {true, supply, {low, 0}, {high, 0}, 2 * type.value("hysteresis")};
    way.divider = low / eye.amps(wanted.lux, supply - low);
    const double own = type.value("own_current") * supply / 5;  // stated at 5 V
    way.pull = open ? output_pull_up : 0;
    way.drain = own + supply / (2 * reference_ohms) + (open ? supply / output_pull_up : 0);
    way.drain_words = fmt::format(
        "{} of the comparator, {} of its reference{}", amps_text(own),
        amps_text(supply / (2 * reference_ohms)),
        open ? fmt::format(", {} through its pull-up", amps_text(supply / output_pull_up)) : std::string());
    way.working = {fmt::format("the reference stands at {} by day and at {} in the dark: on below, off above",
                               volts_text(low), volts_text(high))};
    return way;
}

}  // namespace

std::pair<double, double> DarkNode::spread(const LightEye& eye, double divider, const DarkEdge& edge) const {
    std::pair<double, double> range{1e9, 0};
    for (const double sensor : {-1.0, 1.0})
        for (const double resistor : {-1.0, 1.0})
            for (const double level : {-1.0, 1.0}) {
                DarkEdge e = edge;
                e.volts = std::max(0.05, e.volts + level * volts_spread);
                const double real = divider * (1 + resistor * usual_tolerance("resistor"));
                const double lux =
                    eye.lux_for(amps(real, e) * (1 + sensor * eye.tolerance()), std::max(0.02, across(e)));
                range.first = std::min(range.first, lux), range.second = std::max(range.second, lux);
            }
    return range;
}

double DarkWay::through(const LightEye& eye, double ohms, double lux) const {
    double amps = (node.supply - eye.volts_behind(ohms, node.supply, lux)) / ohms;
    if (!into_base) return amps;
    double low = 0, high = node.supply;  // the node rises until sensor and what it feeds agree
    for (int k = 0; k < 60; ++k) {
        const double v = (low + high) / 2;
        amps = v / ohms + std::max(0.0, v - base_on) / base_series;
        (eye.amps(lux, node.supply - v) > amps ? low : high) = v;
    }
    return amps;
}

Result<DarkWay> dark_way(const std::string& by, const DarkWanted& wanted, const LightEye& eye,
                         double supply) {
    if (by == "mosfet") return by_mosfet(wanted, eye, supply);
    return by == "transistors" ? by_transistors(wanted, eye, supply) : by_comparator(wanted, eye, supply);
}

void place_way(Sketch& s, const DarkWay& way, bool lit, const Feed& feed) {
    const auto snap = [&](const char* from, const char* to) {
        if (!(way.snap > 0)) return;
        s.resistor("Rsnap", way.snap, from, to);
        s.chose(
            "Rsnap", "hysteresis resistor", way.snap, Unit::ohm,
            {"feeds what the lights do back to the sensor's side: on stays on until it is clearly lighter"});
    };
    if (way.pull > 0) s.resistor("Rpull", way.pull, feed.net, "OUT");
    if (way.chip) {
        s.add({"U1",
               "comparator",
               {{"type", way.chip->id}},
               {{"in+", "REF"}, {"in-", "SENSE"}, {"out", "OUT"}, {"vcc", feed.net}, {"gnd", "GND"}},
               {}});
        s.capacitor("Csupply", 100e-9, feed.net, "GND");
        s.resistor("Rupper", reference_ohms, feed.net, "REF");
        s.resistor("Rlower", reference_ohms, "REF", "GND");
        snap("OUT", "REF");
        if (lit) add_gate(s, "LAMP", gate_down);
    } else if (way.second) {
        s.chose("Rpull", "base resistor of the second transistor", way.pull, Unit::ohm, way.working);
        s.resistor("Rbase", base_series, "SENSE", "BASE");
        const std::string first = "npn-small";
        s.add({"Q1", "npn", {{"type", first}}, {{"c", "OUT"}, {"b", "BASE"}, {"e", "GND"}}, {}});
        if (!lit) return;
        s.add({"Q2", "npn", {{"type", way.second->id}}, {{"c", "LAMP"}, {"b", "OUT"}, {"e", "GND"}}, {}});
        snap("LAMP", "SENSE");
    } else {
        const std::string type = switch_mosfet;
        s.add({"Q1", "nmos", {{"type", type}}, {{"d", "LAMP"}, {"g", "SENSE"}, {"s", "GND"}}, {}});
    }
}

}  // namespace elkit
