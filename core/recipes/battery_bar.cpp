#include "recipes/battery_bar.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "engine/operating_point.hpp"
#include "recipes/switching.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double bar_press = 0.5, bar_looked_at = 0.4;  // s of the button; after it was pressed
constexpr double ladder_ohms = 220e3;                   // in all
constexpr double zener_from = 4.0, zener_amps = 1e-3,
                 diode_amps = 2e-4;  // V of empty cells; A of a reference
constexpr double zener_volts = 3.3, diodes_volts = 1.2, room_warmth = 21;  // V, V, °C
constexpr double empty_left = 0.15, full_left = 0.9;  // of the charge, where the first and the last come on
constexpr double closest = 0.02;                      // of the volts, from one light to the next
constexpr double ladder_tolerance = 0.01, zener_tolerance = 0.05, diode_spread = 0.03;  // parts of a batch
constexpr double together = 0.4;   // of a step: two lights that come on so near to each other tell nothing
constexpr double before_on = 0.1;  // of its most, where a light counts as on: with tired cells it is dim

/// What holds the volts that all comparators look at.
struct Reference {
    bool zener = false;
    double ohms = 0;  ///< Ω of its resistor
    std::vector<Part> parts(const std::string& feed) const {
        std::vector<Part> all{{"Rref", "resistor", {{"value", ohms}}, {{"a", feed}, {"b", "REF"}}, {}}};
        const auto diode = [&](const char* name, const char* type, const char* a, const char* k) {
            all.push_back({name, "diode", {{"type", std::string(type)}}, {{"a", a}, {"k", k}}, {}});
        };
        if (zener)
            diode("Dref", "zener-3V3", "GND", "REF");
        else
            diode("Dref", "signal", "REF", "HALF"), diode("Dref2", "signal", "HALF", "GND");
        return all;
    }
    /// V that the engine finds at a supply and warmth. Errors as operating_point().
    Result<double> volts(double supply, double celsius) const {
        Circuit circuit;
        circuit.parts = parts("V+");
        circuit.parts.push_back({"B1", "supply", {{"voltage", supply}}, {{"+", "V+"}, {"-", "GND"}}, {}});
        Conditions conditions;
        conditions.celsius = celsius;
        auto op = operating_point(circuit, known_catalogue(), conditions);
        if (!op) return op.error();
        return op.value().voltage("REF");
    }
    double tolerance() const { return zener ? zener_tolerance : diode_spread; }
};

/// The supply at which a tap with so much of it reaches the reference, which itself rises a little with it.
/// Errors as Reference::volts().
Result<double> threshold(const Reference& reference, double share, double celsius, double guess) {
    double supply = guess;
    for (int round = 0; round < 12; ++round) {
        auto held = reference.volts(supply, celsius);
        if (!held) return held;
        supply = held.value() / share;
    }
    return supply;
}

/// Taps from the top: what is above the first, between two, and below the last [Ω].
struct Ladder {
    std::vector<double> ohms;
    double all() const {
        double sum = 0;
        for (const double r : ohms) sum += r;
        return sum;
    }
    /// What tap `k` has of the supply, 0 the lowest light's, whose tap is the highest.
    double share(std::size_t k) const {
        double below = 0;
        for (std::size_t i = k + 1; i < ohms.size(); ++i) below += ohms[i];
        return below / all();
    }
};

/// Values that exist, or that are owned, each chosen to make up for what those below it are off.
Ladder real_ladder(const std::vector<double>& shares, const std::vector<double>& owned, Series series) {
    std::vector<double> below;  // Ω under each tap, from the lowest
    for (auto it = shares.rbegin(); it != shares.rend(); ++it) below.push_back(*it * ladder_ohms);
    Ladder ladder;
    double sum = 0;
    for (const double wanted : below) {
        const double r = values_near(std::max(1.0, wanted - sum), owned, series, 1).front();
        ladder.ohms.push_back(r), sum += r;
    }
    // the top makes the lowest light right, which says when to change the cells
    ladder.ohms.push_back(
        values_near(std::max(1.0, sum * (1 / shares.front() - 1)), owned, series, 1).front());
    std::reverse(ladder.ohms.begin(), ladder.ohms.end());
    return ladder;
}

std::string colour_of(const Goals& goals, std::size_t k, std::size_t count) {
    if (goals.text("colours") == "one") return goals.text("led");
    return k == 0 ? "red-5mm" : 2 * k < count ? "amber-5mm" : "green-5mm";
}

