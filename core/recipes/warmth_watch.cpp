#include "recipes/warmth_watch.hpp"

#include <fmt/format.h>

#include <cmath>

#include "recipes/controller_parts.hpp"
#include "recipes/sensor_divider.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double calm_beyond = 10, warned_beyond = 5;      // °C from the set point
constexpr double least_watched = 200, most_watched = 1e6;  // Ω: the divider's current; what a converter bears
constexpr double least_apart = 2;                          // counts between both trip points
constexpr double nearly_empty = 0.1;                       // of their charge

/// What is watched, where it turns and by what.
struct Watch {
    const PartKind* chip = nullptr;
    std::string lamp, sense;  ///< pins
    SensorDivider divider;
    double exact = 0;          ///< Ω of the fixed resistor
    bool cold = true;          ///< it warns of cold
    double on = 0, off = 0;    ///< counts
    double set = 0, ends = 0;  ///< °C

    /// A level of the sensing pin, as the table has it.
    std::string passes(const char* which, double counts) const {
        return fmt::format("{} {} {:.2f}%", which, sense, 100 * counts / divider.full());
    }
    const char* warned_when() const { return cold ? "above" : "below"; }  // colder: more ohms, more counts
    const char* calm_when() const { return cold ? "below" : "above"; }
    std::vector<Trip> trips() const {
        return {{divider.celsius_for(on), on, cold ? "warns below" : "warns above"},
                {divider.celsius_for(off), off, cold ? "ends above" : "ends below"}};
    }
};

/// Errors: those of the readings; a sensor of too few or too many ohms; a set point that the converter cannot
/// tell from where the warning ends.
Result<Watch> watch_of(const Goals& goals, const Environment& environment, double volts) {
    Watch w;
    auto fit = fitted_thermistor(goals.points("readings"));
    if (!fit) return fit.error();
    w.chip = part_kind(goals.text("controller"));
    w.lamp = pins_for_lights(*w.chip->controller).front();
    w.sense = pins_for_sensors(*w.chip->controller).front();
    w.cold = goals.text("side") == "below";
    w.set = goals.number("set"), w.ends = w.set + (w.cold ? 1 : -1) * goals.number("gap");
    w.divider = {fit.value(), 0, volts, goals.number("reference"), w.chip->controller->bits};
    const double ohms = fit.value().ohms(w.set);
    if (ohms < least_watched || ohms > most_watched)
        return Error{Fault::design, "readings",
                     fmt::format("it has {} at {}", ohms_text(ohms), celsius_text(w.set)),
                     fmt::format("{} to {}, that a converter can measure", ohms_text(least_watched),
                                 ohms_text(most_watched))};
    w.exact = best_fixed(ohms, volts, w.divider.reference);
    const auto near = values_near(w.exact, environment.owned, Series::e24, 1);
    w.divider.fixed = near.empty() ? w.exact : near.front();
    w.on = std::round(w.divider.counts(w.set)), w.off = std::round(w.divider.counts(w.ends));
    if (std::max(w.on, w.off) > w.divider.full() - 2)
        return Error{
            Fault::design, "reference",
            fmt::format("{} at the pin at {}", volts_text(w.divider.volts(w.set)), celsius_text(w.set)),
            fmt::format("less than the reference of {}", volts_text(w.divider.reference))};
    if (std::abs(w.on - w.off) < least_apart)
        return Error{Fault::design, "ends beyond",
                     fmt::format("{} counts apart, and the converter wavers by one", std::abs(w.on - w.off)),
                     fmt::format("{:.2g} °C or more", least_apart / std::abs(w.divider.per_kelvin(w.set)))};
    return w;
}

/// It sleeps between looks and between flashes.
std::string table_of(const Watch& w, const Goals& goals) {
    const double looks = goals.number("looks"), every = goals.number("every");
    const std::string effect = goals.text("effect");
    const auto seconds = [](double s) { return fmt::format("{:.0f}ms", 1000 * s); };
    std::string table = fmt::format("state waits sleeps {}; {} to warns; state warns; ", seconds(looks),
                                    w.passes(w.warned_when(), w.on));
    const std::string ends = w.passes(w.calm_when(), w.off) + " to waits";
    if (effect == "on") return table + fmt::format("{} on; {}", w.lamp, ends);
    if (effect == "breathe") return table + fmt::format("{} breathe {}; {}", w.lamp, seconds(every), ends);
    const double flash = std::max(0.01, goals.number("share") / 100 * every);
    return table + fmt::format("{} on; after {} to pause; state pause sleeps {}; {}; after {} to warns",
                               w.lamp, seconds(flash), seconds(every - flash), ends, seconds(every - flash));
}

