#include "engine/transient.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "circuit/connectivity.hpp"
#include "engine/history.hpp"
#include "engine/models.hpp"
#include "engine/newton.hpp"
#include "engine/probe.hpp"
#include "engine/readings.hpp"
#include "engine/repetition.hpp"
#include "engine/stability.hpp"
#include "engine/stepper.hpp"
#include "quantity/format.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

/// Adds up charges and energies over a run.
class Bookkeeper {
  public:
    Bookkeeper(const Circuit& circuit, const System& system, bool energies)
        : system_(system),
          energies_(energies),
          moved_(static_cast<std::size_t>(system.unknowns()) + 1),
          power_(circuit.parts.size()),
          energy_(circuit.parts.size()) {
        for (std::size_t k = 0; k < circuit.parts.size(); ++k)
            if (&circuit.parts[k] == circuit.source()) source_ = k;
    }
    void start(const Stepper& s) {
        start_ = s.charges();
        measure(s);
    }
    /// After a jump charges may have moved at once; that is not the integration's error.
    void after_jump(const Stepper& s) { measure(s); }
    void step(const Stepper& s) {
        for (std::size_t k = 1; k < moved_.size(); ++k) moved_[k] += s.moved()[k];
        const double before = source_current_, flow = flow_;
        const std::vector<double> powers = power_;
        measure(s);
        through_ += s.last_step() * std::max(flow, flow_);
        charge_ += s.last_step() * (before + source_current_) / 2;
        for (std::size_t k = 0; k < power_.size(); ++k)
            energy_[k] += s.last_step() * (powers[k] + power_[k]) / 2;
    }
    /// A cycle begins: what comes until the next mark is one cycle's share.
    void mark_cycle() { before_ = std::exchange(marked_, now()); }
    /// The cycle between the last two marks happened `times` more.
    void repeat_cycle(double times) { add(times, before_, marked_); }
    /// A pulse begins; the one before it happened `times` more.
    void pulse(double times) {
        if (times > 0) add(times, pulse_, now());
        pulse_ = now();
    }
    Balance balance(const Stepper& s) const {
        Balance b;
        b.charge = charge_;
        double error = 0;
        for (int k = 1; k <= system_.nodes(); ++k) {
            const auto n = static_cast<std::size_t>(k);
            error = std::max(error, std::abs(s.charges()[n] - start_[n] + moved_[n]));
        }
        b.charge_error = through_ > 0 ? error / through_ : error;
        for (const double e : energy_) (e < 0 ? b.given : b.taken) += std::abs(e);
        b.energy_error = b.given > 0 ? std::abs(b.given - b.taken) / b.given : 0;
        return b;
    }

  private:
    void measure(const Stepper& s) {
        const Moment now = s.moment();
        flow_ = 0;
        for (std::size_t k = 0; k < power_.size(); ++k) {
            if (!energies_ && k != source_) continue;
            system_.pin_currents(k, now, flows_);
            power_[k] = 0;
            for (std::size_t p = 0; p < flows_.size(); ++p) {
                power_[k] += flows_[p] * now.x[system_.pin_unknown(k, p)];
                flow_ = std::max(flow_, std::abs(flows_[p]));
            }
            if (k == source_) source_current_ = flows_.empty() ? 0 : -flows_[0];
        }
    }
    const System& system_;
    bool energies_;
    std::size_t source_ = 0;
    std::vector<double> start_, moved_, power_, energy_, flows_;
    double source_current_ = 0, charge_ = 0;
    double flow_ = 0, through_ = 0;  // A, the largest current now; C, its integral
    struct Totals {
        double charge = 0, through = 0;
        std::vector<double> energy, moved;
    } before_, marked_, pulse_;
    Totals now() const { return {charge_, through_, energy_, moved_}; }
    void add(double times, const Totals& from, const Totals& to) {
        charge_ += times * (to.charge - from.charge);
        through_ += times * (to.through - from.through);
        for (std::size_t k = 0; k < energy_.size(); ++k)
            energy_[k] += times * (to.energy[k] - from.energy[k]);
        for (std::size_t k = 0; k < moved_.size(); ++k) moved_[k] += times * (to.moved[k] - from.moved[k]);
    }
};

