#include "engine/search.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <utility>

#include "engine/newton.hpp"
#include "engine/section.hpp"

namespace elkit {
namespace {

/// Until when, and after how many steps or events at the latest.
struct Patience {
    double until;
    int steps = 20'000;
    std::size_t events = 60;
};
Result<Window> watch_for(Stepper& s, const System& system, const Patience& patience) {
    Window w(system);
    w.note(s.time(), s.x());
    for (int k = 0; k < patience.steps && s.time() < patience.until; ++k) {
        if (auto done = s.advance(patience.until); !done) return done.error();
        w.note(s.time(), s.x());
        for (const int m : s.fired) w.events.emplace_back(s.time(), m);
        if (w.events.size() > patience.events) break;
    }
    return w;
}

bool quiet(const Window& w) {
    for (const auto& course : w.volts) {
        const auto [least, most] = std::minmax_element(course.begin(), course.end());
        if (*most - *least > 1e-4) return false;
    }
    return w.events.empty();
}

Steady resting(const Circuit& circuit, const System& system, Recorder& recorder,
               const std::vector<double>& x) {
    Steady steady;
    recorder.prepare(steady.cycle.traces);
    steady.cycle.time.push_back(0);
    recorder.record({x.data()}, steady.cycle.traces);
    steady.cycle.end = readings_at(circuit, system, {x.data()});
    steady.mean_current = steady.cycle.end.supply_current();
    return steady;
}

/// Where something quick goes on until then, most of it is left out.
Result<void> go_to(Stepper& stepper, double time) {
    constexpr long many = 20'000, few = 2'000;  // steps
    stepper.set_longest_step(time - stepper.time());
    const long before = stepper.steps;
    bool leapt = false;
    for (const double begin = stepper.time(); stepper.time() < time;) {
        if (auto done = stepper.advance(time); !done) return done;
        if (!leapt && stepper.steps - before >= many)
            leapt = stepper.leap_to(time - (stepper.time() - begin) * few / many);
    }
    return success();
}

}  // namespace

Result<std::optional<Steady>> look_for_a_cycle(Search& s) {
    s.section = {}, s.may_repeat = true;
    constexpr double shortest_window = 2e-4, longest_window = 1e7;  // s
    constexpr int most_waits = 200, most_begins = 3;
    int waits = 0, begins = 0;
    s.round = 0;
    for (double window = shortest_window; s.section.monitor < 0; window *= 4) {
        if (window > longest_window || waits > most_waits)
            return Error{Fault::design, "circuit", "it neither rests nor repeats, as far as it was followed",
                         "a definite course"};
        s.stepper.set_longest_step(window / 30);
        auto seen = watch_for(s.stepper, s.system, {s.stepper.time() + window});
        if (!seen) return seen.error();
        const auto clock = s.system.clock();
        if (clock && !s.clock_lost && clock->begins > s.stepper.time()) {
            if (auto done = go_to(s.stepper, clock->begins); !done) return done.error();
            window = shortest_window / 4, ++waits;
            continue;
        }
        if (clock && !s.clock_lost && clock->period > 0) {
            s.section.monitor = clock->monitor, s.section.by_clock = true;
            s.section.turns = clock->turns, s.section.period = clock->turns * clock->period;
            s.may_repeat = clock->repeats;
            break;
        }
        if (find_section(seen.value(), s.system, s.section)) {
            const double due = s.system.next_corner(s.stepper.time());
            s.round = s.system.round().value_or(0);
            if (s.round < 2 * s.section.period) s.round = 0;
            const double cycles = (due - s.stepper.time()) / s.section.period;  // infinite if nothing is due
            if (s.round > 0 || begins == most_begins || !(cycles > 2 && std::isfinite(cycles))) break;
            // quick beside what only begins by then, such as a controller that starts up
            if (auto done = go_to(s.stepper, due); !done) return done.error();
            s.section = {}, window = shortest_window / 4, ++begins;
            continue;
        }
        if (window <= 1e-3 || !quiet(seen.value())) continue;
        // does it really rest, or is something slow still on its way?
        auto rest = settle_at_rest(s.system, &s.stepper.x());
        if (!rest || rest.value().oscillates) continue;
        double apart = 0;
        for (int n = 1; n <= s.system.nodes(); ++n)
            apart = std::max(apart, std::abs(rest.value().x[static_cast<std::size_t>(n)] -
                                             s.stepper.x()[static_cast<std::size_t>(n)]));
        if (apart >= 0.01) continue;
        const double corner = s.system.next_corner(s.stepper.time());
        if (!std::isfinite(corner))
            return std::optional(resting(s.circuit, s.system, s.recorder, rest.value().x));
        const double wait = corner - s.stepper.time();  // for a source that starts later, or again
        if (auto done = go_to(s.stepper, corner); !done) return done.error();
        window = std::max(shortest_window, wait), ++waits;
    }
    return std::optional<Steady>();
}

Result<bool> slower_mark(Search& s) {
    if (s.system.monitors() < 2) return false;
    s.stepper.set_longest_step(s.section.period / 8);
    constexpr std::size_t often = 6, twice = 4;  // then it is known how long it takes
    const bool awaits = s.awaited >= 0;
    const int most_steps = awaits ? 4'000'000 : 300'000;
    const double until = s.stepper.time() + (awaits ? 1e6 : 1e5) * s.section.period;
    std::map<int, std::vector<double>> times;
    int slower = -1;
    for (int k = 0; k < most_steps && s.stepper.time() < until; ++k) {
        if (auto done = s.stepper.advance(until); !done) return done.error();
        for (const int m : s.stepper.fired) times[m].push_back(s.stepper.time());
        if (s.stepper.fired.empty() || times[s.section.monitor].size() < often) continue;
        double longest = 1.5 * s.section.period;
        slower = -1;
        for (const auto& [monitor, when] : times) {
            if (when.size() < 3 || monitor == s.section.monitor) continue;
            const double period = when[when.size() - 1] - when[when.size() - 3];
            if (period > longest) slower = monitor, longest = period;
        }
        if (awaits && slower >= 0 && times[s.awaited].size() >= twice) break;
        const bool all =
            std::all_of(times.begin(), times.end(), [](const auto& of) { return of.second.size() >= often; });
        if (all && (slower >= 0 || static_cast<int>(times.size()) == s.system.monitors())) break;
    }
    if (slower < 0) return false;
    const auto& when = times[slower];
    s.section.monitor = slower, s.section.period = when[when.size() - 1] - when[when.size() - 3];
    return true;
}

}  // namespace elkit