/// Ohms, volts and counts around the set point, and the slope.
Figure slope_figure(const Watch& w) {
    Figure f{
        "recipe.slope",
        "counts for one degree",
        std::abs(w.divider.per_kelvin(w.set)),
        Unit::none,
        {},
        {},
        {w.divider.sensor.law,
         fmt::format("steepest where the fixed resistor is as large as the sensor there, {}: {} of {} for "
                     "a degree",
                     ohms_text(w.divider.sensor.ohms(w.set)),
                     format_quantity(std::abs(w.divider.per_kelvin(w.set)), Unit::none), w.divider.full())}};
    for (int k = -2; k <= 4; ++k) {
        const double t = w.set + 5 * k;
        f.working.push_back(fmt::format("{}: {}, {}, {:.0f} counts", celsius_text(t),
                                        ohms_text(w.divider.sensor.ohms(t)), volts_text(w.divider.volts(t)),
                                        w.divider.counts(t)));
    }
    f.working.push_back(
        fmt::format("its own current warms the sensor by {:.2g} °C", w.divider.warms_itself(w.set)));
    return f;
}

/// By how much the set point moves until the cells are nearly empty.
Figure sag_figure(const Watch& w, const Goals& goals, const Environment& environment) {
    Figure f{"recipe.sag", "set point moves as cells empty", 0, Unit::celsius, {}, {}, {}};
    if (!(w.divider.reference > 0)) {
        f.working = {
            "the supply is the reference too: what the pin sees is a share of it, and the share stays"};
        return f;
    }
    const Part source = source_of(goals, environment);
    const auto cell = is(source, Role::cells) ? cell_of(source, known_catalogue()) : std::nullopt;
    if (!cell || cell->endless()) {
        f.working = {"the supply stays"};
        return f;
    }
    SensorDivider later = w.divider;
    later.supply = source.number("count") * cell->open_circuit.at(nearly_empty);
    f.value = later.celsius_for(w.on) - w.divider.celsius_for(w.on);
    f.working = {
        fmt::format("{} fresh, {} nearly empty, and the reference stays at {}", volts_text(w.divider.supply),
                    volts_text(later.supply), volts_text(w.divider.reference)),
        "take the supply as the reference, and it does not move"};
    return f;
}

void expect_trips(Sketch& s, const Watch& w, const Goals& goals, const std::string& probe) {
    const double shown = goals.text("effect") == "on" ? 0 : goals.number("every");
    for (const Trip& trip : w.trips()) {
        const bool on = trip.counts == w.on;
        auto [low, high] = w.divider.spread(trip.counts);
        low -= w.divider.warms_itself(trip.celsius);
        const bool cooling = on == w.cold;
        Expectation e{
            trip.words,   probe, on ? w.set : w.ends,
            low,          high,  std::string(on ? "on " : "off ") + (cooling ? "cooling" : "warming"),
            Unit::celsius};
        e.wait = 2.2 * std::max(goals.number("looks"), shown);  // by half of it, it has looked
        s.expect(std::move(e));
        Figure f{on ? "recipe.warns" : "recipe.ends", trip.words, trip.celsius, Unit::celsius, low, high, {}};
        f.working = {
            fmt::format("{:.0f} counts of {:.0f}", trip.counts, w.divider.full()),
            fmt::format("spread {:.1f} to {:.1f} °C: sensor ±{:.0f} %, fixed resistor ±{:.0f} %, one count",
                        low, high, 100 * w.divider.sensor.tolerance(), 100 * usual_tolerance("resistor"))};
        s.result(std::move(f));
    }
}

