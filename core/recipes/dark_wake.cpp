#include "recipes/dark_wake.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "recipes/light_eye.hpp"
#include "recipes/sketch.hpp"
#include "recipes/switching.hpp"

namespace elkit {
namespace {

constexpr double base_series = 10e3, reference_ohms = 470e3, output_pull_up = 100e3,
                 gate_down = 1e6;                 // Ω
constexpr double forced_gain = 20, tired = 0.75;  // of the second transistor, at so much of fresh cells
constexpr double dark_part = 0.05;                // of the threshold: then it is dark
constexpr double thermal_volts = 0.0254;          // kT/q at 21 °C
constexpr double room_celsius = 21;
constexpr double base_volts = 0.68;     // V of a base that is on
constexpr double largest_snap = 4.7e6;  // Ω
constexpr double base_spread = 0.03;    // V of a transistor's base, by gain and warmth
constexpr double largest_divider = 4.7e6, least_divider = 220;  // Ω: damp fingers; the sensor's rating

std::string volts_text(double v) { return format_quantity(v, Unit::volt); }
std::string amps_text(double a) { return format_quantity(a, Unit::ampere); }
std::string ohms_text(double r) { return format_quantity(r, Unit::ohm); }
std::string lux_text(double lux) { return format_quantity(lux, Unit::lux); }

/// The sensor's node when the lights come on and when they go off, and what else than the divider it feeds.
struct Edge {
    double volts = 0, extra = 0;  ///< V; A out of the node
};
struct Node {
    bool sensor_above = true;  ///< from plus to the node, the divider to ground; else the other way round
    double supply = 0;         ///< V
    Edge wake, sleep;
    double volts_spread = 0;  ///< V over a batch

