#include "planning/arrays_by_coil.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>

#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "light/rating.hpp"
#include "light/strings.hpp"
#include "planning/array_strings.hpp"
#include "planning/comparison.hpp"
#include "quantity/parallel.hpp"
#include "situations/propose.hpp"

namespace elkit {
namespace {

/// The states in which each way is followed.
enum CoilState : std::size_t { fresh_cells, high_bin, low_bin, half_full, nearly_flat, state_count };

/// One way in its place, and what it does.
struct Way {
    Arrangement arrangement;
    Keyed<Circuit> circuit;
    std::array<Answer<LongRun>, state_count> runs;
};

Way way(const ArrayQuestion& q, const LightsPlace& place, int per_string) {
    Arrangement a = split_into(q.count, per_string);
    const Circuit lights = strings_on_source(q, a);
    return {std::move(a), Keyed<Circuit>(with_lights(place, lights, place.circuit)), {}};
}

void follow(const Ask& ask, Way& w, CoilState state, const Conditions& lit) {
    Conditions c = lit;
    c.battery = state == half_full ? 0.5 : state == nearly_flat ? 0.1 : 1.0;
    Corner corner;
    corner.led_vf = state == high_bin ? 1 : state == low_bin ? -1 : 0;
    w.runs[state] = ask(RunQuery(w.circuit, c, corner));
}

/// The first LED of a string of so many.
const Part* first_of(const std::vector<LedString>& strings, int leds, const std::string& type) {
    for (const LedString& s : strings)
        if (static_cast<int>(s.leds.size()) == leds && s.leds.front()->text("type") == type)
            return s.leds.front();
    return nullptr;
}

void describe(const ArrayQuestion& q, Way& w) {
    Arrangement& a = w.arrangement;
    const auto strings = led_strings(*w.circuit);
    const LongRun& typical = *w.runs[fresh_cells];
    for (AlikeStringsOfArray& s : a.strings) {
        const std::string of = fmt::format("strings of {}", s.leds),
                          id = fmt::format("array.{}.{}.", a.per_string, s.leds);
        const Part* led = first_of(strings, s.leds, q.led.text("type"));
        if (!led) return;
        const auto amps = [&](CoilState state) {
            return w.runs[state] ? w.runs[state]->mean().part(led->designator).current : 0;
        };
        const auto [low, high] = std::minmax({amps(fresh_cells), amps(low_bin), amps(high_bin)});
        s.current = {id + "current",
                     "current of " + of,
                     amps(fresh_cells),
                     Unit::ampere,
                     low,
                     high,
                     {fmt::format("on average over a cycle, pulses of {}; the engine's answer, fresh",
                                  format_quantity(typical.lasting(led->designator, led->pins.front().name),
                                                  Unit::ampere)),
                      "low and high: over the LED bins"}};
        s.spread = spread_ratio(s.current);
        s.resistor = {id + "resistor",
                      "resistor of " + of,
                      0,
                      Unit::ohm,
                      {},
                      {},
                      {"none: the coil gives what it has stored, and no more"}};
        a.wiring.push_back(fmt::format("{}plus → {} LED{} → minus",
                                       s.strings > 1 ? fmt::format("{} times: ", s.strings) : "", s.leds,
                                       s.leds > 1 ? "s" : ""));
    }
}

void measure(const ArrayQuestion& q, Way& w) {
    Arrangement& a = w.arrangement;
    const std::string id = fmt::format("array.{}.", a.per_string);
    const OperatingPoint& mean = w.runs[fresh_cells]->mean();
    double watts = 0;
    for (const Part& part : w.circuit->parts)
        if (is(part, Role::diode_light)) watts += mean.part(part.designator).power();
    const auto source = source_model(q.source, known_catalogue(), {});
    const double drawn = source ? source.value().voltage * mean.supply_current() : 0;
    a.total = {id + "total", "current out of the source", mean.supply_current(), Unit::ampere, {},
               {},           {"on average over a cycle"}};
    a.efficiency = {id + "efficiency",
                    "share of the source's power that reaches the LEDs",
                    drawn > 0 ? 100 * watts / drawn : 0,
                    Unit::percent,
                    {},
                    {},
                    {fmt::format("{} in the LEDs of {} from the source", format_quantity(watts, Unit::watt),
                                 format_quantity(drawn, Unit::watt))}};
    const double whole = total_intensity(*w.circuit, known_catalogue(), mean);
    for (const auto& [state, figure, words] :
         {std::tuple(half_full, &a.half, "half"), std::tuple(nearly_flat, &a.flat, "a tenth")}) {
        const auto& run = w.runs[state];
        const double light = run ? total_intensity(*w.circuit, known_catalogue(), run->mean()) : 0;
        *figure = seen_share(id + words, fmt::format("light at {} of the charge, as the eye sees it", words),
                             whole > 0 ? light / whole : 0);
    }
}

void judge(const ArrayQuestion& q, Way& w) {
    Arrangement& a = w.arrangement;
    const auto strings = led_strings(*w.circuit);
    const Part* led = first_of(strings, a.per_string, q.led.text("type"));
    a.verdict = Arrangement::Verdict::doubtful;
    if (!led || a.strings.front().current.value < gives_light) {
        a.verdict = Arrangement::Verdict::impossible;
        a.reason = a.strings.size() > 1 ? "the longer strings stay dark beside the short one"
                                        : "the lights stay dark";
    } else if (led_overdriven(*led, *w.runs[fresh_cells])) {
        a.reason =
            fmt::format("pulses of {}, more than the LED bears",
                        format_quantity(w.runs[fresh_cells]->lasting(led->designator, led->pins.front().name),
                                        Unit::ampere));
    } else if (a.resistors() > 1) {
        a.reason = "strings side by side share the pulses by their LEDs' bins";
    } else {
        a.verdict = Arrangement::Verdict::sound;
        a.reason = fmt::format("{} on average in each, {} of the power reaches the LEDs",
                               a.strings.front().current.text(), a.efficiency.text(2));
    }
}

}  // namespace

Result<std::vector<Arrangement>> arrangements_by_coil(const Ask& ask, const ArrayQuestion& question,
                                                      const LightsPlace& place, const Conditions& lit) {
    if (question.count < 1 || question.count > most_by_coil)
        return Error{Fault::usage, "lights", fmt::format("{}", question.count),
                     fmt::format("1 to {} where a coil feeds them by pulses", most_by_coil)};
    std::vector<Way> ways;
    for (int per_string = 1; per_string <= question.count; ++per_string)
        ways.push_back(way(question, place, per_string));
    const Ask quietly = ask.quiet();
    parallel(ways.size() * state_count, [&](std::size_t k) {
        follow(quietly, ways[k / state_count], static_cast<CoilState>(k % state_count), lit);
    });
    std::vector<Arrangement> all;
    for (Way& w : ways) {
        if (const auto& run = w.runs[fresh_cells]; run) {
            describe(question, w), measure(question, w), judge(question, w);
        } else {
            w.arrangement.reason = run.error().text();
        }
        all.push_back(std::move(w.arrangement));
    }
    std::stable_sort(all.begin(), all.end(), [](const Arrangement& a, const Arrangement& b) {
        return a.verdict != b.verdict ? a.verdict < b.verdict : a.efficiency.value > b.efficiency.value;
    });
    return all;
}

}  // namespace elkit
