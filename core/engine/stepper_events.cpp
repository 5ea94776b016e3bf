// What happens at one moment: thresholds that are crossed within a step, what fires there, and the state
// behind it.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "engine/stepper.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

// What switches on and on with nothing between but its own delay, or faster than any chip answers, has no
// course that anybody would want to see.
constexpr double chatter_gap = 1e-8;  // s, of what has no delay
constexpr int chatter_most = 1000, delayed_chatter_most = 20000;
constexpr const char* remedy_of_chatter = "hysteresis, or a capacitor that slows it";

}  // namespace

bool Stepper::crossing(double& fraction, int& monitor) {
    monitor = -1, fraction = 2;
    if (watch_old_.empty()) return false;
    watch(x_new_, watch_new_);
    bool mid = false;
    for (std::size_t k = 0; k < watch_new_.size(); ++k) {
        const double y0 = watch_old_[k], y2 = watch_new_[k];
        if (!(y2 > 0) || y0 > 0) continue;
        if (!mid) watch(x_mid_, watch_mid_), mid = true;
        // root of the parabola through 0, γ, 1; the chord where that has none in between
        const double y1 = watch_mid_[k];
        const double d1 = (y1 - y0) / gamma, d2 = ((y2 - y1) / (1 - gamma) - d1);
        const double b = d1 - d2 * gamma;
        double root = 2;
        const double disc = b * b - 4 * d2 * y0;
        if (std::abs(d2) > 1e-12 * std::abs(d1) && disc >= 0) {
            const double s = -0.5 * (b + std::copysign(std::sqrt(disc), b));
            for (const double r : {s / d2, s != 0 ? y0 / s : 2.0})
                if (r >= 0 && r <= 1) root = std::min(root, r);
        }
        if (root > 1) root = -y0 / (y2 - y0);
        if (root < fraction) fraction = root, monitor = static_cast<int>(k);
    }
    return monitor >= 0;
}

/// Shortens the step `high` to where the monitor is just past zero, by regula falsi on its length, and leaves
/// the state there attempted. False if a step of the length found does not succeed.
bool Stepper::locate(int monitor, double fraction, double& high) {
    const double h = high;
    const auto at = static_cast<std::size_t>(monitor);
    double low = 0, low_value = watch_old_[at], high_value = watch_new_[at];
    const double accurate = std::max(1e-9 * h, 4e-16 * (t_ + h));
    double trial = std::clamp(fraction, 1e-9, 1.0) * h;
    int side = 0;
    for (int round = 0; round < 40 && high - low > accurate; ++round) {
        trial = std::clamp(trial, low + 0.25 * accurate, high - 0.25 * accurate);
        factored_rate_ = 0;
        if (attempt(trial) != Outcome::good) break;
        watch(x_new_, watch_new_);
        const double value = watch_new_[at];
        const double slope = (high_value - low_value) / (high - low);
        if (value > 0)
            high = trial, high_value = value, low_value *= side == 1 ? 0.5 : 1, side = 1;
        else
            low = trial, low_value = value, high_value *= side == -1 ? 0.5 : 1, side = -1;
        if (value > 0 && slope > 0 && value < slope * accurate) break;
        // aim a hair beyond the root, so that the bracket closes from both sides
        const double root = low - low_value * (high - low) / (high_value - low_value);
        trial = root + 0.3 * accurate;
    }
    if (trial == high) return true;
    factored_rate_ = 0;
    if (attempt(high) != Outcome::good) return false;
    watch(x_new_, watch_new_);
    return true;
}

Result<void> Stepper::fire_all(int first) {
    forget_pulse();
    int next = first;
    for (int round = 0; next >= 0; ++round) {
        if (round > 40)
            return Error{Fault::design, system_.monitor_name(next), "it switches over and over at one moment",
                         remedy_of_chatter};
        Pace& pace = paces_[static_cast<std::size_t>(next)];
        const double delay = system_.delay(next), gap = std::max(chatter_gap, 4 * delay);
        pace.quick = t_ - pace.last < gap ? pace.quick + 1 : 0;
        pace.last = t_;
        if (pace.quick > (delay > 0 ? delayed_chatter_most : chatter_most))
            return Error{Fault::design, system_.monitor_name(next),
                         fmt::format("it switches {} times, each less than {} after the one before",
                                     pace.quick, format_quantity(gap, Unit::second)),
                         remedy_of_chatter};
        fired.push_back(next);
        if (!system_.fire(next, t_)) {  // decided, and shown later
            watch(x_, watch_old_);
        } else if (auto done = make_consistent(); !done) {
            return done;
        }
        next = most_wanted();
    }
    return success();
}

Result<void> Stepper::make_certain() {
    if (auto done = make_consistent(); !done) return done;
    const int next = most_wanted();
    return next >= 0 ? fire_all(next) : Result<void>(success());
}

int Stepper::most_wanted() const {
    const auto end = watch_old_.begin() + system_.monitors();
    const auto most = std::max_element(watch_old_.begin(), end);
    return most != end && *most > 0 ? static_cast<int>(most - watch_old_.begin()) : -1;
}

/// Solves for what the charges leave open, within a step of `a` [s], from where it is or else from nothing.
bool Stepper::settle_within(double a) {
    factored_rate_ = 0;
    x_new_ = x_;
    if (stage(x_new_, q_, t_, a)) return true;
    x_new_.assign(x_new_.size(), 0);
    system_.forget_junctions();
    factored_rate_ = 0;
    return stage(x_new_, q_, t_, a);
}

/// A step of no length to speak of by backward Euler: the charges stay, what has none finds its new place.
Result<void> Stepper::make_consistent() {
    double a = std::max(1e-13 * longest_, 1e-19);
    std::vector<double> kept = scale_;
    for (std::size_t k = 1; k < scale_.size(); ++k)
        scale_[k] = std::max(scale_[k], system_.is_voltage(static_cast<int>(k)) ? 1.0 : 0.0);
    note_allowed();
    // the last digit of a large charge is a current too in so short a step, and may drown what holds a net
    bool settled = settle_within(a);
    for (int longer = 0; !settled && !undefined_ && longer < 3; ++longer) settled = settle_within(a *= 100);
    scale_ = kept;
    note_allowed();
    if (!settled && undefined_)
        return Error{Fault::design, "circuit", "nothing but a capacitor or an open contact holds some net",
                     "a resistor (10 MΩ will do) from what hangs free to the rail"};
    if (!settled)
        return Error{Fault::design, system_.name(worst_), "it would not settle after a jump",
                     "a circuit with a definite state"};
    x_ = x_new_;
    system_.evaluate(x_.data(), t_, 1 / a);
    ++evaluations;
    f_ = system_.f();
    // where the unknowns are heading, from a short look ahead
    ahead_ = 1e-6 * longest_;
    for (std::size_t k = 1; k < x_.size(); ++k) target_[k] = system_.q()[k];
    const bool known = stage(x_new_, target_, t_, ahead_);
    for (std::size_t k = 1; k < x_.size(); ++k) x_dot_[k] = known ? (x_new_[k] - x_[k]) / ahead_ : 0;
    x_settled_ = known ? x_new_ : x_;
    jumped_ = true;
    system_.evaluate(x_.data(), t_, 1 / a);
    note_scales();
    watch(x_, watch_old_);
    factored_rate_ = 0;
    h_ = std::min(h_, std::max(h_restart_, 1e-6 * longest_));
    since_jump_ = 0;
    return success();
}

}  // namespace elkit
