#include "engine/steady.hpp"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <deque>
#include <optional>

#include "circuit/connectivity.hpp"
#include "engine/measure.hpp"
#include "engine/models.hpp"
#include "engine/newton.hpp"
#include "engine/probe.hpp"
#include "engine/section.hpp"
#include "engine/stepper.hpp"

namespace elkit {
namespace {

Result<Window> watch_for(Stepper& s, const System& system, double until) {
    Window w;
    w.nets.resize(static_cast<std::size_t>(system.nodes()) + 1);
    const auto note = [&] {
        w.time.push_back(s.time());
        for (std::size_t n = 1; n < w.nets.size(); ++n) w.nets[n].push_back(s.x()[n]);
    };
    note();
    for (int k = 0; k < 20000 && s.time() < until; ++k) {
        if (auto done = s.advance(until); !done) return done.error();
        note();
        for (const int m : s.fired) w.events.emplace_back(s.time(), m);
        if (w.events.size() > 60) break;
    }
    return w;
}

bool quiet(const Window& w) {
    for (std::size_t n = 1; n < w.nets.size(); ++n) {
        const auto [least, most] = std::minmax_element(w.nets[n].begin(), w.nets[n].end());
        if (*most - *least > 1e-4) return false;
    }
    return w.events.empty();
}

/// Extrapolates the fixed point of q → P(q) from the last few cycles.
class Anderson {
  public:
    explicit Anderson(std::size_t depth) : depth_(depth) {}
    Eigen::VectorXd next(const Eigen::VectorXd& q, const Eigen::VectorXd& after) {
        const Eigen::VectorXd drift = after - q;
        past_.push_back({after, drift});
        if (past_.size() > depth_ + 1) past_.pop_front();
        const auto m = static_cast<Eigen::Index>(past_.size()) - 1;
        if (m == 0) return after;
        Eigen::MatrixXd d(q.size(), m);
        for (Eigen::Index k = 0; k < m; ++k)
            d.col(k) =
                past_[static_cast<std::size_t>(k) + 1].drift - past_[static_cast<std::size_t>(k)].drift;
        const Eigen::VectorXd share = d.colPivHouseholderQr().solve(drift);
        Eigen::VectorXd out = after;
        for (Eigen::Index k = 0; k < m; ++k)
            out -= share(k) *
                   (past_[static_cast<std::size_t>(k) + 1].after - past_[static_cast<std::size_t>(k)].after);
        return out.allFinite() && share.cwiseAbs().maxCoeff() < 1e4 ? out : after;
    }

  private:
    struct Pass {
        Eigen::VectorXd after, drift;
    };
    std::size_t depth_;
    std::deque<Pass> past_;
};

class Cycles {
  public:
    Cycles(const Circuit& circuit, System& system, Stepper& stepper, Recorder& recorder,
           const Section& section)
        : circuit_(circuit), system_(system), s_(stepper), recorder_(recorder), section_(section) {}

    /// Runs to the next start of a cycle; false if it does not come within twenty times the rough period.
    Result<bool> to_next() {
        const double begin = s_.time(), limit = begin + 20 * section_.period;
        const bool crossing = section_.monitor == system_.monitors();
        int seen = 0;
        const int wanted = crossing ? 1 : 2;  // a latch's set and reset make one cycle
        while (s_.time() < limit) {
            if (auto done = s_.advance(limit); !done) return done.error();
            if (recording_) record();
            // a state that was extrapolated may lie just short of the level: that crossing begins the cycle
            if (crossing && s_.time() < begin + 0.3 * section_.period) continue;
            seen += static_cast<int>(std::count(s_.fired.begin(), s_.fired.end(), section_.monitor));
            if (seen >= wanted) return true;
        }
        return false;
    }
    void start_recording(Recording& into) {
        recording_ = &into;
        recorder_.prepare(into.traces);
        s_.before_jump = [this] { sample(); };
        record();
    }

