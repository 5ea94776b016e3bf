#include "engine/steady.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <utility>

#include "circuit/connectivity.hpp"
#include "engine/cycles.hpp"
#include "engine/history.hpp"
#include "engine/measure.hpp"
#include "engine/models.hpp"
#include "engine/newton.hpp"
#include "engine/probe.hpp"
#include "engine/section.hpp"
#include "engine/stepper.hpp"

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

}  // namespace

Figure Steady::period_figure() const {
    return {"steady.period",
            "period",
            period,
            Unit::second,
            {},
            {},
            {repeats ? fmt::format("one cycle, from \"{}\" to the next time", section)
                     : "it does not repeat: the time over which it was averaged",
             repeats ? fmt::format("found in {} cycles; the last closes to {:.1e}", cycles_run + 1, closure)
                     : fmt::format("the mean current is known to {:.1f} %", 100 * uncertainty)}};
}

Figure Steady::current_figure() const {
    Figure f{"steady.current", "current from the source on average", mean_current, Unit::ampere, {}, {}, {}};
    f.working = {
        "I = Q / T, charge and time of one cycle",
        fmt::format("  = {:.4g} C / {} = {}", charge, format_quantity(period, Unit::second, 4), f.text())};
    return f;
}

namespace {

struct Search {
    const Circuit& circuit;
    System& system;
    Recorder& recorder;
    Stepper& stepper;
    Section section;
    bool may_repeat = true;   ///< false: at random, on purpose
    bool clock_lost = false;  ///< a clock was followed, and stopped before its cycle was over
    /// s in which something that is slower shows all that it does; 0: nothing takes longer than the cycle
    double round = 0;
};

Result<void> go_to(Stepper& stepper, double time) {
    stepper.set_longest_step(time - stepper.time());
    while (stepper.time() < time)
        if (auto done = stepper.advance(time); !done) return done;
    return success();
}

/// Runs on until something repeats, which sets the section, or rests, which is then the answer.
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
            s.section.monitor = clock->monitor, s.section.period = clock->period, s.section.by_clock = true;
            s.may_repeat = clock->repeats;
            break;
        }
        if (find_section(seen.value(), s.system, s.section)) {
            const double due = s.system.next_corner(s.stepper.time());
            s.round = s.system.round().value_or(0);
            if (s.round < 2 * s.section.period) s.round = 0;
            if (s.round > 0 || begins == most_begins || !std::isfinite(due) ||
                due < s.stepper.time() + 2 * s.section.period)
                break;
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

/// The cycle that begins now is recorded.
void begin_record(Search& s, Cycles& cycles, Steady& steady) {
    steady.mark = s.section, steady.charges = s.stepper.charges();
    cycles.start_recording(steady.cycle);
}

/// It is over: what follows from it.
void end_record(Search& s, Steady& steady) {
    steady.moves = steady.repeats = true;
    const double start = steady.cycle.time.front();
    steady.period = s.stepper.time() - start;
    steady.mark.period = steady.period;
    steady.section = s.section.monitor < s.system.monitors()
                         ? s.circuit.parts[s.system.monitor_part(s.section.monitor)].designator + " switches"
                         : s.system.name(s.section.unknown) + " rising";
    if (s.section.turns > 1) steady.section += fmt::format(" {} times", s.section.turns);
    const Trace& current = *steady.cycle.trace("part:" + s.circuit.source()->designator);
    steady.charge = -integral(steady.cycle.time, current.values, start, s.stepper.time());
    steady.mean_current = steady.charge / steady.period;
    for (double& t : steady.cycle.time) t -= start;
    for (auto& h : steady.cycle.happenings) h.time -= start;
    steady.cycle.end = readings_at(s.circuit, s.system, s.stepper.moment());
    steady.cycle.steps = s.stepper.steps, steady.cycle.evaluations = s.stepper.evaluations;
}

/// Records one cycle and what follows from it.
Result<bool> record_the_cycle(Search& s, Cycles& cycles, Steady& steady) {
    begin_record(s, cycles, steady);
    auto last = cycles.to_next();
    cycles.stop_recording();
    if (!last || !last.value()) return last;
    end_record(s, steady);
    return true;
}

constexpr double far_apart = 0.05;  // of a cycle's charges: more than what its steps leave open

/// Repeats cycles until one closes, extrapolating on the way. It counts as closed when the drift of a cycle
/// and the way still to go by the extrapolation are both small twice in a row; after many cycles the drift
/// alone decides. What began `beside` a cycle that was found before is not waited for as long.
/// `repeats` says whether it did; false if the cycle was lost, or if every second one is alike: the mark then
/// says so.
Result<bool> close_the_cycle(Search& s, Cycles& cycles, double good_enough, bool beside, Steady& steady) {
    // the first crossing, and one to be past what the search disturbed; what a clock does mostly closes at
    // once
    bool at_once = false;
    for (int k = 0; k < 2 && !at_once; ++k) {
        auto next = cycles.to_next();
        if (!next || !next.value()) return next;
        at_once = s.system.clock().has_value() && s.may_repeat;
    }
    if (!s.may_repeat) return true;
    constexpr double still_moves =
        0.01;  // of the source's charge: kept by a net where it does not repeat yet
    const int many = beside ? 5 : 40, let_be = beside ? 12 : 20, enough = (beside ? 5 : 2) * (many + let_be);
    std::vector<double> let_be_from;
    Range flows, spans;
    Eigen::VectorXd q = vector_of(s.stepper.charges()), plain = q, to_and_fro = 0 * q;
    Anderson extrapolation(6);
    std::vector<double> scale;
    bool leapt = false;
    int near = 0, alike = 0, lost_leaps = 0, pairs = 0;
    std::vector<double> before_last;  // the charges a cycle before q, unless there was a leap between
    // Steps that depend on the state alone make cycles comparable to rounding, so that a slow drift shows.
    const double pace = s.section.period * 1e-4;
    s.stepper.forget_pace(pace);
    constexpr long most_steps = 400'000;  // where a cycle takes very many
    constexpr int most_turns = 8;
    const long before = s.stepper.steps;
    for (; steady.cycles_run < enough; ++steady.cycles_run) {
        if (steady.cycles_run > 8 && s.stepper.steps - before > most_steps) break;
        const bool recorded = at_once && steady.cycles_run == 0;
        if (recorded) begin_record(s, cycles, steady);
        auto next = cycles.to_next();
        if (recorded) cycles.stop_recording();
        if (!next || !next.value()) {
            // an extrapolation that led nowhere: back to where it began, and no more of them for a while
            if (!leapt || ++lost_leaps > 4 || !s.stepper.start_from_charges(list_of(plain))) return next;
            extrapolation = Anderson(6);
            leapt = false;
            before_last.clear();
            q = vector_of(s.stepper.charges());
            s.stepper.forget_pace(pace);
            continue;
        }
        const Eigen::VectorXd after = vector_of(s.stepper.charges());
        steady.closure = closure(list_of(q), s.stepper.charges(), scale);
        const bool in_pairs = !before_last.empty() && !leapt && steady.closure > far_apart &&
                              closure(before_last, s.stepper.charges(), scale) < 0.05 * steady.closure;
        pairs = in_pairs ? pairs + 1 : 0;
        if (pairs > 1 && s.section.turns < most_turns) {
            s.section.turns *= 2, s.section.period *= 2;
            return false;
        }
        before_last = list_of(q);
        const Eigen::VectorXd extrapolated = extrapolation.next(q, after, scale);
        const double to_go = closure(list_of(after), list_of(extrapolated), scale);
        const bool balanced = cycles.kept(q, after) < still_moves;
        near = balanced && steady.closure < 0.1 * good_enough && to_go < 0.1 * good_enough &&
                       steady.cycles_run >= 4
                   ? near + 1
                   : 0;
        // once may be chance: two clocks meet now and then
        alike = balanced && steady.closure < 0.1 * good_enough ? alike + 1 : 0;
        steady.repeats = steady.closure < 1e-7 || near > 1 || (steady.cycles_run >= many && alike > 2);
        // What the steps leave open makes small charges differ to and fro. In a while without leaps all
        // cycles of what repeats take as long and as much.
        const int phase = steady.cycles_run % (many + let_be);
        if (phase == many) {
            let_be_from = s.stepper.charges();
            flows.restart(), spans.restart(), to_and_fro.setZero(after.size());
        } else if (phase > many) {
            flows.note(cycles.flow()), spans.note(cycles.span());
            to_and_fro += (after - q).cwiseAbs();
        }
        if (phase == many + let_be - 1 && !let_be_from.empty() && flows.differ() < still_moves &&
            spans.differ() < still_moves && !cycles.others() &&
            !drifts(let_be_from, after, to_and_fro, scale, good_enough) &&
            cycles.kept(vector_of(let_be_from), after, let_be - 1) < still_moves)
            steady.repeats = true;
        if (recorded && steady.repeats) end_record(s, steady);
        if (steady.repeats) break;
        q = plain = after;
        s.stepper.forget_pace(pace);
        leapt = false;
        if (steady.cycles_run % 3 != 2 || phase >= many)
            continue;  // two plain cycles between two extrapolations damp what is fast
        if (!s.stepper.start_from_charges(list_of(extrapolated)) &&
            !s.stepper.start_from_charges(list_of(plain)))
            return false;
        leapt = true;
        q = vector_of(s.stepper.charges());
    }
    s.stepper.forget_pace(pace);
    if (!steady.repeats && leapt && !s.stepper.start_from_charges(list_of(plain))) return false;
    return true;
}

/// Where cycles do not come out alike: many of them in batches, until the mean current of the batches is
/// known to a hundredth or the time is long enough for everything that was seen to have happened many times.
Result<bool> average_over_many(Search& s, Cycles& cycles, Steady& steady) {
    constexpr int batches = 8, most_rounds = 6;
    constexpr long most_steps = 200'000;
    const long steps = s.stepper.steps;
    if (auto next = cycles.to_next(); !next || !next.value()) return next;
    const long in_a_cycle = std::max(1L, s.stepper.steps - steps);
    const double start = s.stepper.time();
    steady.moves = true, steady.repeats = false;
    steady.section = "no mark: it does not repeat";
    begin_record(s, cycles, steady);
    std::vector<double> ends{start};
    // what is at random on purpose is known well enough sooner
    const long first_batch = s.may_repeat ? 20 : 3;
    const double known_to = s.may_repeat ? 0.01 : 0.02;
    int in_a_batch = static_cast<int>(std::clamp(most_steps / (batches * in_a_cycle), 1L, first_batch));
    for (int round = 0; round < most_rounds; ++round, in_a_batch *= 2) {
        for (int k = 0; k < batches; ++k) {
            for (int n = 0; n < in_a_batch; ++n)
                if (auto next = cycles.to_next(); !next || !next.value()) return next;
            ends.push_back(s.stepper.time());
        }
        const Trace& current = *steady.cycle.trace("part:" + s.circuit.source()->designator);
        double sum = 0, squares = 0;
        for (std::size_t k = ends.size() - batches; k < ends.size(); ++k) {
            const double mean =
                -integral(steady.cycle.time, current.values, ends[k - 1], ends[k]) / (ends[k] - ends[k - 1]);
            sum += mean, squares += mean * mean;
        }
        const double mean = sum / batches, variance = std::max(0.0, squares / batches - mean * mean);
        steady.uncertainty = std::abs(mean) > 0 ? std::sqrt(variance / (batches - 1)) / std::abs(mean) : 0;
        steady.period = s.stepper.time() - start;
        steady.charge = -integral(steady.cycle.time, current.values, start, s.stepper.time());
        steady.mean_current = steady.charge / steady.period;
        if (steady.uncertainty < (round > 0 ? 1 : 0.3) * known_to || s.stepper.steps - steps > most_steps)
            break;
    }
    for (double& t : steady.cycle.time) t -= start;
    for (auto& h : steady.cycle.happenings) h.time -= start;
    steady.cycle.end = readings_at(s.circuit, s.system, s.stepper.moment());
    steady.cycle.steps = s.stepper.steps, steady.cycle.evaluations = s.stepper.evaluations;
    return true;
}

/// The same where something quick goes on beside something slower: over whole rounds of that, two at least,
/// and so many that it does not matter where within one of the quick cycles they end.
Result<bool> average_over_rounds(Search& s, Cycles& cycles, Steady& steady) {
    constexpr long most_steps = 1'000'000;
    constexpr double enough_cycles = 400;
    const double in_a_round = s.round / s.section.period;
    const int rounds =
        s.section.by_clock ? 2 : 2 * static_cast<int>(std::ceil(enough_cycles / 2 / in_a_round));
    const long steps = s.stepper.steps;
    if (!s.section.by_clock)
        if (auto next = cycles.to_next(); !next || !next.value()) return next;
    const double start = s.stepper.time();
    steady.moves = true, steady.repeats = false;
    steady.section = "no mark: something quick beside something slow";
    begin_record(s, cycles, steady);
    steady.mark = {};  // its charges do not tell how far the slow one has got: nothing to start another from
    double half = start;
    for (int k = 0; k < rounds && s.stepper.steps - steps < most_steps; ++k) {
        while (s.stepper.time() < start + (k + 1) * s.round - s.section.period / 2)
            if (auto next = cycles.to_next(); !next || !next.value()) return next;
        if (k + 1 == rounds / 2) half = s.stepper.time();
    }
    const double end = s.stepper.time();
    const Trace& current = *steady.cycle.trace("part:" + s.circuit.source()->designator);
    const auto mean = [&](double from, double to) {
        return -integral(steady.cycle.time, current.values, from, to) / (to - from);
    };
    steady.period = end - start;
    steady.mean_current = mean(start, end), steady.charge = steady.mean_current * steady.period;
    if (half > start && end > half && std::abs(steady.mean_current) > 0)
        steady.uncertainty =
            std::abs(mean(start, half) - mean(half, end)) / 2 / std::abs(steady.mean_current);
    for (double& t : steady.cycle.time) t -= start;
    for (auto& h : steady.cycle.happenings) h.time -= start;
    steady.cycle.end = readings_at(s.circuit, s.system, s.stepper.moment());
    steady.cycle.steps = s.stepper.steps, steady.cycle.evaluations = s.stepper.evaluations;
    return true;
}

/// Of the latches that switch, one that does so less often than the mark: the cycle of a clock that gates
/// another. False if there is none.
Result<bool> slower_mark(Search& s) {
    if (s.system.monitors() < 2) return false;
    s.stepper.set_longest_step(s.section.period / 8);
    constexpr std::size_t often = 6;  // then it is known how long it takes
    constexpr int most_steps = 300'000;
    const double until = s.stepper.time() + 1e5 * s.section.period;
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
        const bool all =
            std::all_of(times.begin(), times.end(), [](const auto& of) { return of.second.size() >= often; });
        if (all && (slower >= 0 || static_cast<int>(times.size()) == s.system.monitors())) break;
    }
    if (slower < 0) return false;
    const auto& when = times[slower];
    s.section.monitor = slower, s.section.period = when[when.size() - 1] - when[when.size() - 3];
    return true;
}

}  // namespace