/// A for a colour that looks as bright as the first one with its current, within what it bears.
double equal_amps(const LedType& led, const LedType& first, double amps) {
    if (!(led.intensity > 0) || !(first.intensity > 0)) return amps;
    const double wanted = amps * (first.intensity / first.test_current) / (led.intensity / led.test_current);
    return std::min(wanted, 0.8 * led.max_current);
}

/// Cells and button or switch: what the bar hangs on.
Result<Feed> feed_bar(Sketch& s, const Goals& goals, const Environment& environment) {
    if (goals.text("show") != "press") return s.feed();
    auto source = fresh_source(goals, environment);
    if (!source) return source.error();
    s.add(source_of(goals, environment));
    s.button("Spress", "V+", "ON");
    return Feed{"ON", source.value()};
}

/// What a bar is to be, with what it hangs on and is made of.
struct Bar {
    Feed feed;
    const PartType* chip = nullptr;
    std::vector<double> wanted;  ///< V at which each light should come on
    Reference reference;
    Ladder ladder;
    bool pressed = false;
    double tolerance = 0;  ///< of its ladder's resistors

    double fresh() const { return feed.fresh.voltage; }
    double step() const { return wanted[1] - wanted[0]; }
    /// V at which a light is sized: half way from empty to full, or where it comes on.
    double sized_at(std::size_t k) const { return std::max((wanted.front() + wanted.back()) / 2, wanted[k]); }
};

/// Errors: what the comparators, the reference or resistors cannot tell.
Result<Bar> bar_of(const Goals& goals, const Environment& environment, const Feed& feed) {
    Bar bar{feed, comparator_for(1.1 * feed.fresh.voltage), {}, {}, {}, goals.text("show") == "press", 0};
    const double empty = goals.number("empty"), full = goals.number("full");
    if (!bar.chip)
        return Error{Fault::design, "cells", volts_text(bar.fresh()) + " are more than a comparator bears",
                     "fewer cells in series"};
    if (!(full > empty) || full > bar.fresh())
        return Error{Fault::design, "last light", volts_text(full),
                     fmt::format("more than the first light's {}, and less than the {} of fresh cells",
                                 volts_text(empty), volts_text(bar.fresh()))};
    const auto count = static_cast<std::size_t>(goals.number("steps"));
    const double step = (full - empty) / static_cast<double>(count - 1);
    if (step < closest * empty)
        return Error{Fault::design, "lights",
                     fmt::format("{} from one to the next is less than resistors can tell", volts_text(step)),
                     "fewer lights, or farther from empty to full"};
    const double least = std::max(1.8, bar.chip->value("lowest_supply"));
    if (empty < least)
        return Error{Fault::design, "first light", volts_text(empty) + " are too little for a comparator",
                     volts_text(least) + " at least"};
    const bool zener = empty >= zener_from;
    bar.reference = {zener, nearest_preferred(zener ? (empty - zener_volts) / zener_amps
                                                    : (empty - diodes_volts) / diode_amps,
                                              Series::e12)};
    std::vector<double> shares;
    for (std::size_t k = 0; k < count; ++k) {
        bar.wanted.push_back(empty + step * static_cast<double>(k));
        auto held = bar.reference.volts(bar.wanted.back(), room_warmth);
        if (!held) return held.error();
        shares.push_back(held.value() / bar.wanted.back());
    }
    const bool fine = environment.owned.empty() && goals.text("ladder") == "e96";
    bar.ladder = real_ladder(shares, environment.owned, fine ? Series::e96 : Series::e24);
    bar.tolerance = fine ? ladder_tolerance : usual_tolerance("resistor");
    return bar;
}

