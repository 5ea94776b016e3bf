// Pulses that come by the clock and change nothing any more: a dimmed light over and over at one brightness.
#include <algorithm>
#include <cmath>

#include "engine/stepper.hpp"

namespace elkit {
namespace {

constexpr double together = 1e-9;      // s, what is at one time
constexpr double leaves_open = 0.2;    // of the accuracy asked, what all that are left out may add up to
constexpr double hardly_moves = 1e-6;  // of it

}  // namespace

/// How many pulses may be left out, `most` at the most, when each changes the circuit by `drift` of what is
/// allowed as the last one did: not so many that this shows, nor as many as would bring a threshold within
/// reach.
double Stepper::pulses_to_leave_out(double most, double drift) const {
    double times = drift > 0 ? std::min(most, leaves_open / drift) : most;
    for (std::size_t k = 0; k < watch_old_.size(); ++k) {
        const double rise = watch_old_[k] - pulse_start_.watched[k];
        if (watch_old_[k] < 0 && rise > 0) times = std::min(times, -watch_old_[k] / rise - 1);
    }
    return std::floor(times);
}

/// Where a pulse begins, and the one before was like it: goes on behind all that follow alike. What still
/// moves slowly goes on in a straight line (envelope following: Petzold, SIAM J. Numer. Anal. 18, 1981); what
/// turned back since the pulse before has settled within one, and going on would swing it up.
Result<void> Stepper::leave_out_pulses(double limit) {
    if (section_) return success();  // one may lie in each
    const auto pulses = system_.pulses();
    if (!pulses || std::abs(pulses->begin - t_) > together) return success();
    pulse_ = {true, 0, pulses->period};
    const bool follows = std::abs(t_ - pulse_start_.time - pulses->period) < together && pulse_start_.calm;
    const double end = std::min(pulses->until, limit);
    const double most = std::floor((end - t_) / pulses->period + 1e-6);
    if (follows && most >= 1) {
        double drift = 0;
        for (std::size_t k = 1; k < x_.size(); ++k)
            drift = std::max(drift, std::abs(x_[k] - pulse_start_.x[k]) / weight(k));
        const double times = pulses_to_leave_out(most, drift), span = std::max(0.0, times) * pulses->period;
        if (times >= 1) {
            pulse_.left_out = static_cast<long>(times);
            system_.skip_pulses(span);
            t_ += span;
            if (std::abs(end - t_) < together) t_ = end;
            landed_ = system_.due(t_);
        }
        pulse_moved_.resize(q_.size());
        const bool goes_on = times >= 1 && drift > hardly_moves;
        for (std::size_t k = 1; k < q_.size(); ++k) {
            const double moved = q_[k] - pulse_start_.charges[k];
            if (goes_on && moved * pulse_moved_[k] >= 0) q_[k] += times * moved;
            pulse_moved_[k] = moved;
        }
        if (goes_on)
            if (auto done = make_certain(); !done) return done;
    }
    pulse_start_ = {t_, x_, q_, watch_old_, fired.empty()};
    return success();
}

}  // namespace elkit