Result<Steady> steady_state(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                            const std::vector<std::string>& probes, const Accuracy& accuracy,
                            const Corner& corner, const Steady* near) {
    if (auto errors = circuit_errors(circuit, catalogue, conditions); !errors.empty()) return errors.front();
    auto built = System::build(circuit, catalogue, conditions, corner);
    if (!built) return built.error();
    System& system = built.value();
    Recorder recorder(circuit, catalogue, system);
    for (const auto& probe : probes)
        if (auto added = recorder.add(probe); !added) return added.error();
    if (auto added = recorder.add("part:" + circuit.source()->designator); !added) return added.error();
    Stepper stepper(system, accuracy, 1e-5);
    Search search{circuit, system, recorder, stepper, {}, true};
    const bool warm = near && near->moves && near->mark.period > 0 && conditions.events.empty();
    const bool wandering = warm && !near->repeats;  // and will again
    constexpr double slow = 30;                     // cycles: what takes longer hardly moves within one
    if (warm) {
        search.section = near->mark;
        system.hasten(slow * near->mark.period);
        stepper.set_longest_step(near->mark.period / 8);
        stepper.forget_pace(near->mark.period * 1e-4);
    }
    const bool placed = warm && stepper.start_from_charges(near->charges);
    if (!placed) {
        if (auto started = stepper.start_from_power_up(); !started) return started.error();
        if (auto lived = live_through(conditions, system, stepper, accuracy); !lived) return lived.error();
    }
    std::optional<Error> trouble;
    constexpr double closes_well = 1e-3;
    bool slower = false, search_again = true;
    for (int attempt = 0; attempt < 3; ++attempt) {  // what dies away may look like a cycle at first
        if ((!placed || attempt > 0) && std::exchange(search_again, true)) {
            auto rests = look_for_a_cycle(search);
            if (!rests) return trouble ? *trouble : rests.error();
            if (rests.value()) return std::move(*rests.value());
            if (const std::vector<double> x = stepper.x(); system.hasten(slow * search.section.period))
                if (auto started = stepper.start_at(x); !started) return started.error();
        }
        stepper.set_longest_step(search.section.period / 8);
        if (search.section.monitor == system.monitors())
            stepper.set_section(search.section.unknown, search.section.level);
        if (wandering && placed && attempt == 0) search.section.by_clock = false;  // others stop and start it
        Cycles cycles(circuit, system, stepper, recorder, search.section);
        const int turns = search.section.turns;
        Steady steady;
        if (wandering && placed && attempt == 0 && search.round == 0) {
            if (const auto clock = system.clock()) search.may_repeat = clock->repeats;
            auto known = average_over_many(search, cycles, steady);
            stepper.before_jump = nullptr;
            if (known && known.value()) return steady;
            return steady_state(circuit, catalogue, conditions, probes, accuracy, corner);
        }
        if (search.section.by_clock && search.may_repeat && search.round == 0) {
            constexpr long many = 20'000;  // steps in a cycle of a clock: something quick goes on in it
            const long before = stepper.steps;
            auto first = cycles.to_next();
            if (first && first.value() && cycles.others() && stepper.steps - before > many)
                search.round = search.section.period;
        }
        if (search.round > 0) {
            auto known = average_over_rounds(search, cycles, steady);
            stepper.before_jump = nullptr;
            if (!known) return known.error();
            if (known.value()) return steady;
            search.clock_lost = true;
            continue;
        }
        auto closed = close_the_cycle(search, cycles, std::max(2 * accuracy.relative, 1e-7),
                                      placed && attempt == 0, steady);
        const bool found = closed && closed.value(), alike = found && steady.repeats;
        if (closed && !found && search.section.turns > turns) {
            search_again = false, --attempt;
            continue;
        }
        if (!alike && !placed && search.may_repeat && !std::exchange(slower, true)) {
            auto another = slower_mark(search);
            if (another && another.value()) {
                search_again = false, --attempt;
                continue;
            }
        }
        if (alike) {
            if (!steady.moves) closed = record_the_cycle(search, cycles, steady);
        } else if (found && !placed && search.may_repeat && accuracy.relative > closes_well &&
                   steady.closure < far_apart) {  // what the steps leave open may be all that differs
            Accuracy finer = accuracy;
            finer.relative = closes_well;
            return steady_state(circuit, catalogue, conditions, probes, finer, corner);
        } else if (found && !placed) {
            closed = average_over_many(search, cycles, steady);
        }
        stepper.before_jump = nullptr;
        if (closed && closed.value() && steady.moves) return steady;
        if (placed)  // too far from there: look for it from power-up
            return steady_state(circuit, catalogue, conditions, probes, accuracy, corner);
        if (!closed) trouble = closed.error();
        search.clock_lost = search.section.by_clock;
    }
    if (trouble) return *trouble;
    return Error{Fault::design, "circuit", "its cycle was lost", "something that repeats"};
}

}  // namespace elkit
