#pragma once
#include <vector>

#include "engine/section.hpp"
#include "engine/stepper.hpp"
#include "engine/transient.hpp"

namespace elkit {

/// Watches a run for cycles that come out alike. What follows an equal state is equal: such cycles need not
/// be computed again but can be copied. Only for circuits in which nothing follows a clock.
class Repetition {
  public:
    Repetition(const System& system, Stepper& stepper, double relative)
        : system_(system), s_(stepper), relative_(relative) {
        restart();
    }
    /// Forgets what was seen: the conditions have changed.
    void restart();
    /// After each step, with the number of samples recorded so far. True when the last two cycles closed so
    /// well that copying on to `until` adds less error than the run has anyway; then cycle_first() … are
    /// valid.
    bool closes(std::size_t samples, double until);
    bool began() const { return began_; }                     ///< the last step was the start of a cycle
    std::size_t cycle_first() const { return cycle_first_; }  ///< sample at which the last cycle began
    double period() const { return period_; }

  private:
    bool begins_cycle();
    const System& system_;
    Stepper& s_;
    double relative_;
    Window window_;
    Section section_;
    bool found_ = false, began_ = false;
    int half_ = 0, cycles_ = 0, alike_ = 0;
    std::vector<int> happening_, happened_;  // monitors that fired in this cycle and the one before
    double cycle_time_ = 0, period_ = 0, pace_ = 0;
    std::size_t cycle_first_ = 0;
    std::vector<double> charges_, scale_;
    double drift_ = 1;  // of the cycle before
};

/// Appends `times` copies of the samples behind number `first`, each `period` later.
void copy_cycle(Recording& r, std::size_t first, double period, long times);
/// Likewise of the pulse that the last sample ends, so often that it is `now`.
void repeat_pulse(Recording& r, double now, double period, long times);

}  // namespace elkit
