// A bar by comparators: one reference, and a ladder of resistors that divides the cells' volts.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "engine/operating_point.hpp"
#include "recipes/bar.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double ladder_ohms = 220e3;  // in all
constexpr double zener_from = 4.0, zener_amps = 1e-3,
                 diode_amps = 2e-4;  // V of empty cells; A of a reference
constexpr double zener_volts = 3.3, diodes_volts = 1.2, room_warmth = 21;               // V, V, °C
constexpr double ladder_tolerance = 0.01, zener_tolerance = 0.05, diode_spread = 0.03;  // parts of a batch

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

/// Comparators, reference and ladder of a bar.
struct Compared {
    const PartType* chip = nullptr;
    Reference reference;
    Ladder ladder;
    double tolerance = 0;  ///< of its ladder's resistors
};

/// Errors: no comparator for these volts.
Result<const PartType*> chip_for(const Bar& bar) {
    const double volts = 1.1 * bar.fresh();
    const PartType* chip =
        bar.dot ? known_catalogue().type("comparator", "comparator-cmos") : comparator_for(volts);
    if (!chip || volts > chip->value("highest_supply"))
        return Error{Fault::design, "cells",
                     volts_text(bar.fresh()) + " are more than such a comparator bears",
                     bar.dot ? "fewer cells, the bar driver chip, or a bar in place of the dot"
                             : "fewer cells in series"};
    if (const double least = std::max(1.8, chip->value("lowest_supply")); bar.wanted.front() < least)
        return Error{Fault::design, "first light",
                     volts_text(bar.wanted.front()) + " are too little for a comparator",
                     volts_text(least) + " at least"};
    return chip;
}

/// Errors: what the comparators, the reference or resistors cannot tell.
Result<Compared> compared(const Sketch& s, const Bar& bar) {
    auto chip = chip_for(bar);
    if (!chip) return chip.error();
    Compared c{chip.value(), {}, {}, 0};
    const double empty = bar.wanted.front();
    const bool zener = empty >= zener_from;
    c.reference = {zener, nearest_preferred(zener ? (empty - zener_volts) / zener_amps
                                                  : (empty - diodes_volts) / diode_amps,
                                            Series::e12)};
    std::vector<double> shares;
    for (const double wanted : bar.wanted) {
        auto held = c.reference.volts(wanted, room_warmth);
        if (!held) return held.error();
        shares.push_back(held.value() / wanted);
    }
    const std::vector<double>& owned = s.environment().owned;
    const bool fine = owned.empty() && bar.goals.text("ladder") == "e96";
    c.ladder = real_ladder(shares, owned, fine ? Series::e96 : Series::e24);
    c.tolerance = fine ? ladder_tolerance : usual_tolerance("resistor");
    return c;
}

/// Reference and ladder, from the feed down to ground.
void add_ladder(Sketch& s, const Bar& bar, const Compared& c) {
    for (Part& part : c.reference.parts(bar.feed.net)) s.add(std::move(part));
    s.chose("Rref", "resistor of the reference", c.reference.ohms, Unit::ohm,
            {fmt::format("{} through it with empty cells",
                         amps_text(c.reference.zener ? zener_amps : diode_amps))});
    std::string above = bar.feed.net;
    for (std::size_t k = 0; k <= bar.count(); ++k) {
        const std::string below = k == bar.count() ? "GND" : fmt::format("TAP{}", k + 1);
        const std::string name = fmt::format("Rstep{}", k + 1);
        const double ohms = c.ladder.ohms[k];
        Part resistor{name, "resistor", {{"value", ohms}}, {{"a", above}, {"b", below}}, {}};
        if (c.tolerance != usual_tolerance("resistor")) resistor.params["tolerance"] = c.tolerance;
        s.add(std::move(resistor));
        s.chose(
            name, fmt::format("resistor {} of the ladder", k + 1), ohms, Unit::ohm,
            {k < bar.count() ? fmt::format("light {} comes on at {}: its tap then has the reference's volts",
                                           k + 1, volts_text(bar.wanted[k]))
                             : fmt::format("under the last tap, of {} in all", ohms_text(c.ladder.all()))});
        above = below;
    }
}