/// Lets a circuit run until it rests; the step and the time looked at grow tenfold from turn to turn.
Result<std::vector<double>> run_to_rest(const System& system, Stepper& s, double first_step) {
    std::vector<double> before = s.x();
    double step = first_step, until = s.time() + 50 * step;
    for (int decade = 0; decade < 9; ++decade) {
        for (int k = 0; k < 4000 && s.time() < until; ++k)
            if (auto done = s.advance(until); !done) return done.error();
        double change = 0;
        for (int n = 1; n <= system.nodes(); ++n)
            change = std::max(
                change, std::abs(s.x()[static_cast<std::size_t>(n)] - before[static_cast<std::size_t>(n)]));
        if (decade > 1 && change < 1e-4) return s.x();
        before = s.x();
        step *= 10, until = s.time() + 50 * step;
        s.set_longest_step(std::max(step / 10, first_step));
    }
    return Error{Fault::design, "circuit", "it does not come to rest", "a circuit with a state of rest"};
}

constexpr double rest_step = 1e-5;  // s, where run_to_rest() starts

}  // namespace

Figure Balance::figure() const {
    Figure f{"run.balance", "energy that does not balance", 100 * energy_error, Unit::percent, {}, {}, {}};
    f.working = {fmt::format("given by sources {}, taken by all parts {}",
                             format_quantity(given, Unit::joule, 4), format_quantity(taken, Unit::joule, 4)),
                 fmt::format("charge from the supply {}; at every net balanced to {:.1e} of what moves",
                             format_quantity(charge, Unit::coulomb), charge_error)};
    return f;
}

const Trace* Recording::trace(std::string_view probe) const {
    for (const Trace& t : traces)
        if (t.probe == probe) return &t;
    return nullptr;
}

namespace {

bool is_enough(const RunRequest& request, const Recording& run) {
    if (!request.enough || run.time.back() <= request.enough->after) return false;
    const Trace* trace = run.trace(request.enough->probe);
    return trace && trace->values.back() > request.enough->level;
}

}  // namespace

