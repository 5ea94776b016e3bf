#include "recipes/battery_bar.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "recipes/bar.hpp"
#include "recipes/wording.hpp"

namespace elkit {
namespace {

constexpr double bar_press = 0.5, bar_looked_at = 0.4;  // s of the button; after it was pressed
constexpr double empty_left = 0.15, full_left = 0.9;    // of the charge, where the first and the last come on
constexpr double closest = 0.02;                        // of the volts, from one light to the next
constexpr double together = 0.4;   // of a step: two lights that come on so near to each other tell nothing
constexpr double before_on = 0.1;  // of its most, where a light counts as on: with tired cells it is dim

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

/// Errors: a range that no lights can tell.
Result<Bar> bar_of(const Goals& goals, const Feed& feed) {
    Bar bar{goals, feed, {}, goals.text("show") == "press", goals.text("shape") == "dot"};
    const double empty = goals.number("empty"), full = goals.number("full");
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
    for (std::size_t k = 0; k < count; ++k) bar.wanted.push_back(empty + step * static_cast<double>(k));
    return bar;
}

/// Has the engine find where light `k` comes on. Errors: next to the light before it, or above what fresh
/// cells have.
Result<void> expect_light(Sketch& s, const Bar& bar, std::size_t k, const BarThreshold& comes,
                          double before) {
    const std::string n = std::to_string(k + 1);
    if (comes.volts - before < together * bar.step())
        return Error{Fault::design, "lights",
                     fmt::format("with real resistors light {} comes on at {}, next to the one before it", n,
                                 volts_text(comes.volts)),
                     "fewer lights, or a finer ladder"};
    if (comes.volts > 0.99 * bar.fresh())
        return Error{Fault::design, "last light",
                     fmt::format("with real resistors light {} comes on at {}, and fresh cells have {}", n,
                                 volts_text(comes.volts), volts_text(bar.fresh())),
                     "less volts, or a finer ladder"};
    Expectation e{"light " + n + " comes on", "part:L" + n, bar.wanted[k], comes.volts - comes.off,
                  comes.volts + comes.off,    "triggers",   Unit::volt};
    e.bench = {std::string(recipe_source), 1.05 * bar.fresh(), 0.2}, e.level = before_on;
    if (bar.pressed) e.presses = {"Spress"};
    s.expect(std::move(e));
    if (comes.warmth) s.result(*comes.warmth);
    return success();
}

Figure evenness(const std::vector<BarLight>& lights) {
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
    for (std::size_t k = 0; k < lights.size(); ++k)
        even.working.push_back(
            fmt::format("light {}: {} of {}", k + 1, amps_text(lights[k].amps), lights[k].led->name));
    return even;
}

Result<Sized> size_bar(const Goals& goals, const Environment& environment) {
    Sketch s(goals, environment);
    auto feed = feed_bar(s, goals, environment);
    if (!feed) return feed.error();
    auto found = bar_of(goals, feed.value());
    if (!found) return found.error();
    const Bar& bar = found.value();
    auto made = goals.text("by") == "driver" ? bar_by_driver(s, bar) : bar_by_comparators(s, bar);
    if (!made) return made.error();
    double before = 0, total = 0;
    for (std::size_t k = 0; k < bar.count(); ++k) {
        const BarThreshold& comes = made.value().comes[k];
        if (auto done = expect_light(s, bar, k, comes, before); !done) return done.error();
        before = comes.volts, total += made.value().lights[k].fresh_amps;
    }
    if (bar.dot) total = made.value().lights.back().fresh_amps;
    const double own = made.value().own;
    s.carries(total + own);
    Expectation takes{bar.dot ? "takes with the last light" : "takes with all lights",
                      "part:" + std::string(recipe_source),
                      total + own,
                      0.75 * (total + own),
                      1.25 * (total + own),
                      bar.pressed ? "after" : "mean",
                      Unit::ampere};
    if (bar.pressed) takes.presses = {"Spress"}, takes.pressed = bar_press, takes.wait = bar_looked_at;
    s.expect(std::move(takes));
    s.result({"recipe.own",
              "takes beside the lights",
              own,
              Unit::ampere,
              {},
              {},
              {made.value().takes + (bar.pressed ? "; nothing while nobody presses" : "; all the while")}});
    s.result(evenness(made.value().lights));
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
    if (!said.contains("colours"))  // a driver gives all lights one current: alike, they look alike
        g.values["colours"] = std::string(g.text("by") == "driver" ? "one" : "graded");
    if (!said.contains("empty"))
        g.values["empty"] = tenth(cell_volts(g, environment, empty_left).value_or(0.75 * fresh));
    if (!said.contains("full"))
        g.values["full"] = tenth(cell_volts(g, environment, full_left).value_or(0.95 * fresh));
    return g;
}

}  // namespace

Result<BarLight> size_bar_light(const Bar& bar, std::size_t k) {
    const LedType *led = known_catalogue().led(colour_of(bar.goals, k, bar.count())),
                  *first = known_catalogue().led(colour_of(bar.goals, 0, bar.count()));
    if (!led || !first) return Error{Fault::design, "led", "is unknown", "an LED type of the catalogue"};
    const auto law = light_junction({led->id, 1, 1, 0});
    if (!law) return law.error();
    const bool one_current = bar.goals.text("by") == "driver";
    const double amps =
        one_current ? bar.goals.number("current") : equal_amps(*led, *first, bar.goals.number("current"));
    const double held = law.value().voltage_at(amps), at = bar.sized_at(k);
    if (at - held < 0.1)
        return Error{Fault::design, "lights",
                     fmt::format("a {} needs {} and the cells have {} then", led->name, volts_text(held),
                                 volts_text(at)),
                     "red lights, or more cells"};
    return BarLight{led, amps, held, amps, amps * led->intensity / led->test_current};
}

Recipe battery_bar() {
    Recipe r = declared_recipe("battery-bar").value();
    r.size = size_bar, r.complete = complete_bar;
    return r;
}

}  // namespace elkit
