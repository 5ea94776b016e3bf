#pragma once
#include "circuit/part.hpp"
#include "engine/long_run.hpp"

/// What an LED may have while it is on, and whether it gets more.
namespace elkit {

inline constexpr double pulse_share =
    10.0 / 3;  // typical datasheets: 100 mA for a tenth of the time at 30 mA
/// s, of a cycle: a slower one gives the die time to get as hot as for good.
inline constexpr double pulse_longest = 0.1;

/// True if pulses of this run are short enough for the die not to follow them.
inline bool quick_pulses(const LongRun& run) { return run.moves() && run.steady().period < pulse_longest; }

/// A that an LED may have while it is on.
inline double pulse_limit(const Part& led, const LongRun& run) {
    return led.number("max_current") * (quick_pulses(run) ? pulse_share : 1);
}

/// True if it gets more than its rating on average, or than pulse_limit() while it is on.
inline bool led_overdriven(const Part& led, const LongRun& run) {
    return run.mean().part(led.designator).current > led.number("max_current") ||
           run.lasting(led.designator, led.pins.front().name) > pulse_limit(led, run);
}

}  // namespace elkit