  private:
    void sample() {
        recording_->time.push_back(s_.time());
        recorder_.record(s_.moment(), recording_->traces);
    }
    void record() {
        sample();
        for (const int m : s_.fired)
            if (m < system_.monitors())
                recording_->happenings.push_back(
                    {s_.time(), circuit_.parts[system_.monitor_part(m)].designator + " switches"});
    }
    const Circuit& circuit_;
    System& system_;
    Stepper& s_;
    Recorder& recorder_;
    Section section_;
    Recording* recording_ = nullptr;
};

Eigen::VectorXd vector_of(const std::vector<double>& v) {
    return Eigen::Map<const Eigen::VectorXd>(v.data(), static_cast<Eigen::Index>(v.size()));
}
std::vector<double> list_of(const Eigen::VectorXd& v) { return {v.data(), v.data() + v.size()}; }

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
            {fmt::format("one cycle, from \"{}\" to the next time", section),
             fmt::format("found in {} cycles; the last closes to {:.1e}", cycles_run + 1, closure)}};
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
};

/// Runs on until something repeats, which sets the section, or rests, which is then the answer.
Result<std::optional<Steady>> look_for_a_cycle(Search& s) {
    s.section = {};
    for (double window = 2e-4; s.section.monitor < 0; window *= 4) {
        if (window > 1000)
            return Error{Fault::design, "circuit", "it neither rests nor repeats within 1000 s",
                         "a definite course"};
        s.stepper.set_longest_step(window / 30);
        auto seen = watch_for(s.stepper, s.system, s.stepper.time() + window);
        if (!seen) return seen.error();
        if (find_section(seen.value(), s.system, s.section)) break;
        if (window <= 1e-3 || !quiet(seen.value())) continue;
        // does it really rest, or is something slow still on its way?
        auto rest = settle_at_rest(s.system, &s.stepper.x());
        if (!rest || rest.value().oscillates) continue;
        double apart = 0;
        for (int n = 1; n <= s.system.nodes(); ++n)
            apart = std::max(apart, std::abs(rest.value().x[static_cast<std::size_t>(n)] -
                                             s.stepper.x()[static_cast<std::size_t>(n)]));
        if (apart < 0.01) return std::optional(resting(s.circuit, s.system, s.recorder, rest.value().x));
    }
    return std::optional<Steady>();
}

/// Repeats cycles until one closes, extrapolating on the way. It counts as closed when the drift of a cycle
/// and the way still to go by the extrapolation are both small twice in a row; after many cycles the drift
/// alone decides. False if the cycle was lost.
Result<bool> close_the_cycle(Search& s, Cycles& cycles, double good_enough, Steady& steady) {
    for (int k = 0; k < 2; ++k) {  // the first crossing, and one to be past what the search disturbed
        auto next = cycles.to_next();
        if (!next || !next.value()) return next;
    }
    constexpr int many = 40, enough = 120;
    Anderson extrapolation(6);
    Eigen::VectorXd q = vector_of(s.stepper.charges()), plain = q;
    std::vector<double> scale;
    bool leapt = false;
    int near = 0, lost_leaps = 0;
    // Steps that depend on the state alone make cycles comparable to rounding, so that a slow drift shows.
    const double pace = s.section.period * 1e-4;
    s.stepper.forget_pace(pace);
    for (; steady.cycles_run < enough; ++steady.cycles_run) {
        auto next = cycles.to_next();
        if (!next || !next.value()) {
            // an extrapolation that led nowhere: back to where it began, and no more of them for a while
            if (!leapt || ++lost_leaps > 4 || !s.stepper.start_from_charges(list_of(plain))) return next;
            extrapolation = Anderson(6);
            leapt = false;
            q = vector_of(s.stepper.charges());
            s.stepper.forget_pace(pace);
            continue;
        }
        const Eigen::VectorXd after = vector_of(s.stepper.charges());
        steady.closure = closure(list_of(q), s.stepper.charges(), scale);
        const Eigen::VectorXd extrapolated = extrapolation.next(q, after);
        const double to_go = closure(list_of(after), list_of(extrapolated), scale);
        near = steady.closure < 0.1 * good_enough && to_go < 0.1 * good_enough && steady.cycles_run >= 4
                   ? near + 1
                   : 0;
        if (steady.closure < 1e-7 || near > 1) break;
        if (steady.cycles_run >= many && steady.closure < 0.1 * good_enough) break;
        q = plain = after;
        s.stepper.forget_pace(pace);
        leapt = false;
        if (steady.cycles_run % 3 != 2)
            continue;  // two plain cycles between two extrapolations damp what is fast
        if (!s.stepper.start_from_charges(list_of(extrapolated)) &&
            !s.stepper.start_from_charges(list_of(plain)))
            return false;
        leapt = true;
        q = vector_of(s.stepper.charges());
    }
    s.stepper.forget_pace(pace);
    return true;
}

