#include "engine/steady.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <optional>
#include <utility>

#include "circuit/connectivity.hpp"
#include "engine/averages.hpp"
#include "engine/history.hpp"
#include "engine/models.hpp"

namespace elkit {
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

/// Records one cycle and what follows from it.
Result<bool> record_the_cycle(Search& s, Cycles& cycles, Steady& steady) {
    begin_record(s, cycles, steady);
    auto last = cycles.to_next();
    cycles.stop_recording();
    if (!last || !last.value()) return last;
    end_record(s, steady);
    return true;
}

/// V, the highest of any net now.
double highest_now(const Search& s) {
    double highest = 0;
    for (std::size_t k = 1; k < s.stepper.x().size(); ++k)
        if (s.system.is_voltage(static_cast<int>(k))) highest = std::max(highest, std::abs(s.stepper.x()[k]));
    return highest;
}

constexpr double far_apart = 0.05;  // of a cycle's charges: more than what its steps leave open

/// Repeats cycles until one closes, extrapolating on the way. It counts as closed when the drift of a cycle
/// and the way still to go by the extrapolation are both small twice in a row; after many cycles the drift
/// alone decides. What began `beside` a cycle that was found before is not waited for as long; `at_mark`: it
/// has just come to where one begins. `repeats` says whether it did; false if the cycle was lost, or if every
/// second one is alike: the mark then says so.
Result<bool> close_the_cycle(Search& s, Cycles& cycles, double good_enough, bool beside, bool at_mark,
                             Steady& steady) {
    // the first crossing, and one to be past what the search disturbed; what a clock does mostly closes at
    // once
    bool at_once = at_mark && s.system.clock().has_value() && s.may_repeat;
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
    const double highest = s.stepper.highest();  // V, that any net had before the first leap
    constexpr double believed = 3;               // times that, where a leap leads
    int near = 0, alike = 0, lost_leaps = 0, pairs = 0, on_its_way = 0;
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
        // what does not switch within a cycle would where the leap leads: it is on its way there, slowly
        const auto firing = s.stepper.firing_with(list_of(extrapolated));
        const bool elsewhere = firing && firing.value() >= 0 && firing.value() < s.system.monitors() &&
                               !cycles.fires(firing.value());
        if (elsewhere && ++on_its_way > 1) {
            s.awaited = firing.value();
            return bool(s.stepper.start_from_charges(list_of(plain)));
        }
        leapt = firing && !elsewhere && s.stepper.start_from_charges(list_of(extrapolated)) &&
                highest_now(s) <= believed * highest;
        if (!leapt && !s.stepper.start_from_charges(list_of(plain))) return false;
        q = vector_of(s.stepper.charges());
    }
    s.stepper.forget_pace(pace);
    if (!steady.repeats && leapt && !s.stepper.start_from_charges(list_of(plain))) return false;
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
    bool slower = false, search_again = true, quick_beside_slow = false, late_clock = false;
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
        const bool go_on = wandering && placed && attempt == 0;
        if (go_on) search.section.by_clock = false;  // others stop and start it
        Cycles cycles(circuit, system, stepper, recorder, search.section);
        const int turns = search.section.turns;
        Steady steady;
        if (go_on) {
            if (const auto clock = system.clock()) search.may_repeat = clock->repeats;
            auto known = average_over_many(search, cycles, steady);
            stepper.before_jump = nullptr;
            // at random on purpose, or beside another: what has lost the other is something else
            if (known && known.value() && (cycles.others() || !search.may_repeat)) return steady;
            return steady_state(circuit, catalogue, conditions, probes, accuracy, corner);
        }
        bool at_mark = false;
        if (search.section.by_clock && search.may_repeat && search.round == 0) {
            // something quick may go on within the cycle of a clock
            constexpr long many = 20'000, worth = 150'000, dear = 300'000;  // steps
            const long before = stepper.steps;
            const double start = stepper.time();
            auto first = cycles.to_next(many);
            at_mark = first && first.value();
            if (const long took = stepper.steps - before; !at_mark && took >= many && cycles.others()) {
                search.round = search.section.period;
                const double all = static_cast<double>(took) * search.round / (stepper.time() - start);
                if (all > double(dear)) search.share = static_cast<double>(worth) / all;
            }
        }
        if (search.round > 0) {
            auto known = average_over_rounds(search, cycles, steady);
            stepper.before_jump = nullptr;
            if (!known) return known.error();
            if (known.value()) return steady;
            search.clock_lost = true;
            continue;
        }
        if (quick_beside_slow) {
            auto known = average_over_many(search, cycles, steady);
            stepper.before_jump = nullptr;
            if (!known) return known.error();
            if (known.value()) return steady;
        }
        auto closed = close_the_cycle(search, cycles, std::max(2 * accuracy.relative, 1e-7),
                                      placed && attempt == 0, at_mark, steady);
        if (!placed && !search.section.by_clock && !search.clock_lost && system.clock() &&
            !std::exchange(late_clock, true)) {  // what has only begun since
            search.section = {}, --attempt;
            continue;
        }
        const bool found = closed && closed.value(), alike = found && steady.repeats;
        if (closed && !found && search.section.turns > turns) {
            search_again = false, --attempt;
            continue;
        }
        if (!alike && !placed && search.may_repeat && !std::exchange(slower, true)) {
            auto another = slower_mark(search);
            quick_beside_slow |= std::exchange(search.awaited, -1) >= 0;
            if (another && another.value()) {
                search_again = false, --attempt;
                continue;
            }
        }
        if (alike) {
            if (!steady.moves) closed = record_the_cycle(search, cycles, steady);
        } else if (found && !placed && search.may_repeat && accuracy.relative > closes_well &&
                   steady.closure < far_apart &&
                   !quick_beside_slow) {  // what the steps leave open may be all that differs
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
