// A bar by a driver chip: its own reference, chain of resistors and constant-current outputs.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "recipes/bar.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr int driver_outputs = 10;
constexpr double sinks = 10;           // times what is drawn from its reference
constexpr double divider_ohms = 22e3;  // from its input to ground, about
constexpr double least_across = 0.3;   // V that an output needs for its current

/// What sets its range: V of the cells at the chain's lower and upper end.
struct Range {
    double low, high;
    double at(std::size_t output) const {
        return low + (high - low) * static_cast<double>(output) / driver_outputs;
    }
};

/// Two resistors that leave so much of what is above them.
struct Divided {
    double top = 0, bottom = 0;  ///< Ω
    double share() const { return bottom / (top + bottom); }
};

/// Errors: lights closer together than from nothing to the first.
Result<Range> range_of(const Bar& bar) {
    const Range range{bar.wanted.front() - bar.step(),
                      bar.wanted.front() + (driver_outputs - 1) * bar.step()};
    if (range.low < 0.05 * range.high)
        return Error{Fault::design, "first light", volts_text(bar.wanted.front()) + " is too near to nothing",
                     volts_text(1.1 * bar.step()) + " at least, or more lights"};
    return range;
}

/// The two values that exist, or are owned, whose share is nearest.
Divided divider(double share, const std::vector<double>& owned, Series series) {
    Divided best;
    double least = std::numeric_limits<double>::infinity();
    for (const double bottom : values_near(divider_ohms, owned, series, 24))
        for (const double top : values_near(bottom * (1 / share - 1), owned, series, 1)) {
            const Divided d{top, bottom};
            if (const double off = std::abs(d.share() - share); off < least) least = off, best = d;
        }
    return best;
}

/// From `ref` to `low`, beside the chip's own chain, and from there to ground: what flows through them is a
/// tenth of each light's current. Errors: less than the chain alone takes.
Result<Divided> lower_end(const PartType& chip, double share, double amps, const std::vector<double>& owned,
                          Series series) {
    const double all = chip.value("reference") / (amps / sinks), chain = chip.value("chain");
    const double above = all * (1 - share);
    if (above > 0.9 * chain)
        return Error{Fault::design, "current", amps_text(amps) + " is less than its chain of resistors draws",
                     amps_text(sinks * chip.value("reference") * (1 - share) / (0.85 * chain)) + " at least"};
    Divided d;
    d.top = values_near(1 / (1 / above - 1 / chain), owned, series, 1).front();
    const double beside = 1 / (1 / d.top + 1 / chain);
    d.bottom = values_near(beside * share / (1 - share), owned, series, 1).front();
    return d;
}

void add_chip(Sketch& s, const Bar& bar, const PartType& chip) {
    Part driver{"U1",
                "bar_driver",
                {{"type", chip.id}},
                {{"gnd", "GND"},
                 {"low", "LOW"},
                 {"in", "SENSE"},
                 {"high", "REF"},
                 {"ref", "REF"},
                 {"vcc", bar.feed.net},
                 {"mode", bar.dot ? "GND" : bar.feed.net}},
                {}};
    // above the last light a dot stays on it; a bar leaves those outputs open
    for (int k = 1; k <= driver_outputs; ++k) {
        const int light = std::min(k, static_cast<int>(bar.count()));
        if (k == light || bar.dot)
            driver.pins.push_back({fmt::format("out{}", k), fmt::format("OUT{}", light)});
    }
    s.add(std::move(driver));
}

/// Errors: volts that the chip does not bear, or does not run on; heat.
Result<void> bears(const Bar& bar, const PartType& chip, const std::vector<BarLight>& lights) {
    if (bar.fresh() > chip.value("highest_supply"))
        return Error{Fault::design, "cells", volts_text(bar.fresh()) + " are more than a bar driver bears",
                     volts_text(chip.value("highest_supply")) + " at most"};
    if (bar.wanted.front() < chip.value("lowest_supply"))
        return Error{Fault::design, "first light",
                     volts_text(bar.wanted.front()) + " are too little for a bar driver",
                     volts_text(chip.value("lowest_supply")) + " at least, or comparators"};
    double heat = bar.fresh() * chip.value("own_current"), most = 0;
    for (const BarLight& light : lights) {
        const double own = (bar.fresh() - light.held) * light.amps;
        heat += bar.dot ? 0 : own, most = std::max(most, own);
    }
    heat += bar.dot ? most : 0;
    if (heat > 0.8 * chip.value("max_power"))
        return Error{Fault::design, "current", fmt::format("the chip would turn {:.1f} W into heat", heat),
                     "less current, a dot in place of the bar, or fewer cells"};
    return success();
}

}  // namespace

