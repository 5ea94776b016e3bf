#include "recipes/timer_parts.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "quantity/preferred.hpp"
#include "recipes/switching.hpp"

namespace elkit {
namespace {

std::string amps(double a) { return format_quantity(a, Unit::ampere); }
std::string volts(double v) { return format_quantity(v, Unit::volt); }

}  // namespace

Thevenin TimerChip::high() const {
    Thevenin t = feed;
    t.voltage -= of("high_drop"), t.resistance += of("source_resistance");
    return t;
}

Thevenin TimerChip::low() const {
    Thevenin t = feed;
    t.resistance += of("sink_resistance");
    return t;
}

std::pair<double, double> TimerChip::swing(const Goals& goals) const {
    const double load = lights_of(goals).total();
    const std::string& drives = goals.text("drives");
    return {volts() - of("high_drop") - (drives == "output" ? load * of("source_resistance") : 0),
            drives == "plus" ? load * of("sink_resistance") : 0};
}

Result<TimerChip> timer_chip(const Goals& goals, const Feed& feed) {
    const PartType* type = known_catalogue().type("timer", goals.text("chip"));
    if (!type) return Error{Fault::design, "chip", "\"" + goals.text("chip") + "\" is unknown", "a timer"};
    const double low = type->value("lowest_supply"), high = type->value("highest_supply"),
                 fresh = feed.fresh.voltage;
    if (fresh < low || fresh > high)
        return Error{
            Fault::design, "chip",
            fmt::format("{} is too {} for the {}", volts(fresh), fresh < low ? "low" : "high", type->name),
            fmt::format("{} to {}", volts(low), volts(high))};
    return TimerChip{type, feed.fresh};
}

Result<TimerSketch> begin_timer(const Goals& goals, const Environment& environment) {
    Sketch sketch(goals, environment);
    auto feed = sketch.feed();
    if (!feed) return feed.error();
    auto chip = timer_chip(goals, feed.value());
    if (!chip) return chip.error();
    return TimerSketch{std::move(sketch), feed.value(), chip.value()};
}

void add_timer(Sketch& s, const TimerChip& chip, const Feed& feed, const TimerPins& pins) {
    std::vector<Pin> joined{{"gnd", "GND"},   {"trig", pins.trig},
                            {"out", "OUT"},   {"reset", pins.reset.empty() ? feed.net : pins.reset},
                            {"cont", "CONT"}, {"thr", pins.thr}};
    if (!pins.disch.empty()) joined.push_back({"disch", pins.disch});
    joined.push_back({"vcc", feed.net});
    s.add({"U1", "timer", {{"type", chip.type->id}}, std::move(joined), {}});
    s.capacitor("Csupply", 100e-9, feed.net, "GND");
    s.capacitor("Ccontrol", 10e-9, "CONT", "GND");
}

Result<void> add_driven_lights(Sketch& s, const Goals& goals, const TimerChip& chip, const Feed& feed) {
    const std::string& drives = goals.text("drives");
    const Lights lights = lights_of(goals);
    if (drives == "nothing") return success();
    if (drives == "transistor") {
        add_gate(s, "LAMP");
        Thevenin from = feed.fresh;
        from.resistance += known_catalogue().type("nmos", switch_mosfet)->value("on_resistance");
        return s.lights(lights, from, feed.net, "LAMP");
    }
    if (lights.total() > chip.of("max_current"))
        return Error{Fault::design, "lights",
                     fmt::format("the output of the {} gives {} at most, they ask for {}", chip.type->name,
                                 amps(chip.of("max_current")), amps(lights.total())),
                     "a transistor, or less current"};
    return drives == "plus" ? s.lights(lights, chip.low(), feed.net, "OUT")
                            : s.lights(lights, chip.high(), "OUT", "GND");
}

void complete_drive(Goals& goals, const std::set<std::string>& said, double fresh) {
    const PartType* chip = known_catalogue().type("timer", goals.text("chip"));
    if (!said.contains("drives") && chip && lights_of(goals).total() > chip->value("max_current"))
        goals.values["drives"] = std::string("transistor");
    suit_led(goals, said, fresh);
}

Figure own_current(const TimerChip& chip, double timing, const std::string& timing_words) {
    const double at_rest = chip.of("own_current"), divider = chip.volts() / (3 * chip.of("divider"));
    return {"recipe.own_current",
            "timer's own",
            at_rest + divider + timing,
            Unit::ampere,
            {},
            {},
            {fmt::format("{} at rest, {} through its divider of 3 × {}", amps(at_rest), amps(divider),
                         format_quantity(chip.of("divider"), Unit::ohm)),
             fmt::format("{} {}", amps(timing), timing_words)}};
}

Result<void> check_timing(const std::string& what, double ohms, double farads) {
    if (ohms >= 0.95 * least_timing && ohms <= 1.05 * most_timing) return success();
    const bool small = ohms < least_timing;
    const double better = small ? preferred_at_most(farads * ohms / (10 * least_timing), Series::e3)
                                : preferred_at_least(farads * ohms / (most_timing / 3), Series::e3);
    return Error{Fault::design, "capacitor",
                 fmt::format("with {} {} would be {}", format_quantity(farads, Unit::farad), what,
                             format_quantity(ohms, Unit::ohm)),
                 fmt::format("{} to {}, such as with {}", format_quantity(least_timing, Unit::ohm),
                             format_quantity(most_timing, Unit::ohm), format_quantity(better, Unit::farad))};
}

double suitable_capacitor(const Environment& environment, const std::function<double(double)>& ohms) {
    constexpr double comfortable = 1e6, of_leak = 0.05;
    std::vector<double> all = environment.capacitors;
    if (all.empty())
        for (double decade_ = 1e-10; decade_ < 2e-3; decade_ *= 10)
            for (const double member : decade(Series::e3))
                all.push_back(std::stod(fmt::format("{:.3g}", member * decade_)));
    std::sort(all.begin(), all.end());
    for (const double farads : all)
        if (ohms(farads) <= std::min(comfortable, of_leak * timing_capacitor(farads).leak)) return farads;
    for (const double farads : all)  // so long that every one leaks
        if (ohms(farads) <= comfortable) return farads;
    return all.back();
}

std::vector<Variant> capacitor_variants(const Goals& g, const Environment& drawer) {
    std::vector<Variant> all;
    const bool owned = !drawer.capacitors.empty();
    const auto values = owned ? drawer.capacitors : values_near(g.number("capacitor"), {}, Series::e3, 5);
    for (const double c : values) {
        Variant v{format_quantity(c, Unit::farad), g, owned && !drawer.owned.empty()};
        v.goals.values["capacitor"] = c;
        all.push_back(std::move(v));
    }
    return all;
}

TimingCapacitor timing_capacitor(double farads) {
    const std::string kind = farads < least_electrolytic ? "capacitor" : "electrolytic";
    return {farads, leak_resistance({"C1", kind, {{"value", farads}}, {}, {}})};
}

double capacitor_tolerance(double farads) {
    return usual_tolerance(farads < least_electrolytic ? "capacitor" : "electrolytic");
}

}  // namespace elkit