    double across(const Edge& e) const { return sensor_above ? supply - e.volts : e.volts; }
    /// A that the sensor lets through at an edge.
    double amps(double divider, const Edge& e) const {
        return sensor_above ? e.volts / divider + e.extra : (supply - e.volts) / divider;
    }
    double lux(const LightEye& eye, double divider, const Edge& e) const {
        return eye.lux_for(amps(divider, e), across(e));
    }
};

/// What one way of switching adds to source, sensor and divider.
struct Way {
    Node node;
    double drain = 0;  ///< A by day beside the divider
    std::string drain_words;
    double divider = 0;      ///< Ω, exact
    double snap_ohms = 0;    ///< of the resistor that makes it snap; 0: none
    bool into_base = false;  ///< by day the node feeds a base through its resistor
    std::vector<std::string> working;
};

struct Wanted {
    double lux = 0, ratio = 1;  ///< where it comes on; times that where it goes off
    bool snaps = false, lit = false;
    double total = 0;  ///< A of all lights
};

Result<Way> by_mosfet(const Wanted& wanted, const LightEye& eye, double supply) {
    if (wanted.snaps)
        return Error{Fault::design, "edge", "one MOSFET comes on gradually", "a comparator, or gradual"};
    if (!wanted.lit)
        return Error{Fault::design, "switched by", "a MOSFET gives no net that is high in the dark",
                     "a comparator or two transistors"};
    auto gate = gate_volts(switch_mosfet, wanted.total / 2);
    if (!gate) return gate.error();
    if (gate.value() > 0.8 * supply)
        return Error{Fault::design, "switched by",
                     fmt::format("its gate wants {} of {}", volts_text(gate.value()), volts_text(supply)),
                     "more cells, or two transistors"};
    Way way;
    way.node = {false, supply, {gate.value(), 0}, {gate.value(), 0}, threshold_spread * gate.value()};
    way.divider = (supply - gate.value()) / eye.amps(wanted.lux, gate.value());
    way.working = {
        fmt::format("half of {} flows at {} on the gate", amps_text(wanted.total), volts_text(gate.value()))};
    return way;
}

/// V above ground of the lights' net while so little flows: what their diodes leave of the supply.
double unlit_volts(const Lights& lights, double supply, double amps) {
    const auto law =
        junction_model({"L1", "led", {{"type", lights.type}}, {}, {}}, known_catalogue(), room_celsius, 0);
    return law ? std::max(0.3,
                          supply - std::min(lights.count, lights.per_string) * law.value().voltage_at(amps))
               : supply;
}

Result<Way> by_transistors(const Wanted& wanted, const LightEye& eye, double supply, const Lights& lights) {
    auto second = npn_for(wanted.total);
    if (!second) return second.error();
    if (wanted.snaps && !wanted.lit)
        return Error{Fault::design, "edge", "what makes two transistors snap comes from their lights",
                     "a comparator, or gradually"};
    const PartType& first = *known_catalogue().type("npn", "npn-small");
    const double base2 = base_volts, drive = wanted.lit ? wanted.total / forced_gain : 20e-6;
    if (tired * supply < 1.3 * base2)
        return Error{Fault::design, "switched by", volts_text(supply) + " is little for two transistors",
                     "two cells or more"};
    Way way;
    const double pull = nearest_preferred((tired * supply - base2) / drive, Series::e24);
    const double through = (supply - (wanted.lit ? base2 : supply / 2)) / pull;
    const double stolen = wanted.lit ? through - wanted.total / 2 / second.value()->value("gain") : through;
    const double base = thermal_volts * std::log(stolen / first.value("saturation_current")),
                 into = stolen / first.value("gain"), node = base + into * base_series;
    way.node = {true, supply, {node, into}, {node, into}, base_spread + 0.5 * into * base_series};
    const double on = eye.amps(wanted.lux, supply - node);
    double conductance = (on - into) / node;
    if (wanted.snaps) {  // the resistor from the lamp's net: it lifts the node while they are off
        const double off = eye.amps(wanted.lux * wanted.ratio, supply - node);
        const double off_volts = unlit_volts(lights, supply, off - on);
        way.snap_ohms = nearest_preferred(off_volts / (off - on), Series::e24);
        way.node.wake.extra = into - (off_volts - node) / way.snap_ohms;
        way.node.sleep.extra = into + node / way.snap_ohms;
        conductance = (on - way.node.wake.extra) / node;
    }
    if (!(conductance > 0) || on < 2 * into || way.snap_ohms > largest_snap ||
        (wanted.snaps && !(way.snap_ohms > 0)))
        return Error{Fault::design, "sensor",
                     fmt::format("it lets {} through at {}, and the base takes {}", amps_text(on),
                                 lux_text(wanted.lux), amps_text(into)),
                     "a sensor of fewer ohms, more light, or a MOSFET"};
    way.divider = 1 / conductance;
    way.drain = supply / pull, way.into_base = true;
    way.drain_words = fmt::format("{} through {}, that the first transistor holds down all day",
                                  amps_text(supply / pull), ohms_text(pull));
    way.working = {fmt::format("base {} at {} of collector current; {} on the node of the sensor",
                               volts_text(base), amps_text(stolen), volts_text(node)),
                   fmt::format("the second transistor's base wants {}: a {}th of the lights' current at {}",
                               amps_text(drive), forced_gain, volts_text(tired * supply))};
    return way;
}

Result<Way> by_comparator(const Wanted& wanted, const LightEye& eye, double supply, const PartType& type) {
    if (!wanted.snaps) return Error{Fault::design, "edge", "a comparator is on or off", "that it snaps"};
    if (supply < type.value("lowest_supply"))
        return Error{Fault::design, "switched by",
                     fmt::format("{} is too little for the {}", volts_text(supply), type.name),
                     volts_text(type.value("lowest_supply"))};
    Way way;
    // h = Gh/G of the reference; an LDR's ohms are ratios of the divider, a phototransistor's amperes are not
    const double h = std::pow(wanted.ratio, eye.part.kind == "ldr" ? eye.steepness() / 2 : 1) - 1;
    way.snap_ohms = nearest_preferred(std::clamp(reference_ohms / h, 1e4, 2.2e7), Series::e24);
    const bool open = type.value("source_resistance") > 1e9;  // its pull-up and the gate's resistor divide
    const double real = reference_ohms / way.snap_ohms, low = supply / (2 + real),
                 back = reference_ohms / (way.snap_ohms + (open ? output_pull_up : 0)),
                 lifted = open && wanted.lit ? gate_down / (gate_down + output_pull_up) : 1,
                 high = supply * (1 + back * lifted) / (2 + back);
    way.node = {true, supply, {low, 0}, {high, 0}, 2 * type.value("hysteresis")};
    way.divider = low / eye.amps(wanted.lux, supply - low);
    const double own = type.value("own_current") * supply / 5;  // stated at 5 V
    way.drain = own + supply / (2 * reference_ohms) + (open ? supply / output_pull_up : 0);
    way.drain_words = fmt::format(
        "{} of the comparator, {} of its reference{}", amps_text(own),
        amps_text(supply / (2 * reference_ohms)),
        open ? fmt::format(", {} through its pull-up", amps_text(supply / output_pull_up)) : std::string());
    way.working = {fmt::format("the reference stands at {} by day and at {} in the dark: on below, off above",
                               volts_text(low), volts_text(high))};
    return way;
}

Wanted wanted_of(const Goals& goals) {
    Wanted w;
    w.lux = goals.number("lux"), w.lit = goals.text("drives") == "lights";
    w.snaps = goals.text("edge") == "snap", w.ratio = w.snaps ? goals.number("ratio") : 1;
    w.total = w.lit ? lights_of(goals).total() : 0;
    return w;
}

LightEye eye_of(const Goals& goals) {
    return light_eye(goals.text("sensor"), goals.number("ldr"), goals.text("light"));
}

void place_switch(Sketch& s, const Goals& goals, const Way& way, const Feed& feed, const PartType* chip) {
    const std::string by = goals.text("by");
    const bool lit = goals.text("drives") == "lights";
    const auto snap = [&](const char* from, const char* to) {
        if (!(way.snap_ohms > 0)) return;
        s.resistor("Rsnap", way.snap_ohms, from, to);
        s.chose(
            "Rsnap", "hysteresis resistor", way.snap_ohms, Unit::ohm,
            {"feeds what the lights do back to the sensor's side: on stays on until it is clearly lighter"});
    };
    if (by == "mosfet") {
        s.add({"Q1",
               "nmos",
               {{"type", std::string(switch_mosfet)}},
               {{"d", "LAMP"}, {"g", "SENSE"}, {"s", "GND"}},
               {}});
    } else if (by == "transistors") {
        const double total = lit ? lights_of(goals).total() : 0;
        const double drive = lit ? total / forced_gain : 20e-6;
        const double pull = nearest_preferred((tired * feed.fresh.voltage - base_volts) / drive, Series::e24);
        s.resistor("Rbase", base_series, "SENSE", "BASE");
        s.add({"Q1",
               "npn",
               {{"type", std::string("npn-small")}},
               {{"c", "OUT"}, {"b", "BASE"}, {"e", "GND"}},
               {}});
        s.resistor("Rpull", pull, feed.net, "OUT");
        s.chose("Rpull", "base resistor of the second transistor", pull, Unit::ohm, way.working);
        if (!lit) return;
        s.add({"Q2",
               "npn",
               {{"type", npn_for(total).value()->id}},
               {{"c", "LAMP"}, {"b", "OUT"}, {"e", "GND"}},
               {}});
        snap("LAMP", "SENSE");
    } else {
        s.add({"U1",
               "comparator",
               {{"type", chip->id}},
               {{"in+", "REF"}, {"in-", "SENSE"}, {"out", "OUT"}, {"vcc", feed.net}, {"gnd", "GND"}},
               {}});
        s.capacitor("Csupply", 100e-9, feed.net, "GND");
        s.resistor("Rupper", reference_ohms, feed.net, "REF");
        s.resistor("Rlower", reference_ohms, "REF", "GND");
        snap("OUT", "REF");
        if (chip->value("source_resistance") > 1e9) s.resistor("Rpull", output_pull_up, feed.net, "OUT");
        if (lit) add_gate(s, "LAMP", gate_down);
    }
}

/// Sensor and divider; with a trimmer the divider is a fixed part and a track that stands where it should.
Result<double> place_divider(Sketch& s, const Goals& goals, const Way& way, const LightEye& eye,
                             const Feed& feed) {
    const double exact = way.divider;
    if (exact < least_divider || exact > largest_divider)
        return Error{
            Fault::design, "sensor", fmt::format("its divider would be {}", ohms_text(exact)),
            fmt::format("{} to {}: a sensor of {} ohms, or another threshold", ohms_text(least_divider),
                        ohms_text(largest_divider), exact < least_divider ? "more" : "fewer")};
    const bool above = way.node.sensor_above, trimmer = goals.text("adjust") == "trimmer";
    const std::string high = above ? "SENSE" : feed.net, low = above ? "GND" : "SENSE";
    s.add(above ? eye.placed("EYE", feed.net, "SENSE") : eye.placed("EYE", "SENSE", "GND"));
    const std::vector<std::string> working{
        fmt::format("the sensor lets {} through at {}, with {} across it",
                    amps_text(eye.amps(goals.number("lux"), way.node.across(way.node.wake))),
                    lux_text(goals.number("lux")), volts_text(way.node.across(way.node.wake)))};
    if (!trimmer) return s.chosen_resistor("Rdivider", "divider resistor", exact, high, low, working);
    auto fixed =
        s.chosen_resistor("Rdivider", "least of the divider", exact / 3, "TRIM", above ? low : high, working);
    if (!fixed) return fixed.error();
    const double track = preferred_at_least(1.4 * exact, Series::e3);
    s.add({"RVset",
           "potentiometer",
           {{"value", track}, {"position", std::round(1000 * (exact - fixed.value()) / track) / 1000}},
           {{"a", "SENSE"}, {"wiper", "TRIM"}, {"b", "TRIM"}},
           {}});
    s.chose("RVset", "trimmer", track, Unit::ohm, {"set on the bench, in the light where it should wake"});
    return exact;
}

/// Lowest and highest light [lx] of an edge over a batch.
std::pair<double, double> spread(const Node& node, const LightEye& eye, double divider, const Edge& edge) {
    std::pair<double, double> range{1e9, 0};
    for (const double sensor : {-1.0, 1.0})
        for (const double resistor : {-1.0, 1.0})
            for (const double level : {-1.0, 1.0}) {
                Edge e = edge;
                e.volts = std::max(0.05, e.volts + level * node.volts_spread);
                const double real = divider * (1 + resistor * usual_tolerance("resistor"));
                const double lux = eye.lux_for(node.amps(real, e) * (1 + sensor * eye.tolerance()),
                                               std::max(0.02, node.across(e)));
                range.first = std::min(range.first, lux), range.second = std::max(range.second, lux);
            }
    return range;
}

/// How each sensor sees this much light of each kind.
std::vector<std::string> who_sees(const Goals& goals) {
    std::vector<std::string> lines;
    for (const auto& [id, name] : {std::pair("ldr", "light-dependent resistor, at 1 V"),
                                   std::pair("phototransistor-visible", "phototransistor for visible light"),
                                   std::pair("phototransistor-infrared", "infrared phototransistor")}) {
        std::vector<std::string> each;
        for (const auto& [light, words] :
             {std::pair("daylight", "daylight"), std::pair("filament", "a filament lamp"),
              std::pair("led", "LED light")})
            each.push_back(fmt::format(
                "{} in {}", amps_text(light_eye(id, goals.number("ldr"), light).amps(goals.number("lux"), 1)),
                words));
        lines.push_back(fmt::format("{}: {}, {}, {}", name, each[0], each[1], each[2]));
    }
    return lines;
}

/// A by day, and how long that alone would take to empty the cells.
Figure drain_figure(const Goals& goals, const Environment& environment, const Way& way, const LightEye& eye,
                    double divider) {
    const double day = goals.number("day"), supply = way.node.supply;
    double through = (supply - eye.volts_behind(divider, supply, day)) / divider;
    if (way.into_base) {  // the node rises until sensor and what it feeds agree
        double low = 0, high = supply;
        for (int k = 0; k < 60; ++k) {
            const double v = (low + high) / 2;
            through = v / divider + std::max(0.0, v - base_volts) / base_series;
            (eye.amps(day, supply - v) > through ? low : high) = v;
        }
    }
    Figure f{"recipe.drain",
             "takes by day",
             through + way.drain,
             Unit::ampere,
             {},
             {},
             {fmt::format("{} through sensor and divider at {}", amps_text(through), lux_text(day))}};
    if (!way.drain_words.empty()) f.working.push_back(way.drain_words);
    const auto cell = cell_of(source_of(goals, environment), known_catalogue());
    if (cell && !cell->endless())
        f.working.push_back(
            fmt::format("that alone empties the cells in {}",
                        format_quantity(cell->usable_charge(f.value, room_celsius) / f.value, Unit::hour)));
    return f;
}

Result<Sized> size_dark_wake(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto feed = s.feed();
    if (!feed) return feed.error();
    const Wanted wanted = wanted_of(goals);
    const LightEye eye = eye_of(goals);
    const double supply = feed.value().fresh.voltage;
    const PartType* chip = comparator_for(supply);
    const std::string by = goals.text("by");
    if (by == "comparator" && !chip)
        return Error{Fault::design, "switched by", volts_text(supply) + " is more than a comparator bears",
                     "a MOSFET or two transistors"};
    auto found = by == "mosfet"        ? by_mosfet(wanted, eye, supply)
                 : by == "transistors" ? by_transistors(wanted, eye, supply, lights_of(goals))
                                       : by_comparator(wanted, eye, supply, *chip);
    if (!found) return found.error();
    const Way& way = found.value();
    auto divider = place_divider(s, goals, way, eye, feed.value());
    if (!divider) return divider.error();
    place_switch(s, goals, way, feed.value(), chip);
    const auto dusk = [&](Expectation e) {
        e.infrared_per_lux = eye.infrared_per_lux;
        return e;
    };
    const std::string probe = wanted.lit ? "part:L1" : "net:OUT";
    const double wakes = way.node.lux(eye, divider.value(), way.node.wake);
    const auto [low, high] = spread(way.node, eye, divider.value(), way.node.wake);
    s.expect(dusk({"wakes below", probe, wanted.lux, low, high, "wakes", Unit::lux}));
    Figure threshold{"recipe.wakes", "wakes below", wakes, Unit::lux, low, high, way.working};
    threshold.working.push_back(fmt::format("spread: sensor ±{:.0f} %, resistors ±{:.0f} %, {} on its node",
                                            100 * eye.tolerance(), 100 * usual_tolerance("resistor"),
                                            volts_text(way.node.volts_spread)));
    if (goals.text("adjust") == "trimmer")
        threshold.working.push_back("the trimmer takes that away, but for warmth and what the cells lose");
    s.result(std::move(threshold));
    if (wanted.snaps) {
        const auto [least, most] = spread(way.node, eye, divider.value(), way.node.sleep);
        s.expect(
            dusk({"goes off above", probe, wanted.lux * wanted.ratio, least, most, "sleeps", Unit::lux}));
    }
    const double day = goals.number("day");
    Figure drain = drain_figure(goals, environment, way, eye, divider.value());
    Expectation takes{"takes by day",
                      "part:" + std::string(recipe_source),
                      drain.value,
                      0.5 * drain.value,
                      1.6 * drain.value + 1e-6,
                      "mean",
                      Unit::ampere};
    takes.lux = day;
    s.expect(dusk(std::move(takes)));
    s.result(std::move(drain));
    s.result({"recipe.sees",
              "sensor in that light",
              eye.amps(wanted.lux, 1),
              Unit::ampere,
              {},
              {},
              who_sees(goals)});
    if (!wanted.lit) return s.done();
    s.lit_in_light(dark_part * wanted.lux, eye.infrared_per_lux);
    Thevenin from = feed.value().fresh;
    if (by == "transistors") from.voltage -= 0.08;  // a saturated collector
    if (auto lit = s.lights(lights_of(goals), from, feed.value().net, "LAMP"); !lit) return lit.error();
    return s.done();
}

Goals complete_dark_wake(Goals g, const std::set<std::string>& said, const Environment& environment) {
    suit_led(g, said, fresh_volts(g, environment));
    if (said.contains("by")) {
        if (!said.contains("edge"))
            g.values["edge"] = std::string(g.text("by") == "comparator" ? "snap" : "gradual");
        return g;
    }
    const bool lit = g.text("drives") == "lights";
    g.values["by"] = std::string(g.text("edge") == "snap" || !lit ? "comparator" : "mosfet");
    if (!lit && !said.contains("edge")) g.values["edge"] = std::string("snap");
    return g;
}

std::vector<Variant> other_ways(const Goals& goals, const Environment&) {
    std::vector<Variant> all;
    for (const auto& [by, words] :
         {std::pair("mosfet", "a MOSFET"), std::pair("transistors", "two transistors"),
          std::pair("comparator", "a comparator")})
        for (const auto& [sensor, name] :
             {std::pair("ldr", "LDR"), std::pair("phototransistor-visible", "phototransistor")}) {
            Variant v{fmt::format("{}, {}", words, name), goals, false};
            v.goals.values["by"] = std::string(by), v.goals.values["sensor"] = std::string(sensor);
            v.goals.values["edge"] = std::string(by == std::string("comparator") ? "snap"
                                                 : by == std::string("mosfet")   ? "gradual"
                                                                                 : goals.text("edge"));
            all.push_back(std::move(v));
        }
    return all;
}

}  // namespace

Recipe dark_wake() {
    Recipe r = declared_recipe("dark-wake").value();
    r.size = size_dark_wake, r.complete = complete_dark_wake, r.variants = other_ways;
    r.works_at = [](const Goals&) { return true; };
    return r;
}

}  // namespace elkit
