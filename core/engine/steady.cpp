#include "engine/steady.hpp"

#include <fmt/format.h>

#include <Eigen/Dense>
#include <algorithm>
#include <cmath>
#include <deque>

#include "circuit/connectivity.hpp"
#include "engine/measure.hpp"
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
            if (recording_ && !s_.fired.empty()) sample(s_.x_before_jump(), s_.x_dot_before_jump());
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
        record();
    }

  private:
    void sample(const std::vector<double>& x, const std::vector<double>& x_dot) {
        recording_->time.push_back(s_.time());
        recorder_.record(x.data(), x_dot.data(), s_.time(), recording_->traces);
    }
    void record() {
        sample(s_.x(), s_.x_dot());
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
    recorder.record(x.data(), nullptr, 0, steady.cycle.traces);
    steady.cycle.end = readings_at(circuit, system, x.data());
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

Result<Steady> steady_state(const Circuit& circuit, const Catalogue& catalogue, const Conditions& conditions,
                            const std::vector<std::string>& probes, const Accuracy& accuracy,
                            const Corner& corner) {
    if (auto errors = connectivity_errors(circuit); !errors.empty()) return errors.front();
    auto built = System::build(circuit, catalogue, conditions, corner);
    if (!built) return built.error();
    System& system = built.value();
    const std::string source = "part:" + circuit.source()->designator;
    Recorder recorder(circuit, catalogue, system);
    for (const auto& probe : probes)
        if (auto added = recorder.add(probe); !added) return added.error();
    if (auto added = recorder.add(source); !added) return added.error();
    double window = 2e-4;
    Section section;
    Stepper stepper(system, accuracy, window / 20);
    if (auto started = stepper.start_from_power_up(); !started) return started.error();
    for (; section.monitor < 0; window *= 4) {
        if (window > 1000)
            return Error{Fault::design, "circuit", "it neither rests nor repeats within 1000 s",
                         "a definite course"};
        stepper.set_longest_step(window / 30);
        auto seen = watch_for(stepper, system, stepper.time() + window);
        if (!seen) return seen.error();
        if (find_section(seen.value(), system, section)) break;
        if (window > 1e-3 && quiet(seen.value())) {
            // does it really rest, or is something slow still on its way?
            auto rest = settle_at_rest(system, &stepper.x());
            if (rest && !rest.value().oscillates) {
                double apart = 0;
                for (int n = 1; n <= system.nodes(); ++n)
                    apart = std::max(apart, std::abs(rest.value().x[static_cast<std::size_t>(n)] -
                                                     stepper.x()[static_cast<std::size_t>(n)]));
                if (apart < 0.01) return resting(circuit, system, recorder, rest.value().x);
            }
        }
    }
    stepper.set_longest_step(section.period / 8);
    if (section.monitor == system.monitors()) stepper.set_section(section.unknown, section.level);
    Cycles cycles(circuit, system, stepper, recorder, section);
    const Error lost{Fault::design, "circuit", "its cycle was lost", "something that repeats"};
    for (int k = 0; k < 2; ++k) {  // the first crossing, and one to be past what the search disturbed
        auto next = cycles.to_next();
        if (!next) return next.error();
        if (!next.value()) return lost;
    }
    Steady steady;
    steady.repeats = true;
    Anderson extrapolation(6);
    Eigen::VectorXd q = vector_of(stepper.charges());
    std::vector<double> scale;
    const double good_enough = std::max(2 * accuracy.relative, 1e-7);
    // Steps that depend on the state alone make cycles comparable to rounding, so that a slow drift shows.
    const double pace = section.period * 1e-4;
    stepper.forget_pace(pace);
    for (; steady.cycles_run < 120; ++steady.cycles_run) {
        auto next = cycles.to_next();
        if (!next) return next.error();
        if (!next.value()) return lost;
        const Eigen::VectorXd after = vector_of(stepper.charges());
        steady.closure = closure(list_of(q), stepper.charges(), scale);
        if (steady.closure < 1e-7 || (steady.cycles_run >= 40 && steady.closure < 0.1 * good_enough)) break;
        const Eigen::VectorXd extrapolated = extrapolation.next(q, after);
        q = after;
        stepper.forget_pace(pace);
        if (steady.cycles_run % 3 != 2)
            continue;  // two plain cycles between two extrapolations damp what is fast
        if (!stepper.start_from_charges(list_of(extrapolated))) return lost;
        q = vector_of(stepper.charges());
    }
    const double start = stepper.time();
    stepper.forget_pace(pace);
    cycles.start_recording(steady.cycle);
    auto last = cycles.to_next();
    if (!last) return last.error();
    if (!last.value()) return lost;
    steady.period = stepper.time() - start;
    steady.section = section.monitor < system.monitors()
                         ? circuit.parts[system.monitor_part(section.monitor)].designator + " switches"
                         : system.name(section.unknown) + " rising";
    const Trace& current = *steady.cycle.trace(source);
    steady.charge = -integral(steady.cycle.time, current.values, start, stepper.time());
    steady.mean_current = steady.charge / steady.period;
    for (double& t : steady.cycle.time) t -= start;
    for (auto& h : steady.cycle.happenings) h.time -= start;
    steady.cycle.end =
        readings_at(circuit, system, stepper.x().data(), stepper.x_dot().data(), stepper.time());
    steady.cycle.steps = stepper.steps, steady.cycle.evaluations = stepper.evaluations;
    return steady;
}

}  // namespace elkit
