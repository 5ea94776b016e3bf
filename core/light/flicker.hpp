#pragma once
#include <algorithm>
#include <string>

namespace elkit {

/// How light that comes and goes is judged.
enum class Flicker { steady, no_effect, low_risk, noticed, seen };

/// Modulation [%] up to which light of this frequency [Hz] has no observable effect, and up to which the risk
/// is low (IEEE 1789-2015, figure 20: 0.01 f and 0.025 f below 90 Hz; above it 0.0333 f and 0.08 f).
/// Modulation is (most − least)/(most + least); light that goes out in between has 100 %.
inline double modulation_without_effect(double hertz) {
    return std::min(100.0, hertz * (hertz < 90 ? 0.01 : 0.1 / 3));
}
inline double modulation_of_low_risk(double hertz) {
    return std::min(100.0, hertz * (hertz < 90 ? 0.025 : 0.08));
}

/// Below this many times a second most people see pulses as such, at the edge of view.
inline constexpr double pulses_seen_below = 80;  // Hz

/// The verdict on light of this frequency [Hz] and modulation [%]; `steady` without either.
Flicker judge_flicker(double hertz, double modulation);

/// In words, with the limits: "at 1.1 kHz (100 % modulated) it may be noticed by …".
std::string flicker_text(double hertz, double modulation);

}  // namespace elkit