Result<Recording> simulate(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                           const RunRequest& request, const Corner& corner, const Progress& progress) {
    if (auto errors = circuit_errors(circuit, catalogue, conditions); !errors.empty()) return errors.front();
    if (!(request.until > 0))
        return Error{Fault::usage, "until", "found " + format_quantity(request.until, Unit::second),
                     "a time above zero"};
    auto built = System::build(circuit, catalogue, conditions, corner);
    if (!built) return built.error();
    const bool history = !conditions.events.empty();
    std::vector<TimedChange> changes = changes_of(conditions);
    changes.insert(changes.end(), request.changes.begin(), request.changes.end());
    std::stable_sort(changes.begin(), changes.end(),
                     [](const TimedChange& a, const TimedChange& b) { return a.time < b.time; });
    std::vector<double> rest;  // empty: starts from power-up
    if (request.start == Start::rest && !history)
        if (auto found = settle_at_rest(built.value());
            found && !found.value().oscillates && !disturbance_grows(built.value(), found.value().x))
            rest = found.value().x;
    if (rest.empty())  // the latches too start as they do when power comes on
        built = System::build(circuit, catalogue, conditions, corner);
    System& system = built.value();
    Recorder recorder(circuit, catalogue, system);
    for (const auto& probe : request.probes)
        if (auto added = recorder.add(probe); !added) return added.error();
    const double longest =
        request.accuracy.longest_step > 0
            ? request.accuracy.longest_step
            : request.until / std::max(50, std::min(request.frames, 300));  // pictures come step by step
    Stepper stepper(system, request.accuracy, longest);
    if (auto started = rest.empty() ? stepper.start_from_power_up() : stepper.start_at(rest); !started)
        return started.error();
    Recording run;
    Bookkeeper books(circuit, system, request.balance);
    books.start(stepper);
    std::size_t next_change = 0;
    const auto record = [&](bool step) {
        if (const auto between = stepper.between(); step && between) {
            run.time.push_back(between->time);
            recorder.record(*between, run.traces);
        }
        run.time.push_back(stepper.time());
        recorder.record(stepper.moment(), run.traces);
    };
    const auto happened = [&](const std::vector<int>& fired) {
        for (const int monitor : fired)
            if (monitor < system.monitors())
                run.happenings.push_back(
                    {stepper.time(), circuit.parts[system.monitor_part(monitor)].designator + " switches"});
    };
    const auto keep_frame = [&](double gap) {
        if (gap <= 0 || (!run.frame_time.empty() && stepper.time() < run.frame_time.back() + gap)) return;
        run.frames.push_back(readings_at(circuit, system, stepper.moment()));
        run.frame_time.push_back(stepper.time());
    };
    recorder.prepare(run.traces);
    record(false);
    happened(stepper.fired);
    double told = 0;
    Repetition repetition(system, stepper, request.accuracy.relative);
    const bool may_copy = request.copy_cycles && request.frames == 0 && system.autonomous();
    const double frame_gap = request.frames > 0 ? request.until / request.frames : 0;
    while (stepper.time() < request.until) {
        stop_point();
        while (next_change < changes.size() && changes[next_change].time <= stepper.time()) {
            const TimedChange& change = changes[next_change++];
            run.happenings.push_back({stepper.time(), change.what});
            if (!system.configure(change.conditions)) continue;
            stepper.fired.clear();
            if (auto done = stepper.jump(); !done) return done.error();
            happened(stepper.fired);
            books.after_jump(stepper);
            record(false);
            repetition.restart();
        }
        double limit =
            next_change < changes.size() ? std::min(changes[next_change].time, request.until) : request.until;
        if (frame_gap > 0 && !run.frame_time.empty() && system.pulses())  // not past what is to be pictured
            limit = std::min(limit,
                             std::max(run.frame_time.back() + frame_gap, stepper.time() + frame_gap / 100));
        bool jumped = false;
        stepper.before_jump = [&] {  // the last moment before it
            jumped = true;
            books.step(stepper);
            record(true);
        };
        if (auto done = stepper.advance(limit); !done) {
            Error e = done.error();
            e.found += fmt::format(" at {}", format_quantity(stepper.time(), Unit::second, 5));
            return e;
        }
        jumped ? books.after_jump(stepper) : books.step(stepper);
        if (const Stepper::Pulse& pulse = stepper.pulse(); pulse.begins) {
            const auto times = static_cast<double>(pulse.left_out);
            books.pulse(times);
            if (times > 0) repeat_pulse(run, stepper.time(), pulse.period, pulse.left_out);
        }
        record(!jumped);
        happened(stepper.fired);
        keep_frame(frame_gap);
        if (is_enough(request, run)) break;
        const bool repeats = may_copy && repetition.closes(run.time.size(), limit);
        if (repetition.began()) books.mark_cycle();
        if (repeats) {
            const double period = repetition.period();
            const auto times = static_cast<long>((limit - stepper.time()) / period);
            const std::size_t added =
                static_cast<std::size_t>(times) * (run.time.size() - repetition.cycle_first());
            if (run.time.size() + added <= request.most_samples) {
                copy_cycle(run, repetition.cycle_first(), period, times);
                books.repeat_cycle(static_cast<double>(times));
                stepper.skip(static_cast<double>(times) * period);
                repetition.restart();
            }
        }
        if (run.time.size() > request.most_samples)
            return Error{Fault::usage, "until",
                         fmt::format("the run has more than {} steps", request.most_samples),
                         "a shorter time, or steady for what repeats"};
        if (progress && stepper.time() > told + request.until / 100) {
            told = stepper.time();
            if (!progress("simulating", told / request.until))
                return Error{Fault::usage, "run", "stopped", ""};
        }
    }
    keep_frame(frame_gap > 0 ? 1e-12 : 0);
    run.balance = books.balance(stepper);
    run.end = readings_at(circuit, system, stepper.moment());
    run.steps = stepper.steps, run.rejected = stepper.rejected, run.evaluations = stepper.evaluations,
    run.factorisations = stepper.factorisations;
    return run;
}

Result<OperatingPoint> state_from_power_up(const Circuit& circuit, const Catalogue& catalogue,
                                           const Conditions& conditions, const Corner& corner) {
    auto system = System::build(circuit, catalogue, conditions, corner);
    if (!system) return system.error();
    Stepper stepper(system.value(), {}, rest_step);
    if (auto started = stepper.start_from_power_up(); !started) return started.error();
    if (auto lived = live_through(conditions, system.value(), stepper, {}); !lived) return lived.error();
    stepper.set_longest_step(rest_step);
    auto x = run_to_rest(system.value(), stepper, rest_step);
    if (!x) return x.error();
    auto rest = settle_at_rest(system.value(), &x.value());
    if (!rest) return rest.error();
    return readings_at(circuit, system.value(), {rest.value().x.data()});
}

