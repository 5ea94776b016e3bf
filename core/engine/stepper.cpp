#include "engine/stepper.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "quantity/format.hpp"
#include "quantity/stop.hpp"

namespace elkit {
namespace {

constexpr double g = Stepper::gamma;
// q(x₁) + a f(x₁) = c1 q_γ − c2 q₀,  a = γh/2 in both stages
constexpr double c1 = 1 / (g * (2 - g)), c2 = (1 - g) * (1 - g) / (g * (2 - g));
// an error in what is held against a threshold becomes an error in time
constexpr double threshold_strictness = 50;
// What may be left over on a net, of the largest current that is not of charges. Those cancel a part of it in
// a transistor that is switched off, so that what flows in its pins can be a twentieth of it.
constexpr double balanced = 2e-6;
// No chip of this catalogue answers so fast: what switches on and on at such a pace never would at the bench.
constexpr double chatter_gap = 1e-8;  // s
constexpr int chatter_most = 1000;
constexpr const char* remedy_of_chatter = "hysteresis, or a capacitor that slows it";
constexpr double error_constant = (-3 * g * g + 4 * g - 2) / (12 * (2 - g));

}  // namespace

Stepper::Stepper(System& system, const Accuracy& accuracy, double longest_step)
    : system_(system), accuracy_(accuracy), longest_(longest_step), h_(longest_step * 1e-3), h_restart_(h_) {
    const auto n = static_cast<std::size_t>(system.unknowns()) + 1;
    for (auto* v : {&x_, &x_dot_, &q_, &f_, &x_mid_, &q_mid_, &f_mid_, &x_new_, &target_, &step_, &scale_,
                    &moved_, &bend_})
        v->assign(n, 0);
    for (auto* v : {&watch_old_, &watch_mid_, &watch_new_})
        v->assign(static_cast<std::size_t>(system.monitors()), -1);
    paces_.resize(static_cast<std::size_t>(system.monitors()));
    strictness_.assign(n, 1);
    for (const int k : system.watched_unknowns())
        strictness_[static_cast<std::size_t>(k)] = threshold_strictness;
}

Result<void> Stepper::start_at(const std::vector<double>& x) {
    x_ = x;
    system_.evaluate(x_.data(), t_, 0);
    q_ = system_.q();
    return jump();
}

Result<void> Stepper::start_from_power_up() {
    system_.initial_charges(q_.data());
    return jump();
}

Result<void> Stepper::start_from_charges(const std::vector<double>& q) {
    q_ = q;
    return jump();
}

void Stepper::set_section(int unknown, double level) {
    section_ = unknown, section_level_ = level;
    for (auto* v : {&watch_old_, &watch_mid_, &watch_new_})
        v->resize(static_cast<std::size_t>(system_.monitors()) + 1, -1);
    watch(x_, watch_old_);
}

void Stepper::watch(const std::vector<double>& x, std::vector<double>& values) const {
    system_.watch(x.data(), values.data());
    if (section_) values.back() = x[static_cast<std::size_t>(section_)] - section_level_;
}

/// Solves q(x) + a f(x) = target for x, from the x given, by Newton's method. `weight` sets what counts as
/// small; the steps of a junction shrink with their square, so one below a fifth of it is the last.
bool Stepper::stage(std::vector<double>& x, const std::vector<double>& target, double time, double a) {
    const double rate = 1 / a;
    double before = 0;
    for (int round = 0; round < 24; ++round) {
        stop_point();
        const bool limited = system_.evaluate(x.data(), time, rate);
        ++evaluations;
        if (factored_rate_ != rate || !system_.linear()) {
            undefined_ = !system_.factor();
            if (undefined_) return false;
            factored_rate_ = rate;
            ++factorisations;
        }
        const double *f = system_.f().data(), *q = system_.q().data();
        for (std::size_t k = 1; k < step_.size(); ++k) step_[k] = (target[k] - q[k]) * rate - f[k];
        // behind open contacts nothing but rounding may be left, and that moves a voltage for ever
        if (round >= 6 && !limited && system_.only_rounding(x.data(), step_.data())) return true;
        system_.solve(step_.data());
        double size = 0;
        for (std::size_t k = 1; k < step_.size(); ++k) {
            x[k] += step_[k];
            // a junction's curve bends within some 25 mV: no volt may be left less sure than a fifth of that
            const double allowed = system_.is_voltage(static_cast<int>(k)) && system_.blur(k) == 0
                                       ? std::min(weight(k), 5e-3)
                                       : weight(k);
            const double relative = std::abs(step_[k]) / allowed;
            if (relative > size) size = relative, worst_ = static_cast<int>(k);
        }
        if (!std::isfinite(size)) return false;
        if (!limited && (size < 0.2 || system_.linear())) return true;
        const double shrink = size / before;  // infinite in the first round
        if (!limited && size < 2 && size * shrink < 0.02) return true;
        before = size;
    }
    return false;
}

/// Evaluates at x, the solution of a stage. Its currents are `balanced`, or further rounds bring them there:
/// in a short step a capacitor makes a large current of a voltage that stage() may leave open.
bool Stepper::balance(std::vector<double>& x, const std::vector<double>& target, double time, double a) {
    const double rate = 1 / a;
    for (int round = 0;; ++round) {
        const bool limited = system_.evaluate(x.data(), time, rate);
        ++evaluations;
        if (system_.linear() || round == 3) return true;
        const double *f = system_.f().data(), *q = system_.q().data();
        double left = 0, charging = 0;
        for (std::size_t k = 1; k < step_.size(); ++k) {
            step_[k] = (target[k] - q[k]) * rate - f[k];
            if (!system_.is_voltage(static_cast<int>(k))) continue;
            left = std::max(left, std::abs(step_[k])), charging = std::max(charging, std::abs(f[k]));
        }
        if (!limited && (left <= balanced * charging || left <= balanced * largest_current(x))) return true;
        if (!system_.factor()) return false;
        ++factorisations;
        system_.solve(step_.data());
        for (std::size_t k = 1; k < step_.size(); ++k) x[k] += step_[k];
    }
}

/// A, the largest current into any pin at x; what only charges move is not counted.
double Stepper::largest_current(const std::vector<double>& x) {
    double largest = 0;
    for (std::size_t part = 0; part < system_.parts(); ++part) {
        system_.pin_currents(part, {x.data()}, currents_);
        for (const double i : currents_) largest = std::max(largest, std::abs(i));
    }
    return largest;
}

Stepper::Outcome Stepper::attempt(double h) {
    const double a = g * h / 2;
    for (std::size_t k = 1; k < x_.size(); ++k) {
        target_[k] = q_[k] - a * f_[k];
        // along the last step's parabola; a slope after a jump may die at once
        x_mid_[k] = x_[k] + (since_jump_ > 0 ? g * h * (x_dot_[k] + g * h * bend_[k]) : 0);
    }
    if (!stage(x_mid_, target_, t_ + g * h, a) || !balance(x_mid_, target_, t_ + g * h, a))
        return Outcome::unsettled;
    q_mid_ = system_.q(), f_mid_ = system_.f();
    for (std::size_t k = 1; k < x_.size(); ++k) {
        target_[k] = c1 * q_mid_[k] - c2 * q_[k];
        // the parabola with the slope at the start through both points
        const double curve = (x_mid_[k] - x_[k] - g * h * x_dot_[k]) / (g * g);
        x_new_[k] = since_jump_ > 0 ? x_[k] + h * x_dot_[k] + curve : x_mid_[k];
    }
    if (!stage(x_new_, target_, t_ + h, a) || !balance(x_new_, target_, t_ + h, a)) return Outcome::unsettled;
    return Outcome::good;
}

/// Largest local error against its allowance: the divided difference of dq/dt = −f over the three points,
/// brought from charges to unknowns by the step's own matrix.
double Stepper::error_of(double h) {
    const double a = g * h / 2;
    const double* f = system_.f().data();
    const double w0 = 1 / g, w1 = -1 / (g * (1 - g)), w2 = 1 / (1 - g);
    for (std::size_t k = 1; k < step_.size(); ++k)
        step_[k] = -2 * error_constant * h * (w0 * f_[k] + w1 * f_mid_[k] + w2 * f[k]) / a;
    system_.solve(step_.data());
    double error = 0;
    for (std::size_t k = 1; k < step_.size(); ++k) {
        const double own = std::abs(step_[k]) / weight(k) * strictness_[k];
        if (own > error) error = own, worst_ = static_cast<int>(k);
    }
    return error;
}

void Stepper::note_scales() {
    for (std::size_t k = 1; k < x_.size(); ++k) {
        scale_[k] = std::max(scale_[k], std::abs(x_[k]));
        if (system_.is_voltage(static_cast<int>(k))) highest_ = std::max(highest_, scale_[k]);
    }
}

Moment Stepper::moment() const {
    if (jumped_) {
        const double rate = 1 / ahead_;
        return {x_settled_.data(), t_, {{{rate, x_settled_.data()}, {-rate, x_.data()}, {}}}};
    }
    const double a = g * h_taken_ / 2;
    return {x_.data(), t_, {{{1 / a, x_.data()}, {-c1 / a, x_mid_.data()}, {c2 / a, x_before_.data()}}}};
}

void Stepper::commit(double h) {
    jumped_ = false;
    x_before_ = x_;
    const double a = g * h / 2;
    const double *f = system_.f().data(), *q = system_.q().data();
    // ∫ over the step of the parabola through 0, γ, 1
    const double m1 = 1 / (6 * g * (1 - g)), m2 = (2 - 3 * g) / (6 * (1 - g)), m0 = 1 - m1 - m2;
    for (std::size_t k = 1; k < x_.size(); ++k) {
        const double slope = (x_new_[k] - c1 * x_mid_[k] + c2 * x_[k]) / a;
        bend_[k] = since_jump_ > 0 ? (slope - x_dot_[k]) / (2 * h) : 0;
        x_dot_[k] = slope;
        moved_[k] = h * (m0 * f_[k] + m1 * f_mid_[k] + m2 * f[k]);
        x_[k] = x_new_[k], f_[k] = f[k], q_[k] = q[k];
    }
    note_scales();
    t_ += h;
    h_taken_ = h;
    std::swap(watch_old_, watch_new_);
    ++steps, ++since_jump_;
}

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
        const double d1 = (y1 - y0) / g, d2 = ((y2 - y1) / (1 - g) - d1);
        const double b = d1 - d2 * g;
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

Result<void> Stepper::advance(double limit) {
    fired.clear();
    const double t0 = t_;
    const double corner = system_.next_corner(t_);
    double end = std::min(limit, corner);
    double h = std::min({h_, longest_, end - t_});
    if (end - t_ < 1.5 * h) h = end - t_;  // no splinter before a fixed end
    const double least = std::max(1e-18, 1e-13 * t_);
    for (;;) {
        const Outcome outcome = attempt(h);
        const double error = outcome == Outcome::good ? error_of(h) : 100;
        if (outcome != Outcome::good || error > 1) {
            ++rejected;
            if (h <= least)
                return Error{Fault::design, system_.name(worst_), "it would not settle in time",
                             "a circuit with a definite course"};
            h = outcome == Outcome::good ? h * std::clamp(0.85 / std::cbrt(error), 0.1, 0.8) : h / 6;
            h_ = h;
            factored_rate_ = 0;
            continue;
        }
        double fraction = 0;
        int monitor = -1;
        const double grown =
            h * std::clamp(0.85 / std::cbrt(std::max(error, 1e-9)), 0.3, since_jump_ < 4 ? 8.0 : 4.0);
        if (!crossing(fraction, monitor)) {
            if (since_jump_ == 0) h_restart_ = 0.5 * grown;
            const bool cut_short = h < h_;  // by a fixed end, not by its error
            commit(h);
            h_ = cut_short ? std::max(h_, grown) : grown;
            break;
        }
        double high = h;
        if (!locate(monitor, fraction, high)) {
            h = high / 2;
            continue;
        }
        commit(high);
        if (monitor == system_.monitors()) {  // the section: a mark, nothing changes
            fired.push_back(monitor);
            watch_old_.back() = 1e-300;
            break;
        }
        if (before_jump) before_jump();
        if (auto done = fire_all(monitor); !done) return done;
        break;
    }
    if (t_ == t0)
        return Error{Fault::design, system_.name(worst_), "it would not go on",
                     "a circuit with a definite course"};
    if (t_ >= corner && fired.empty()) {  // the slope jumps here: start anew with a careful step
        since_jump_ = 0;
        h_ = std::min(h_, std::max(h_restart_, 1e-3 * h_));
    }
    return success();
}

Result<void> Stepper::fire_all(int first) {
    int next = first;
    for (int round = 0; next >= 0; ++round) {
        if (round > 40)
            return Error{Fault::design, system_.monitor_name(next), "it switches over and over at one moment",
                         remedy_of_chatter};
        Pace& pace = paces_[static_cast<std::size_t>(next)];
        pace.quick = t_ - pace.last < chatter_gap ? pace.quick + 1 : 0;
        pace.last = t_;
        if (pace.quick > chatter_most)
            return Error{Fault::design, system_.monitor_name(next),
                         fmt::format("it switches {} times, each less than {} after the one before",
                                     pace.quick, format_quantity(chatter_gap, Unit::second)),
                         remedy_of_chatter};
        system_.fire(next);
        fired.push_back(next);
        if (auto done = make_consistent(); !done) return done;
        next = most_wanted();
    }
    return success();
}

Result<void> Stepper::jump() {
    if (auto done = make_consistent(); !done) return done;
    const int next = most_wanted();
    return next >= 0 ? fire_all(next) : Result<void>(success());
}

int Stepper::most_wanted() const {
    const auto end = watch_old_.begin() + system_.monitors();
    const auto most = std::max_element(watch_old_.begin(), end);
    return most != end && *most > 0 ? static_cast<int>(most - watch_old_.begin()) : -1;
}

/// A step of no length to speak of by backward Euler: the charges stay, what has none finds its new place.
Result<void> Stepper::make_consistent() {
    const double a = std::max(1e-13 * longest_, 1e-19);
    factored_rate_ = 0;
    x_new_ = x_;
    std::vector<double> kept = scale_;
    for (std::size_t k = 1; k < scale_.size(); ++k)
        scale_[k] = std::max(scale_[k], system_.is_voltage(static_cast<int>(k)) ? 1.0 : 0.0);
    const bool settled = stage(x_new_, q_, t_, a);
    scale_ = kept;
    if (!settled) {
        x_new_.assign(x_new_.size(), 0);
        system_.forget_junctions();
        factored_rate_ = 0;
        const bool settled_anew = stage(x_new_, q_, t_, a);
        if (!settled_anew && undefined_)
            return Error{Fault::design, "circuit",
                         "nothing but a capacitor or an open contact holds some net",
                         "a resistor (10 MΩ will do) from what hangs free to the rail"};
        if (!settled_anew)
            return Error{Fault::design, system_.name(worst_), "it would not settle after a jump",
                         "a circuit with a definite state"};
    }
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
