#pragma once
#include <algorithm>
#include <functional>
#include <optional>
#include <vector>

#include "engine/system.hpp"
#include "engine/transient.hpp"

namespace elkit {

/// Carries a system from one moment to the next. simulate() and steady_state() drive it.
class Stepper {
  public:
    Stepper(System& system, const Accuracy& accuracy, double longest_step);

    /// Starts from unknowns at rest, or from the charges of power-up. Error: what would not settle.
    Result<void> start_at(const std::vector<double>& x);
    Result<void> start_from_power_up();

    /// One accepted step, not beyond `limit` [s]; whatever fires at its end is put in `fired`.
    Result<void> advance(double limit);
    /// After the conditions changed: charges stay, all else becomes consistent; what fires is added to
    /// `fired`.
    Result<void> jump() {
        forget_pulse();
        return make_certain();
    }

    double time() const { return t_; }
    double last_step() const { return h_taken_; }
    void set_longest_step(double seconds) { longest_ = seconds; }
    const std::vector<double>& x() const { return x_; }
    /// What to show of this time, with currents that balance: x(), or right after a jump what is a millionth
    /// of the longest step later, when what no step would follow (picofarads behind an ohm) has settled. Good
    /// until the next advance() or jump().
    Moment moment() const;
    /// The stage of the last step, at time() − last_step()·(1 − γ), with currents that balance; nothing right
    /// after a jump and of the first step behind it. Good as long as moment().
    std::optional<Moment> between() const;
    const std::vector<double>& x_dot() const { return x_dot_; }
    const std::vector<double>& x_between() const { return x_mid_; }  ///< at time() − last_step()·(1 − γ)
    double highest() const { return highest_; }                      ///< V, of any net up to now
    /// ∫ f dt over the last step, by the parabola through its three points.
    const std::vector<double>& moved() const { return moved_; }
    const std::vector<double>& charges() const { return q_; }
    /// Called where a step ends because something will fire, before it does: x() and all devices are still as
    /// they were.
    std::function<void()> before_jump;
    std::vector<int> fired;  ///< monitors that fired at the end of the last step
    /// Of pulses that a device gives by the clock: whether one began at the end of the last step, and how
    /// many like the one before have been left out there. time() is behind them already.
    struct Pulse {
        bool begins = false;
        long left_out = 0;
        double period = 0;  ///< s
    };
    const Pulse& pulse() const { return pulse_; }
    /// The pulse that is going on is not taken for one like others.
    void forget_pulse() { pulse_start_.calm = false; }
    /// Starts from charges that some earlier state had; latches stay as they are.
    Result<void> start_from_charges(const std::vector<double>& q);
    /// The monitor that would fire with such charges, −1 if none would: nothing does yet, and it is to be
    /// started from these or others.
    Result<int> firing_with(const std::vector<double>& q);
    /// Also stops steps exactly where this unknown rises through `level`; it fires as number
    /// system.monitors(). Nothing changes there.
    void set_section(int unknown, double level);
    /// Goes on as if `span` seconds had passed in a state that repeats.
    void skip(double span) { t_ += span, system_.skip(span); }
    /// As if all had stood still until then but the clocks, which go on. False, and nothing done, if
    /// something is due before.
    bool leap_to(double time) {
        if (system_.next_corner(t_) < time) return false;
        t_ = std::max(t_, time), forget_pulse();
        return true;
    }
    /// Makes what follows depend on the state only, not on how the steps came here.
    void forget_pace(double step) {
        h_ = h_restart_ = step, error_before_ = 0, careful_ = 0;
        std::fill(bend_.begin(), bend_.end(), 0.0);
    }

    long steps = 0, rejected = 0, evaluations = 0, factorisations = 0;

    static constexpr double gamma = 0.58578643762690495;  ///< 2 − √2: both stages share one matrix

  private:
    enum class Outcome { good, too_coarse, unsettled };
    Outcome attempt(double h);
    enum class Patience { little, much };  ///< with rounds that bring a stage no nearer
    bool stage(std::vector<double>& x, const std::vector<double>& target, double time, double a,
               Patience patience = Patience::much);
    Patience patience_ = Patience::much;  // of the stages of an attempt
    bool followed_ = false;               // f() and q() are those at the end of the last stage
    void note_allowed();
    bool blurred_ = false;  // when that was noted
    bool balance(std::vector<double>& x, const std::vector<double>& target, double time, double a);
    double largest_current(const std::vector<double>& x);
    double error_of(double h);
    double growth_after(double h, double error);
    void commit(double h);
    void note_scales();
    /// A monitor that rose through zero in the step just tried; its time as a fraction of the step.
    bool crossing(double& fraction, int& monitor);
    bool locate(int monitor, double fraction, double& high);
    double weight(std::size_t k) const {
        // a net of a few millivolts need not be known better than to a small share of what the others carry
        if (!system_.is_voltage(static_cast<int>(k)))
            return accuracy_.relative * scale_[k] + accuracy_.others;
        const double asked = accuracy_.relative * std::max(scale_[k], 0.03 * highest_) + accuracy_.volts;
        // what hangs by leaks alone, behind open contacts say, is known no better than rounding leaves it
        return std::max(asked, 10 * system_.blur(k) * highest_);
    }
    Result<void> arrive(double limit);
    Result<void> leave_out_pulses(double limit);
    double pulses_to_leave_out(double most, double drift) const;
    Result<void> make_consistent();
    Result<void> make_certain();  ///< consistent, and all has fired that wants to
    bool settle_within(double a);
    Result<void> fire_all(int first);
    int most_wanted() const;  ///< the monitor furthest above zero; −1 if none

    System& system_;
    Accuracy accuracy_;
    double longest_;
    double t_ = 0, h_ = 0, h_taken_ = 0, h_restart_ = 0, highest_ = 0, error_before_ = 0, h_last_ = 0;
    int since_jump_ = 0, worst_ = 1, unresolved_ = 0, careful_ = 0;
    bool undefined_ = false;    // the last stage failed for a matrix without a solution
    double factored_rate_ = 0;  // 0: none
    std::vector<double> x_, x_dot_, q_, f_, x_mid_, q_mid_, f_mid_, x_new_, target_, step_, scale_, moved_,
        strictness_, bend_, x_before_, x_settled_, currents_, per_allowed_, per_straight_, per_weight_,
        x_mid_kept_, x_mid_last_, x_before_last_;
    bool jumped_ = false;  // nothing but make_consistent() since
    double ahead_ = 0;     // s, how far it looked ahead
    void watch(const std::vector<double>& x, std::vector<double>& values) const;
    std::vector<double> watch_old_, watch_mid_, watch_new_;
    struct Pace {
        double last = -1;  // s, when this monitor fired
        int quick = 0;     // how often in a row it did so soon after the time before
    };
    std::vector<Pace> paces_;  // by monitor
    Pulse pulse_;
    struct PulseStart {
        double time = -1;  // s
        std::vector<double> x, charges, watched;
        bool calm = false;  // nothing has fired since
    } pulse_start_;
    bool landed_ = false;              // pulses were left out up to where something else is due
    std::vector<double> pulse_moved_;  // A s, over the last pulse that others were like
    int section_ = 0;                  // unknown of the section; 0: none
    double section_level_ = 0;
};

}  // namespace elkit