namespace {

/// Lives through the conditions' events, to the moment that they name, and asks `then` what is of interest.
/// Errors as simulate().
template <class Value, class Then>
Result<Value> at_moment(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                        const Corner& corner, Then then) {
    if (auto errors = circuit_errors(circuit, catalogue, conditions); !errors.empty()) return errors.front();
    auto system = System::build(circuit, catalogue, conditions, corner);
    if (!system) return system.error();
    Stepper stepper(system.value(), {}, rest_step);
    if (auto started = stepper.start_from_power_up(); !started) return started.error();
    if (auto lived = live_through(conditions, system.value(), stepper, {}); !lived) return lived.error();
    return then(system.value(), stepper);
}

/// A dimmed light is what the eye makes of it, and not whether a pulse is on.
Result<OperatingPoint> seen_now(const Circuit& circuit, const Catalogue& catalogue, const System& system,
                                Stepper& stepper) {
    if (const auto pulses = system.pulses())
        return mean_ahead(circuit, catalogue, system, stepper, pulses->period);
    return readings_at(circuit, system, stepper.moment());
}

}  // namespace

Result<OperatingPoint> state_at_moment(const Circuit& circuit, const Catalogue& catalogue,
                                       const Conditions& conditions, const Corner& corner) {
    return at_moment<OperatingPoint>(circuit, catalogue, conditions, corner,
                                     [&](const System& system, Stepper& stepper) {
                                         return seen_now(circuit, catalogue, system, stepper);
                                     });
}

Result<Recording> course_at_moment(const Circuit& circuit, const Catalogue& catalogue,
                                   const Conditions& conditions, const Corner& corner) {
    constexpr double longest = 60;  // s
    return at_moment<Recording>(circuit, catalogue, conditions, corner,
                                [&](const System& system, Stepper& stepper) -> Result<Recording> {
                                    if (const auto round = system.round())
                                        return record_ahead(circuit, catalogue, system, stepper,
                                                            std::min(*round, longest));
                                    auto now = seen_now(circuit, catalogue, system, stepper);
                                    if (!now) return now.error();
                                    Recording moment;
                                    moment.end = std::move(now).value();
                                    return moment;
                                });
}

namespace {

/// Lets each latch decide at these unknowns, as if a finger held a net there for a moment: a state that only
/// the latch remembers is reached in no other way.
void decide_at(System& system, const std::vector<double>& x) {
    std::vector<double> wants(static_cast<std::size_t>(system.monitors()));
    system.watch(x.data(), wants.data());
    for (std::size_t k = 0; k < wants.size(); ++k)
        if (wants[k] > 0) system.fire(static_cast<int>(k));
}

}  // namespace

Result<OperatingPoint> stable_state(const Circuit& circuit, const Catalogue& catalogue,
                                    const Conditions& conditions, const OperatingPoint& from) {
    auto system = System::build(circuit, catalogue, conditions);
    if (!system) return system.error();
    const std::vector<double> guess = unknowns_of(from, system.value());
    decide_at(system.value(), guess);
    auto rest = settle_at_rest(system.value(), &guess);
    if (!rest) return rest.error();
    if (rest.value().oscillates)
        return Error{Fault::design, "circuit", "it does not come to rest", "a circuit with a state of rest"};
    if (disturbance_grows(system.value(), rest.value().x))
        return Error{Fault::design, "circuit", "the circuit leaves this state when it is let go",
                     "a state in which it stays"};
    std::vector<double> nudged = rest.value().x;
    for (int n = 1; n <= system.value().nodes(); ++n)  // by up to a millivolt, no two nets alike
        nudged[static_cast<std::size_t>(n)] += 2e-3 * (std::fmod(n * std::numbers::phi, 1.0) - 0.5);
    Stepper stepper(system.value(), {}, rest_step);
    if (auto started = stepper.start_at(nudged); !started) return started.error();
    auto x = run_to_rest(system.value(), stepper, rest_step);
    if (!x) return x.error();
    for (int n = 1; n <= system.value().nodes(); ++n)
        if (std::abs(x.value()[static_cast<std::size_t>(n)] - rest.value().x[static_cast<std::size_t>(n)]) >
            0.02)
            return Error{Fault::design, system.value().name(n),
                         "the circuit leaves this state when it is let go", "a state in which it stays"};
    return readings_at(circuit, system.value(), {rest.value().x.data()});
}

}  // namespace elkit