/// Records one cycle and what follows from it.
Result<bool> record_the_cycle(Search& s, Cycles& cycles, Steady& steady) {
    const double start = s.stepper.time();
    steady.repeats = true;
    steady.mark = s.section, steady.charges = s.stepper.charges();
    cycles.start_recording(steady.cycle);
    auto last = cycles.to_next();
    if (!last || !last.value()) return last;
    steady.period = s.stepper.time() - start;
    steady.mark.period = steady.period;
    steady.section = s.section.monitor < s.system.monitors()
                         ? s.circuit.parts[s.system.monitor_part(s.section.monitor)].designator + " switches"
                         : s.system.name(s.section.unknown) + " rising";
    const Trace& current = *steady.cycle.trace("part:" + s.circuit.source()->designator);
    steady.charge = -integral(steady.cycle.time, current.values, start, s.stepper.time());
    steady.mean_current = steady.charge / steady.period;
    for (double& t : steady.cycle.time) t -= start;
    for (auto& h : steady.cycle.happenings) h.time -= start;
    steady.cycle.end = readings_at(s.circuit, s.system, s.stepper.moment());
    steady.cycle.steps = s.stepper.steps, steady.cycle.evaluations = s.stepper.evaluations;
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
    Search search{circuit, system, recorder, stepper, {}};
    const bool warm = near && near->repeats;
    if (warm) {
        search.section = near->mark;
        stepper.set_longest_step(near->period / 8);
        stepper.forget_pace(near->period * 1e-4);
    }
    const bool placed = warm && stepper.start_from_charges(near->charges);
    if (!placed)
        if (auto started = stepper.start_from_power_up(); !started) return started.error();
    std::optional<Error> trouble;
    for (int attempt = 0; attempt < 3; ++attempt) {  // what dies away may look like a cycle at first
        if (!placed || attempt > 0) {
            auto rests = look_for_a_cycle(search);
            if (!rests) return trouble ? *trouble : rests.error();
            if (rests.value()) return std::move(*rests.value());
        }
        stepper.set_longest_step(search.section.period / 8);
        if (search.section.monitor == system.monitors())
            stepper.set_section(search.section.unknown, search.section.level);
        Cycles cycles(circuit, system, stepper, recorder, search.section);
        Steady steady;
        auto closed = close_the_cycle(search, cycles, std::max(2 * accuracy.relative, 1e-7), steady);
        if (closed && closed.value()) closed = record_the_cycle(search, cycles, steady);
        stepper.before_jump = nullptr;
        if (closed && closed.value()) return steady;
        if (placed)  // too far from there: look for it from power-up
            return steady_state(circuit, catalogue, conditions, probes, accuracy, corner);
        if (!closed) trouble = closed.error();
    }
    if (trouble) return *trouble;
    return Error{Fault::design, "circuit", "its cycle was lost", "something that repeats"};
}

}  // namespace elkit
