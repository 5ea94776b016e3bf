#include "engine/averages.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

#include "engine/measure.hpp"

namespace elkit {
namespace {

/// A out of the source between two moments of what is recorded.
double mean_of_source(const Search& s, const Steady& steady, double from, double to) {
    const Trace& current = *steady.cycle.trace("part:" + s.circuit.source()->designator);
    return -integral(steady.cycle.time, current.values, from, to) / (to - from);
}

/// The recording up to its end: its time, charge and mean; from here on it begins at 0.
void take_the_record(const Search& s, Steady& steady, double end) {
    const double start = steady.cycle.time.front();
    steady.period = end - start;
    steady.mean_current = mean_of_source(s, steady, start, end);
    steady.charge = steady.mean_current * steady.period;
    for (double& t : steady.cycle.time) t -= start;
    for (auto& h : steady.cycle.happenings) h.time -= start;
    steady.cycle.end = readings_at(s.circuit, s.system, s.stepper.moment());
    steady.cycle.steps = s.stepper.steps, steady.cycle.evaluations = s.stepper.evaluations;
}

/// How far the means of both halves of a recording are apart is how well its mean is known.
void note_halves(const Search& s, Steady& steady, double start, double half, double end) {
    const double early = mean_of_source(s, steady, start, half), late = mean_of_source(s, steady, half, end);
    if (early + late > 0) steady.uncertainty = std::abs(early - late) / (early + late);
}

}  // namespace

void begin_record(Search& s, Cycles& cycles, Steady& steady) {
    steady.mark = s.section, steady.charges = s.stepper.charges();
    cycles.start_recording(steady.cycle);
}

void end_record(Search& s, Steady& steady) {
    steady.moves = steady.repeats = true;
    take_the_record(s, steady, s.stepper.time());
    steady.mark.period = steady.period;
    steady.section = s.section.monitor < s.system.monitors()
                         ? s.circuit.parts[s.system.monitor_part(s.section.monitor)].designator + " switches"
                         : s.system.name(s.section.unknown) + " rising";
    if (s.section.turns > 1) steady.section += fmt::format(" {} times", s.section.turns);
}

Result<bool> average_over_many(Search& s, Cycles& cycles, Steady& steady) {
    constexpr int most_rounds = 6;
    constexpr long most_steps = 200'000, many_steps = 10'000;
    const long steps = s.stepper.steps;
    if (auto next = cycles.to_next(); !next || !next.value()) return next;
    const long in_a_cycle = std::max(1L, s.stepper.steps - steps);
    // where one cycle holds very many of something quick, few of them tell
    const int batches = in_a_cycle > 10 * many_steps ? 2 : in_a_cycle > many_steps ? 3 : 8;
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
        double sum = 0, squares = 0;
        for (std::size_t k = ends.size() - static_cast<std::size_t>(batches); k < ends.size(); ++k) {
            const double mean = mean_of_source(s, steady, ends[k - 1], ends[k]);
            sum += mean, squares += mean * mean;
        }
        const double mean = sum / batches, variance = std::max(0.0, squares / batches - mean * mean);
        steady.uncertainty = std::abs(mean) > 0 ? std::sqrt(variance / (batches - 1)) / std::abs(mean) : 0;
        if (steady.uncertainty < (round > 0 ? 1 : 0.3) * known_to || s.stepper.steps - steps > most_steps)
            break;
    }
    take_the_record(s, steady, s.stepper.time());
    return true;
}

namespace {

/// Two rounds of a clock in little: of each stretch between two things that it does the same small share,
/// then on to the next. What is quick goes on in it as in the whole, and what is recorded is as short as
/// that. When each of them ends [s], as recorded.
Result<std::array<double, 2>> record_in_little(Search& s, Cycles& cycles, Steady& steady) {
    constexpr double short_enough = 1e-6, right_before = 1e-9;   // s
    const double start = s.stepper.time(), share = s.share / 2;  // both together are what it is worth
    struct Gap {
        double begins, left_out;  // s; all that is left out before what follows
    };
    std::vector<Gap> gaps;
    std::array<double, 2> ends{};
    double left_out = 0;
    for (std::size_t round = 0; round < ends.size(); ++round) {
        const double end = start + static_cast<double>(round + 1) * s.round;
        while (s.stepper.time() < end) {
            const double begin = s.stepper.time(), due = std::min(end, s.system.next_corner(begin));
            const double shown = due - begin > short_enough ? share * (due - begin) : due - begin;
            if (auto done = cycles.run_to(begin + shown); !done) return done.error();
            const double landing = due - right_before;
            double from = s.stepper.time();
            // what that set off comes first
            for (; from < landing && !s.stepper.leap_to(landing); from = s.stepper.time())
                if (auto done = cycles.run_to(s.system.next_corner(from)); !done) return done.error();
            if (from < landing) gaps.push_back({from, left_out += landing - from});
            if (auto done = cycles.run_to(due); !done) return done.error();
        }
        ends[round] = s.stepper.time() - left_out;
    }
    const auto close_gaps = [&, gap = gaps.begin(), out = 0.0](double& t) mutable {
        for (; gap != gaps.end() && gap->begins < t; ++gap) out = gap->left_out;
        t -= out;
    };
    std::for_each(steady.cycle.time.begin(), steady.cycle.time.end(), close_gaps);
    auto close_for_happenings = close_gaps;
    for (Happening& h : steady.cycle.happenings) close_for_happenings(h.time);
    return ends;
}

}  // namespace

Result<bool> average_over_rounds(Search& s, Cycles& cycles, Steady& steady) {
    constexpr long most_steps = 1'000'000;
    constexpr double enough_cycles = 400;
    const double in_a_round = s.round / s.section.period;
    const int rounds =
        s.section.by_clock ? 2 : 2 * static_cast<int>(std::ceil(enough_cycles / 2 / in_a_round));
    const long steps = s.stepper.steps;
    const bool in_little = s.section.by_clock && s.share < 1;
    if (!in_little)
        if (auto next = cycles.to_next(); !next || !next.value()) return next;
    const double start = s.stepper.time();
    steady.moves = true, steady.repeats = false;
    steady.section = "no mark: something quick beside something slow";
    begin_record(s, cycles, steady);
    steady.mark = {};  // its charges do not tell how far the slow one has got: nothing to start another from
    if (in_little) {
        const auto ends = record_in_little(s, cycles, steady);
        if (!ends) return ends.error();
        note_halves(s, steady, start, ends.value()[0], ends.value()[1]);
        take_the_record(s, steady, ends.value()[1]);
        return true;
    }
    std::vector<double> ends{start};
    for (int k = 0; k < rounds && s.stepper.steps - steps < most_steps; ++k) {
        while (s.stepper.time() < start + (k + 1) * s.round - s.section.period / 2)
            if (auto next = cycles.to_next(); !next || !next.value()) return next;
        ends.push_back(s.stepper.time());
    }
    const double end = ends.back();
    steady.uncertainty = s.section.period / (end - start);  // by where the last one ends, if nothing else
    if (ends.size() > 2) note_halves(s, steady, start, ends[ends.size() / 2], end);
    take_the_record(s, steady, s.stepper.time());
    return true;
}

}  // namespace elkit