/// Reference and ladder, from the feed down to ground.
void add_ladder(Sketch& s, const Bar& bar) {
    for (Part& part : bar.reference.parts(bar.feed.net)) s.add(std::move(part));
    s.chose("Rref", "resistor of the reference", bar.reference.ohms, Unit::ohm,
            {fmt::format("{} through it with empty cells",
                         amps_text(bar.reference.zener ? zener_amps : diode_amps))});
    std::string above = bar.feed.net;
    const std::size_t count = bar.wanted.size();
    for (std::size_t k = 0; k <= count; ++k) {
        const std::string below = k == count ? "GND" : fmt::format("TAP{}", k + 1);
        const std::string name = fmt::format("Rstep{}", k + 1);
        const double ohms = bar.ladder.ohms[k];
        Part resistor{name, "resistor", {{"value", ohms}}, {{"a", above}, {"b", below}}, {}};
        if (bar.tolerance != usual_tolerance("resistor")) resistor.params["tolerance"] = bar.tolerance;
        s.add(std::move(resistor));
        s.chose(name, fmt::format("resistor {} of the ladder", k + 1), ohms, Unit::ohm,
                {k < count ? fmt::format("light {} comes on at {}: its tap then has the reference's volts",
                                         k + 1, volts_text(bar.wanted[k]))
                           : fmt::format("under the last tap, of {} in all", ohms_text(bar.ladder.all()))});
        above = below;
    }
}

/// One light of the bar as it was put down.
struct BarLight {
    double amps = 0, fresh_amps = 0;  ///< where it is sized; from fresh cells
    double candelas = 0;
    std::string words;
};

/// Comparator, resistor and LED of light `k`. Errors: volts or current that they do not have.
Result<BarLight> add_bar_light(Sketch& s, const Goals& goals, const Bar& bar, std::size_t k) {
    const std::string n = std::to_string(k + 1);
    const std::size_t count = bar.wanted.size();
    const LedType *led = known_catalogue().led(colour_of(goals, k, count)),
                  *first = known_catalogue().led(colour_of(goals, 0, count));
    if (!led || !first) return Error{Fault::design, "led", "is unknown", "an LED type of the catalogue"};
    const auto law = light_junction({led->id, 1, 1, 0});
    if (!law) return law.error();
    const double amps = equal_amps(*led, *first, goals.number("current")), at = bar.sized_at(k);
    const double sink = bar.chip->value("sink_resistance"), held = law.value().voltage_at(amps);
    const double exact = (at - held) / amps - sink;
    if (!(exact * amps > 0.1))
        return Error{Fault::design, "lights",
                     fmt::format("a {} needs {} and the cells have {} then", led->name, volts_text(held),
                                 volts_text(at)),
                     "red lights, or more cells"};
    if (const double most = 0.8 * bar.chip->value("max_current"); amps > most)
        return Error{Fault::design, "current", amps_text(amps) + " is much for a comparator's output",
                     amps_text(most) + " at most"};
    s.add({"U" + n,
           "comparator",
           {{"type", bar.chip->id}},
           {{"in+", "REF"}, {"in-", "TAP" + n}, {"out", "OUT" + n}, {"vcc", bar.feed.net}, {"gnd", "GND"}},
           {}});
    auto ohms =
        s.chosen_resistor("Rlight" + n, "resistor of light " + n, exact, bar.feed.net, "LIGHT" + n,
                          {fmt::format("{} for {} at {}", amps_text(amps), led->name, volts_text(at))});
    if (!ohms) return ohms.error();
    s.add({"L" + n, "led", {{"type", led->id}}, {{"a", "LIGHT" + n}, {"k", "OUT" + n}}, {}});
    return BarLight{amps, (bar.fresh() - held) / (ohms.value() + sink),
                    amps * led->intensity / led->test_current,
                    fmt::format("light {}: {} of {}", n, amps_text(amps), led->name)};
}

/// Where light `k` comes on with these resistors, in cold and heat, as the engine is to find it; V. Errors:
/// next to the light before it, or above what fresh cells have.
Result<double> expect_threshold(Sketch& s, const Bar& bar, std::size_t k, double before) {
    const std::string n = std::to_string(k + 1);
    const auto at = [&](double celsius) {
        return threshold(bar.reference, bar.ladder.share(k), celsius, bar.wanted[k]);
    };
    const auto comes = at(room_warmth), cold = at(0), hot = at(40);
    for (const auto* each : {&comes, &cold, &hot})
        if (!*each) return each->error();
    const double volts = comes.value();
    if (volts - before < together * bar.step())
        return Error{Fault::design, "lights",
                     fmt::format("with real resistors light {} comes on at {}, next to the one before it", n,
                                 volts_text(volts)),
                     "fewer lights, or a finer ladder"};
    if (volts > 0.99 * bar.fresh())
        return Error{Fault::design, "last light",
                     fmt::format("with real resistors light {} comes on at {}, and fresh cells have {}", n,
                                 volts_text(volts), volts_text(bar.fresh())),
                     "less volts, or a finer ladder"};
    const double off = volts * (bar.reference.tolerance() + 2 * bar.tolerance);
    Expectation e{"light " + n + " comes on",
                  "part:L" + n,
                  bar.wanted[k],
                  volts - off,
                  volts + off,
                  "triggers",
                  Unit::volt};
    e.bench = {std::string(recipe_source), 1.05 * bar.fresh(), 0.2}, e.level = before_on;
    if (bar.pressed) e.presses = {"Spress"};
    s.expect(std::move(e));
    s.result({"recipe.threshold" + n,
              fmt::format("light {} in cold and heat", n),
              volts,
              Unit::volt,
              std::min(cold.value(), hot.value()),
              std::max(cold.value(), hot.value()),
              {fmt::format("{} at 0 °C, {} at 21 °C, {} at 40 °C", volts_text(cold.value()),
                           volts_text(volts), volts_text(hot.value())),
               bar.reference.zener ? "a Zener of 3.3 V holds the reference"
                                   : "two diodes hold the reference; they follow warmth"}});
    return volts;
}