Result<BarMade> bar_by_driver(Sketch& s, const Bar& bar) {
    const PartType& chip = *known_catalogue().type("bar_driver", "bar-driver-10");
    const double amps = bar.goals.number("current"), reference = chip.value("reference");
    auto range = range_of(bar);
    if (!range) return range.error();
    if (amps > 0.8 * chip.value("max_current"))
        return Error{Fault::design, "current", amps_text(amps) + " is much for an output",
                     amps_text(0.8 * chip.value("max_current")) + " at most"};
    const std::vector<double>& owned = s.environment().owned;
    const bool fine = owned.empty() && bar.goals.text("ladder") == "e96";
    const Series series = fine ? Series::e96 : Series::e24;
    const double wanted_share = range.value().low / range.value().high;
    const Divided sense = divider(reference / range.value().high, owned, series);
    auto low = lower_end(chip, wanted_share, amps, owned, series);
    if (!low) return low.error();
    BarMade made;
    add_chip(s, bar, chip);
    const auto fixed = [&](const char* name, const char* label, double ohms, const std::string& a,
                           const char* b, std::string why) {
        Part resistor{name, "resistor", {{"value", ohms}}, {{"a", a}, {"b", b}}, {}};
        if (fine) resistor.params["tolerance"] = 0.01;
        s.add(std::move(resistor));
        s.chose(name, label, ohms, Unit::ohm, {std::move(why)});
    };
    fixed("Rtop", "resistor above its input", sense.top, bar.feed.net, "SENSE",
          fmt::format("{} become the {} of its reference, where the tenth output comes on",
                      volts_text(range.value().high), volts_text(reference)));
    fixed("Rbottom", "resistor below its input", sense.bottom, "SENSE", "GND", "about 22 kΩ");
    fixed("Rrange", "resistor beside its chain", low.value().top, "REF", "LOW",
          fmt::format("with the chain's {} it sets the current: a tenth of {} is drawn from ref",
                      ohms_text(chip.value("chain")), amps_text(amps)));
    fixed("Rlow", "resistor below its chain", low.value().bottom, "LOW", "GND",
          fmt::format("the lower end has {:.0f} % of the reference: {} of the cells", 100 * wanted_share,
                      volts_text(range.value().low)));
    s.capacitor("Csupply", 1e-6, bar.feed.net, "GND");
    const double beside = 1 / (1 / low.value().top + 1 / chip.value("chain"));
    const double drawn = reference / (beside + low.value().bottom);
    const Range real{drawn * low.value().bottom / sense.share(), reference / sense.share()};
    const double tolerance = fine ? 0.01 : usual_tolerance("resistor");
    for (std::size_t k = 0; k < bar.count(); ++k) {
        auto light = size_bar_light(bar, k);
        if (!light) return light.error();
        if (bar.wanted[k] - light.value().held < least_across)
            return Error{
                Fault::design, "lights",
                fmt::format("a {} and the chip need {} and the cells have {} then", light.value().led->name,
                            volts_text(light.value().held + least_across), volts_text(bar.wanted[k])),
                "red lights, or more cells"};
        const std::string n = std::to_string(k + 1);
        s.add(
            {"L" + n, "led", {{"type", light.value().led->id}}, {{"a", bar.feed.net}, {"k", "OUT" + n}}, {}});
        light.value().fresh_amps = sinks * drawn;
        made.lights.push_back(std::move(light).value());
        const double volts = real.at(k + 1);
        made.comes.push_back({volts, volts * (usual_tolerance("bar_driver") + 2 * tolerance), {}});
    }
    if (auto good = bears(bar, chip, made.lights); !good) return good.error();
    made.own = chip.value("own_current") + drawn + bar.fresh() / (sense.top + sense.bottom);
    made.takes = "the chip, its reference and the divider at its input";
    return made;
}

}  // namespace elkit
