#include "recipes/dark_wake.hpp"

#include <fmt/format.h>

#include <cmath>

#include "recipes/dark_ways.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double light_step_lasts = 0.05;                       // s, as the light is changed to find an edge
constexpr double dark_part = 0.05;                              // of the threshold: then it is dark
constexpr double saturated_volts = 0.08;                        // V of a collector that is on
constexpr double largest_divider = 4.7e6, least_divider = 220;  // Ω: damp fingers; the sensor's rating

DarkWanted wanted_of(const Goals& goals) {
    DarkWanted w;
    w.lux = goals.number("lux"), w.snaps = goals.text("edge") == "snap";
    if (w.snaps) w.ratio = goals.number("ratio");
    if (goals.text("drives") == "lights") w.lights = lights_of(goals);
    return w;
}

LightEye eye_of(const Goals& goals) {
    return light_eye(goals.text("sensor"), goals.number("ldr"), goals.text("light"));
}

/// Sensor and divider; with a trimmer the divider is a fixed part and a track that stands where it should.
Result<double> place_divider(Sketch& s, const Goals& goals, const DarkWay& way, const LightEye& eye,
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
Figure drain_figure(const Goals& goals, const Environment& environment, const DarkWay& way,
                    const LightEye& eye, double divider) {
    const double day = goals.number("day");
    const double through = way.through(eye, divider, day);
    Figure f{"recipe.drain",
             "takes by day",
             through + way.drain,
             Unit::ampere,
             {},
             {},
             {fmt::format("{} through sensor and divider at {}", amps_text(through), lux_text(day))}};
    if (!way.drain_words.empty()) f.working.push_back(way.drain_words);
    if (const auto lasts = lasts_on(goals, environment, f.value)) f.working.push_back(*lasts);
    return f;
}

Result<Sized> size_dark_wake(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto feed = s.feed();
    if (!feed) return feed.error();
    const DarkWanted wanted = wanted_of(goals);
    const bool lit = wanted.lights.has_value();
    const LightEye eye = eye_of(goals);
    auto found = dark_way(goals.text("by"), wanted, eye, feed.value().fresh.voltage);
    if (!found) return found.error();
    const DarkWay& way = found.value();
    auto divider = place_divider(s, goals, way, eye, feed.value());
    if (!divider) return divider.error();
    place_way(s, way, lit, feed.value());
    const auto dusk = [&](Expectation e) {
        e.infrared_per_lux = eye.infrared_per_lux, e.wait = light_step_lasts;
        return e;
    };
    const std::string probe = lit ? "part:L1" : "net:OUT";
    const double wakes = way.node.lux(eye, divider.value(), way.node.wake);
    const auto [low, high] = way.node.spread(eye, divider.value(), way.node.wake);
    s.expect(dusk({"wakes below", probe, wanted.lux, low, high, "wakes", Unit::lux}));
    Figure threshold{"recipe.wakes", "wakes below", wakes, Unit::lux, low, high, way.working};
    threshold.working.push_back(fmt::format("spread: sensor ±{:.0f} %, resistors ±{:.0f} %, {} on its node",
                                            100 * eye.tolerance(), 100 * usual_tolerance("resistor"),
                                            volts_text(way.node.volts_spread)));
    if (goals.text("adjust") == "trimmer")
        threshold.working.push_back("the trimmer takes that away, but for warmth and what the cells lose");
    s.result(std::move(threshold));
    if (wanted.snaps) {
        const auto [least, most] = way.node.spread(eye, divider.value(), way.node.sleep);
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
    if (!lit) return s.done();
    s.lit_in_light(dark_part * wanted.lux, eye.infrared_per_lux);
    Thevenin from = feed.value().fresh;
    if (way.second) from.voltage -= saturated_volts;
    if (auto placed = s.lights(*wanted.lights, from, feed.value().net, "LAMP"); !placed)
        return placed.error();
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
    return r;
}

}  // namespace elkit
