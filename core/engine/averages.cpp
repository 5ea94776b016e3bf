#include "engine/averages.hpp"

#include <fmt/format.h>

#include <algorithm>
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

/// A round of a clock in little: of each stretch between two things that it does the same small share, then
/// on to the next. What is quick goes on in it as in the whole, and what is recorded is as short as that.
Result<bool> record_in_little(Search& s, Cycles& cycles, double share, Steady& steady) {
    constexpr double short_enough = 1e-6, right_before = 1e-9;  // s
    const double end = s.stepper.time() + s.round;
    double left_out = 0;
    std::vector<std::pair<std::size_t, double>> gaps;  // from which sample on so many seconds are left out
    while (s.stepper.time() < end) {
        const double begin = s.stepper.time(), due = std::min(end, s.system.next_corner(begin));
        const double shown = due - begin > short_enough ? share * (due - begin) : due - begin;
        if (auto done = cycles.run_to(begin + shown); !done) return done.error();
        const double landing = due - right_before;
        double left = landing - s.stepper.time();
        // what that set off comes first
        for (; left > 0 && !s.stepper.leap_to(landing); left = landing - s.stepper.time())
            if (auto done = cycles.run_to(s.system.next_corner(s.stepper.time())); !done) return done.error();
        if (left > 0) gaps.emplace_back(steady.cycle.time.size(), left_out += left);
        if (auto done = cycles.run_to(due); !done) return done.error();
    }
    auto gap = gaps.begin();
    double out = 0;
    for (std::size_t k = 0; k < steady.cycle.time.size(); ++k) {
        for (; gap != gaps.end() && gap->first <= k; ++gap) out = gap->second;
        steady.cycle.time[k] -= out;
    }
    return true;
}

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
        auto done = record_in_little(s, cycles, s.share, steady);
        if (!done || !done.value()) return done;
        steady.uncertainty = 0.03;  // by where the quick ones are cut
        take_the_record(s, steady, steady.cycle.time.back());
        return true;
    }
    std::vector<double> ends{start};
    for (int k = 0; k < rounds && s.stepper.steps - steps < most_steps; ++k) {
        while (s.stepper.time() < start + (k + 1) * s.round - s.section.period / 2)
            if (auto next = cycles.to_next(); !next || !next.value()) return next;
        ends.push_back(s.stepper.time());
    }
    const double half = ends[ends.size() / 2], end = ends.back();
    steady.uncertainty = s.section.period / (end - start);  // by where the last one ends, if nothing else
    if (const double early = mean_of_source(s, steady, start, half),
        late = mean_of_source(s, steady, half, end);
        ends.size() > 2 && early + late > 0)
        steady.uncertainty = std::abs(early - late) / (early + late);
    take_the_record(s, steady, s.stepper.time());
    return true;
}

}  // namespace elkit
