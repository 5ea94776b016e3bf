#include "engine/cycles.hpp"

#include <cmath>
#include <utility>

#include "circuit/part_kind.hpp"
#include "engine/repetition.hpp"

namespace elkit {

Eigen::VectorXd Anderson::next(const Eigen::VectorXd& q, const Eigen::VectorXd& after,
                               const std::vector<double>& scale) {
    Eigen::VectorXd drift = after - q;
    for (Eigen::Index k = 0; k < drift.size(); ++k)
        drift(k) /= std::max(scale[static_cast<std::size_t>(k)], 1e-18);
    past_.push_back({after, drift});
    if (past_.size() > depth_ + 1) past_.pop_front();
    const auto m = static_cast<Eigen::Index>(past_.size()) - 1;
    if (m == 0) return after;
    Eigen::MatrixXd d(q.size(), m);
    for (Eigen::Index k = 0; k < m; ++k)
        d.col(k) = past_[static_cast<std::size_t>(k) + 1].drift - past_[static_cast<std::size_t>(k)].drift;
    Eigen::ColPivHouseholderQR<Eigen::MatrixXd> qr(d);
    qr.setThreshold(1e-7);  // what differs by less is rounding
    const Eigen::VectorXd share = qr.solve(drift);
    Eigen::VectorXd out = after;
    for (Eigen::Index k = 0; k < m; ++k)
        out -= share(k) *
               (past_[static_cast<std::size_t>(k) + 1].after - past_[static_cast<std::size_t>(k)].after);
    return out.allFinite() && share.cwiseAbs().maxCoeff() < 1e4 ? out : after;
}

Cycles::Cycles(const Circuit& circuit, System& system, Stepper& stepper, Recorder& recorder,
               const Section& section)
    : circuit_(circuit), system_(system), s_(stepper), recorder_(recorder), section_(section) {
    for (std::size_t k = 0; k < circuit.parts.size(); ++k)
        if (is(circuit.parts[k], Role::energy)) sources_.push_back(k);
}

Result<bool> Cycles::to_next(long most_steps) {
    const long before = s_.steps;
    const double begin = s_.time(), limit = begin + 20 * section_.period;
    const bool crossing = section_.monitor == system_.monitors();
    int seen = 0;
    fired_.clear();
    flow_at_pulse_ -= flow_, flow_ = 0;
    double amps = source_current();
    const int wanted = section_.turns * (crossing ? 1 : 2);  // a latch's set and reset make one cycle
    while (s_.time() < limit && s_.steps - before < most_steps) {
        const double from = s_.time();
        if (auto done = s_.advance(limit); !done) return done.error();
        const double now = source_current();
        const Stepper::Pulse& pulse = s_.pulse();
        const double left_out = static_cast<double>(pulse.left_out) * pulse.period;
        flow_ += (amps + now) / 2 * (s_.time() - left_out - from);
        amps = now;
        if (pulse.begins)
            flow_ += static_cast<double>(pulse.left_out) * (flow_ - flow_at_pulse_), flow_at_pulse_ = flow_;
        span_ = s_.time() - begin;
        note_step();
        if (section_.by_clock && !system_.clock())
            return false;  // such as a chip that its own load turns off
        // a state that was extrapolated may lie just short of the level: that crossing begins the cycle
        if (crossing && span_ < 0.3 * section_.period / section_.turns) continue;
        seen += static_cast<int>(std::count(s_.fired.begin(), s_.fired.end(), section_.monitor));
        if (seen >= wanted) return true;
    }
    return false;
}

Result<void> Cycles::run_to(double time) {
    while (s_.time() < time) {
        if (auto done = s_.advance(time); !done) return done;
        note_step();
    }
    return success();
}

void Cycles::note_step() {
    others_ = others_ ||
              std::any_of(s_.fired.begin(), s_.fired.end(), [&](int m) { return m != section_.monitor; });
    fired_.insert(s_.fired.begin(), s_.fired.end());
    if (!recording_) return;
    if (const Stepper::Pulse& pulse = s_.pulse(); pulse.left_out > 0)
        repeat_pulse(*recording_, s_.time(), pulse.period, pulse.left_out);
    record(!std::exchange(jumped_, false));
}

double Cycles::kept(const Eigen::VectorXd& before, const Eigen::VectorXd& after, int cycles) const {
    if (!(flow_ > 0)) return 0;
    double most = 0;
    for (Eigen::Index k = 1; k < before.size(); ++k)
        if (system_.is_voltage(static_cast<int>(k))) most = std::max(most, std::abs(after(k) - before(k)));
    return most / cycles / flow_;
}

void Cycles::start_recording(Recording& into) {
    into = {};
    recording_ = &into;
    s_.forget_pulse();
    recorder_.prepare(into.traces);
    s_.before_jump = [this] {
        sample(true);
        jumped_ = true;
    };
    record(false);
}

/// A through all sources, to or fro.
double Cycles::source_current() {
    double sum = 0;
    for (const std::size_t source : sources_) {
        system_.pin_currents(source, {s_.x().data(), s_.time()}, pins_);
        sum += std::abs(pins_.front());
    }
    return sum;
}

void Cycles::sample(bool step) {
    if (const auto between = s_.between(); step && between) {
        recording_->time.push_back(between->time);
        recorder_.record(*between, recording_->traces);
    }
    recording_->time.push_back(s_.time());
    recorder_.record(s_.moment(), recording_->traces);
}

void Cycles::record(bool step) {
    sample(step);
    for (const int m : s_.fired)
        if (m < system_.monitors())
            recording_->happenings.push_back(
                {s_.time(), circuit_.parts[system_.monitor_part(m)].designator + " switches"});
}

bool drifts(const std::vector<double>& before, const Eigen::VectorXd& after,
            const Eigen::VectorXd& to_and_fro, const std::vector<double>& scale, double good_enough) {
    constexpr double one_way = 0.3;
    for (std::size_t k = 0; k < before.size(); ++k) {
        const auto at = static_cast<Eigen::Index>(k);
        const double way = std::abs(after(at) - before[k]);
        if (way > good_enough * scale[k] && way > one_way * to_and_fro(at)) return true;
    }
    return false;
}

}  // namespace elkit
