#include "engine/stepper.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

#include "engine/reach.hpp"
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
// How much a stage's last step may bend the currents, of the accuracy asked: then it is followed along the
// slopes, and nothing evaluated again.
constexpr double bent_at_most = 0.5;
constexpr double little = 0.002;       // V, a step along which a curve can be judged by its slope
constexpr int usual_rounds = 24;       // of a stage
constexpr int most_unresolved = 200;   // steps in a row
constexpr double hardly_nearer = 0.6;  // of the round before: two such rounds are enough
constexpr int impatient_attempts = 4;  // of a step; behind them it is followed to the end of its rounds
constexpr int careful_after = 3;       // steps after one that did not settle
constexpr double error_constant = (-3 * g * g + 4 * g - 2) / (12 * (2 - g));

}  // namespace

Stepper::Stepper(System& system, const Accuracy& accuracy, double longest_step)
    : system_(system), accuracy_(accuracy), longest_(longest_step), h_(longest_step * 1e-3), h_restart_(h_) {
    const auto n = static_cast<std::size_t>(system.unknowns()) + 1;
    for (auto* v : {&x_, &x_dot_, &q_, &f_, &x_mid_, &q_mid_, &f_mid_, &x_new_, &target_, &step_, &scale_,
                    &moved_, &bend_, &per_allowed_, &per_straight_, &per_weight_})
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

Result<int> Stepper::firing_with(const std::vector<double>& q) {
    q_ = q;
    forget_pulse();
    if (auto done = make_consistent(); !done) return done.error();
    return most_wanted();
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
bool Stepper::stage(std::vector<double>& x, const std::vector<double>& target, double time, double a,
                    Patience patience) {
    const double rate = 1 / a;
    double before = 0;
    Reach reach;
    int astray = 0;
    followed_ = false;
    const int most = patience == Patience::much ? 150 : usual_rounds;
    for (int round = 0; round < most; ++round) {
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
        if (blurred_ || system_.blurred()) note_allowed();
        double size = 0, bent = 0;
        for (std::size_t k = 1; k < step_.size(); ++k) {
            const double moved = std::abs(step_[k]), relative = moved * per_allowed_[k];
            if (relative > size) size = relative, worst_ = static_cast<int>(k);
            bent = std::max(bent, moved * per_straight_[k]);
        }
        const double share = round < usual_rounds ? 1 : reach.share(step_, per_allowed_, size);
        for (std::size_t k = 1; k < step_.size(); ++k) x[k] += share * step_[k];
        if (!std::isfinite(size)) return false;
        const double shrink = size / before;  // infinite in the first round
        followed_ =
            system_.linear() || (!limited && bent < 1 && share == 1 &&
                                 system_.bend(step_.data(), rate) < bent_at_most * accuracy_.relative);
        if (followed_) system_.follow(step_.data());
        if (followed_ || (!limited && (size < 0.2 || (size < 2 && size * shrink < 0.02)))) return true;
        if (patience == Patience::little && !limited && round > 0 && shrink > hardly_nearer && ++astray > 1)
            return false;  // a shorter step is found sooner than this one
        before = size;
    }
    return false;
}

/// What of each unknown a step may get wrong, and a stage leave open.
void Stepper::note_allowed() {
    blurred_ = system_.blurred();
    for (std::size_t k = 1; k < per_allowed_.size(); ++k) {
        const bool volts = system_.is_voltage(static_cast<int>(k));
        const double allowed = weight(k);
        per_weight_[k] = 1 / allowed;
        // no volt may be left less sure than a fifth of the sharpest curve
        per_allowed_[k] =
            volts && system_.blur(k) == 0 ? 1 / std::min(allowed, System::sharpest / 5) : per_weight_[k];
        per_straight_[k] = volts ? 1 / little : 5 * per_allowed_[k];
    }
}

/// Evaluates at x, the solution of a stage. Its currents are `balanced`, or further rounds bring them there:
/// in a short step a capacitor makes a large current of a voltage that stage() may leave open.
bool Stepper::balance(std::vector<double>& x, const std::vector<double>& target, double time, double a) {
    if (followed_) return true;
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
    if (!stage(x_mid_, target_, t_ + g * h, a, patience_) || !balance(x_mid_, target_, t_ + g * h, a))
        return Outcome::unsettled;
    q_mid_ = system_.q(), f_mid_ = system_.f();
    for (std::size_t k = 1; k < x_.size(); ++k) {
        target_[k] = c1 * q_mid_[k] - c2 * q_[k];
        // the parabola with the slope at the start through both points
        const double curve = (x_mid_[k] - x_[k] - g * h * x_dot_[k]) / (g * g);
        x_new_[k] = since_jump_ > 0 ? x_[k] + h * x_dot_[k] + curve : x_mid_[k];
    }
    if (!stage(x_new_, target_, t_ + h, a, patience_) || !balance(x_new_, target_, t_ + h, a))
        return Outcome::unsettled;
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
        const double own = std::abs(step_[k]) * per_weight_[k] * strictness_[k];
        if (own > error) error = own, worst_ = static_cast<int>(k);
    }
    return error;
}

void Stepper::note_scales() {
    for (std::size_t k = 1; k < x_.size(); ++k) {
        scale_[k] = std::max(scale_[k], std::abs(x_[k]));
        if (system_.is_voltage(static_cast<int>(k))) highest_ = std::max(highest_, scale_[k]);
    }
    note_allowed();
}

Moment Stepper::moment() const {
    if (jumped_) {
        const double rate = 1 / ahead_;
        return {x_settled_.data(), t_, {{{rate, x_settled_.data()}, {-rate, x_.data()}, {}}}};
    }
    const double a = g * h_taken_ / 2;
    return {x_.data(), t_, {{{1 / a, x_.data()}, {-c1 / a, x_mid_.data()}, {c2 / a, x_before_.data()}}}};
}

std::optional<Moment> Stepper::between() const {
    if (jumped_ || !(h_taken_ > 0) || !(h_last_ > 0)) return std::nullopt;
    // q' there is (q_γ − q₀)/a − q'₀, and q'₀ as moment() had it at the end of the step before
    const double a = g * h_taken_ / 2, a_last = g * h_last_ / 2;
    return Moment{x_mid_.data(),
                  t_ - (1 - g) * h_taken_,
                  {{{1 / a, x_mid_.data()},
                    {-1 / a - 1 / a_last, x_before_.data()},
                    {c1 / a_last, x_mid_last_.data()},
                    {-c2 / a_last, x_before_last_.data()}}}};
}

void Stepper::commit(double h) {
    jumped_ = false;
    h_last_ = since_jump_ > 0 ? h_taken_ : 0;
    std::swap(x_before_last_, x_before_), std::swap(x_mid_last_, x_mid_kept_);
    x_before_ = x_, x_mid_kept_ = x_mid_;
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

/// How much longer than h the next step may be: by its error, and by how the error went from step to step
/// (Gustafsson, ACM TOMS 20, 1994), so that a runaway is met with steps that shrink in time.
double Stepper::growth_after(double h, double error) {
    constexpr double least = 1e-2;  // of an error that is worth following
    const double plain = 0.85 / std::cbrt(std::max(error, 1e-9));
    const double trend = since_jump_ > 0 && error_before_ > 0
                             ? h / h_taken_ * std::cbrt(error_before_ / std::max(error, least))
                             : 1;
    error_before_ = std::max(error, least);
    return plain * std::min(trend, 1.0);
}

/// What is due now happens.
Result<void> Stepper::arrive(double limit) {
    if (before_jump) before_jump();
    system_.arrive(t_);
    if (auto done = make_certain(); !done) return done;
    return leave_out_pulses(limit);
}

Result<void> Stepper::advance(double limit) {
    fired.clear();
    pulse_ = {};
    if (std::exchange(landed_, false)) {
        std::fill(moved_.begin(), moved_.end(), 0), h_taken_ = 0;
        return arrive(limit);
    }
    const double t0 = t_;
    const double corner = system_.next_corner(t_);
    double end = std::min(limit, corner);
    double h = std::min({h_, longest_, end - t_});
    if (end - t_ < 1.5 * h) h = end - t_;              // no splinter before a fixed end
    const double least = std::max(1e-12, 1e-13 * t_);  // nothing at a bench is over within 1 ps
    for (int unsettled = 0;;) {
        patience_ = unsettled < impatient_attempts && h > 1e3 * least ? Patience::little : Patience::much;
        const Outcome outcome = attempt(h);
        double error = outcome == Outcome::good ? error_of(h) : 100;
        if (outcome != Outcome::good || error > 1) {
            ++rejected;
            // Where the clock has no finer digits, what settles faster is over: the method damps it, charges
            // stay
            const bool damped = outcome == Outcome::good && h <= least && ++unresolved_ <= most_unresolved;
            if (!damped) {
                if (h <= least)
                    return Error{Fault::design, system_.name(worst_), "it would not settle in time",
                                 "a circuit with a definite course"};
                if (outcome != Outcome::good) careful_ = careful_after, ++unsettled;
                h = outcome == Outcome::good ? h * std::clamp(0.85 / std::cbrt(error), 0.1, 0.8) : h / 4;
                h = std::max(h, least);
                h_ = h;
                factored_rate_ = 0;
                continue;
            }
            error = 0.02;  // the next step is longer
        } else {
            unresolved_ = 0;
        }
        double fraction = 0;
        int monitor = -1;
        const double most = careful_ > 0 ? 1.1 : since_jump_ < 4 ? 8.0 : 4.0;
        const double grown = h * std::clamp(growth_after(h, error), 0.3, most);
        if (careful_ > 0) --careful_;
        if (!crossing(fraction, monitor)) {
            if (since_jump_ == 0) h_restart_ = 0.5 * grown;
            const bool cut_short = h < h_;  // by a fixed end, not by its error
            const bool to_the_end = h == end - t_;
            commit(h);
            if (to_the_end) t_ = end;  // not a rounding beside it
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
    // what fires right behind something else may do so within the clock's last digit
    if (t_ == t0 && fired.empty())
        return Error{Fault::design, system_.name(worst_), "it would not go on",
                     "a circuit with a definite course"};
    if (t_ < corner || !fired.empty()) return success();
    if (system_.due(t_)) return arrive(limit);
    since_jump_ = 0;  // the slope jumps here: start anew with a careful step
    h_ = std::min(h_, std::max(h_restart_, 1e-3 * h_));
    return success();
}

}  // namespace elkit