/// Comparator, resistor and LED of light `k`. As a dot each hangs between its own comparator and that of the
/// next one, which takes its volts away as it goes on. Errors: volts or current that they do not have.
Result<BarLight> add_compared_light(Sketch& s, const Bar& bar, const PartType& chip, std::size_t k) {
    const std::string n = std::to_string(k + 1), next = std::to_string(k + 2);
    auto sized = size_bar_light(bar, k);
    if (!sized) return sized.error();
    BarLight light = std::move(sized).value();
    const bool from_next = bar.dot && k + 1 < bar.count();
    const double at = bar.sized_at(k),
                 chips = chip.value("sink_resistance") + (from_next ? chip.value("source_resistance") : 0);
    if (const double most = 0.8 * chip.value("max_current"); light.amps > most)
        return Error{Fault::design, "current", amps_text(light.amps) + " is much for a comparator's output",
                     amps_text(most) + " at most"};
    s.add({"U" + n,
           "comparator",
           {{"type", chip.id}},
           {{"in+", "REF"}, {"in-", "TAP" + n}, {"out", "OUT" + n}, {"vcc", bar.feed.net}, {"gnd", "GND"}},
           {}});
    const double exact = (at - light.held) / light.amps - chips;
    if (!(exact > 0))
        return Error{Fault::design, "current", amps_text(light.amps) + " do not come through the comparators",
                     "less current"};
    auto ohms = s.chosen_resistor(
        "Rlight" + n, "resistor of light " + n, exact, from_next ? "OUT" + next : bar.feed.net, "LIGHT" + n,
        {fmt::format("{} for {} at {}", amps_text(light.amps), light.led->name, volts_text(at))});
    if (!ohms) return ohms.error();
    s.add({"L" + n, "led", {{"type", light.led->id}}, {{"a", "LIGHT" + n}, {"k", "OUT" + n}}, {}});
    light.fresh_amps = (bar.fresh() - light.held) / (ohms.value() + chips);
    return light;
}

/// Where light `k` comes on with these resistors, and how that changes in cold and heat.
Result<BarThreshold> compared_threshold(const Bar& bar, const Compared& c, std::size_t k) {
    const auto at = [&](double celsius) {
        return threshold(c.reference, c.ladder.share(k), celsius, bar.wanted[k]);
    };
    const auto comes = at(room_warmth), cold = at(0), hot = at(40);
    for (const auto* each : {&comes, &cold, &hot})
        if (!*each) return each->error();
    const double volts = comes.value();
    return BarThreshold{volts, volts * (c.reference.tolerance() + 2 * c.tolerance),
                        Figure{fmt::format("recipe.threshold{}", k + 1),
                               fmt::format("light {} in cold and heat", k + 1),
                               volts,
                               Unit::volt,
                               std::min(cold.value(), hot.value()),
                               std::max(cold.value(), hot.value()),
                               {fmt::format("{} at 0 °C, {} at 21 °C, {} at 40 °C", volts_text(cold.value()),
                                            volts_text(volts), volts_text(hot.value())),
                                c.reference.zener ? "a Zener of 3.3 V holds the reference"
                                                  : "two diodes hold the reference; they follow warmth"}}};
}

}  // namespace

Result<BarMade> bar_by_comparators(Sketch& s, const Bar& bar) {
    auto found = compared(s, bar);
    if (!found) return found.error();
    const Compared& c = found.value();
    add_ladder(s, bar, c);
    s.capacitor("Csupply", 1e-7, bar.feed.net, "GND");
    BarMade made;
    for (std::size_t k = 0; k < bar.count(); ++k) {
        auto light = add_compared_light(s, bar, *c.chip, k);
        if (!light) return light.error();
        auto comes = compared_threshold(bar, c, k);
        if (!comes) return comes.error();
        made.lights.push_back(std::move(light).value()), made.comes.push_back(std::move(comes).value());
    }
    made.own = static_cast<double>(bar.count()) * c.chip->value("own_current") * bar.fresh() / 5 +
               bar.fresh() / c.ladder.all() +  // comparators' own current is stated at 5 V
               (bar.fresh() - (c.reference.zener ? zener_volts : diodes_volts)) / c.reference.ohms;
    made.takes = fmt::format("{} comparators, ladder and reference", bar.count());
    return made;
}

}  // namespace elkit