Result<Sized> size_bar(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto feed = feed_bar(s, goals, environment);
    if (!feed) return feed.error();
    auto found = bar_of(goals, environment, feed.value());
    if (!found) return found.error();
    const Bar& bar = found.value();
    add_ladder(s, bar);
    s.capacitor("Csupply", 1e-7, bar.feed.net, "GND");
    std::vector<BarLight> lights;
    double before = 0, total = 0;
    for (std::size_t k = 0; k < bar.wanted.size(); ++k) {
        auto light = add_bar_light(s, goals, bar, k);
        if (!light) return light.error();
        auto comes = expect_threshold(s, bar, k, before);
        if (!comes) return comes.error();
        before = comes.value(), total += light.value().fresh_amps;
        lights.push_back(std::move(light).value());
    }
    const double own =
        static_cast<double>(lights.size()) * bar.chip->value("own_current") * bar.fresh() / 5 +
        bar.fresh() / bar.ladder.all() +  // comparators' own current is stated at 5 V
        (bar.fresh() - (bar.reference.zener ? zener_volts : diodes_volts)) / bar.reference.ohms;
    s.carries(total + own);
    Expectation takes{
        "takes with all lights", "part:" + std::string(recipe_source), total + own, 0.75 * (total + own),
        1.25 * (total + own),    bar.pressed ? "after" : "mean",       Unit::ampere};
    if (bar.pressed) takes.presses = {"Spress"}, takes.pressed = bar_press, takes.wait = bar_looked_at;
    s.expect(std::move(takes));
    s.result({"recipe.own",
              "takes beside the lights",
              own,
              Unit::ampere,
              {},
              {},
              {fmt::format("{} comparators, ladder and reference{}", lights.size(),
                           bar.pressed ? "; nothing while nobody presses" : "; all the while")}});
    const auto [dim, bright] =
        std::minmax_element(lights.begin(), lights.end(),
                            [](const BarLight& a, const BarLight& b) { return a.candelas < b.candelas; });
    Figure even{"recipe.evenness",
                "dimmest beside brightest",
                100 * dim->candelas / bright->candelas,
                Unit::percent,
                {},
                {},
                {}};
    for (const BarLight& light : lights) even.working.push_back(light.words);
    s.result(std::move(even));
    return s.done();
}

/// V of all cells with so much of their charge; nothing for a supply that does not empty.
std::optional<double> cell_volts(const Goals& goals, const Environment& environment, double charge) {
    const Part source = source_of(goals, environment);
    const auto cell = is(source, Role::cells) ? cell_of(source, known_catalogue()) : std::nullopt;
    if (!cell) return {};
    return source.number("count") * cell->open_circuit.at(charge);
}

Goals complete_bar(Goals g, const std::set<std::string>& said, const Environment& environment) {
    const auto tenth = [](double v) { return std::round(10 * v) / 10; };
    const double fresh = fresh_volts(g, environment);
    if (!said.contains("empty"))
        g.values["empty"] = tenth(cell_volts(g, environment, empty_left).value_or(0.75 * fresh));
    if (!said.contains("full"))
        g.values["full"] = tenth(cell_volts(g, environment, full_left).value_or(0.95 * fresh));
    return g;
}

}  // namespace

Recipe battery_bar() {
    Recipe r = declared_recipe("battery-bar").value();
    r.size = size_bar, r.complete = complete_bar;
    return r;
}

}  // namespace elkit