Result<Sized> size_watch(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto fed = s.feed();
    if (!fed) return fed.error();
    const Feed& feed = fed.value();
    auto found = watch_of(goals, environment, feed.fresh.voltage);
    if (!found) return found.error();
    const Watch& w = found.value();
    if (auto added = add_controller(s, *w.chip, feed, table_of(w, goals),
                                    {{w.lamp, "OUT"}, {w.sense, "SENSE"}}, goals.number("reference"));
        !added)
        return added.error();
    auto fixed = s.chosen_resistor(
        "Rfixed", "fixed resistor", w.exact, feed.net, "SENSE",
        {fmt::format("the sensor has {} at {}", ohms_text(w.divider.sensor.ohms(w.set)), celsius_text(w.set)),
         w.exact > 1.01 * w.divider.sensor.ohms(w.set) ? "more than that, so that the reference is not passed"
                                                       : "as many for the best slope"});
    if (!fixed) return fixed.error();
    Part sensor = w.divider.sensor.part;
    sensor.designator = "THsense", sensor.pins = {{"a", "SENSE"}, {"b", "GND"}};
    s.add(std::move(sensor));
    const double beyond = w.cold ? 1 : -1;
    const bool lit = goals.text("drives") != "nothing";
    const double calm = w.set + beyond * calm_beyond;
    const double idle = asleep_current(*w.chip, feed.fresh.voltage, goals.number("looks")),
                 through = feed.fresh.voltage / (w.divider.fixed + w.divider.sensor.ohms(calm));
    Expectation takes{"takes while it waits",
                      "part:" + std::string(recipe_source),
                      idle + through,
                      0.6 * (idle + through),
                      1.6 * (idle + through) + 1e-6,
                      "mean",
                      Unit::ampere};
    takes.celsius = calm;
    s.expect(std::move(takes));
    expect_trips(s, w, goals, lit ? "part:L1" : "net:OUT");
    Figure waits{"recipe.waits",
                 "takes while it waits",
                 idle + through,
                 Unit::ampere,
                 {},
                 {},
                 {fmt::format("{} through sensor and resistor, {} by the controller", amps_text(through),
                              amps_text(idle)),
                  fmt::format("it is awake for {} of every {}", format_quantity(look_seconds, Unit::second),
                              format_quantity(goals.number("looks"), Unit::second))}};
    if (const auto lasts = lasts_on(goals, environment, idle + through)) waits.working.push_back(*lasts);
    s.result(std::move(waits));
    s.result(slope_figure(w)), s.result(sag_figure(w, goals, environment));
    if (!lit) return s.done();
    s.lit_at(w.set - beyond * warned_beyond);
    if (auto added = lights_at_pin(s, goals, *w.chip, feed); !added) return added.error();
    return s.done();
}

Goals complete_watch(Goals g, const std::set<std::string>& said, const Environment& environment) {
    suit_led(g, said, fresh_volts(g, environment));
    if (!said.contains("drives"))
        if (const PartKind* chip = part_kind(g.text("controller")))
            g.values["drives"] = drive_for(*chip, lights_of(g));
    return g;
}

/// Each controller, and with less haste.
std::vector<Variant> other_watches(const Goals& goals, const Environment&) {
    std::vector<Variant> all;
    for (const PartKind* kind : controllers_of_recipe("warmth-watch")) {
        Variant v{kind->name, goals, false};
        v.goals.values["controller"] = kind->id;
        all.push_back(std::move(v));
    }
    for (const double looks : {10.0, 60.0}) {
        Variant v{fmt::format("looks every {}", format_quantity(looks, Unit::second)), goals, false};
        v.goals.values["looks"] = looks;
        all.push_back(std::move(v));
    }
    return all;
}

Result<Drawing> picture_of(const Goals& goals, const Environment& environment) {
    const auto w = watch_of(goals, environment, fresh_volts(goals, environment));
    if (!w) return w.error();
    return draw_divider(w.value().divider, w.value().trips());
}

}  // namespace

Recipe warmth_watch() {
    Recipe r = declared_recipe("warmth-watch").value();
    r.size = size_watch, r.complete = complete_watch, r.variants = other_watches, r.picture = picture_of;
    return r;
}

}  // namespace elkit
