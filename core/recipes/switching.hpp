#pragma once
#include "recipes/sketch.hpp"

/// Transistors as switches, as recipes use them.
namespace elkit {

inline constexpr const char *switch_mosfet = "nmos-logic", *high_side_mosfet = "pmos-logic";
/// V across a transistor that is on: usual, and at most.
inline constexpr double saturation = 0.1, most_across = 0.4;

/// A MOSFET on the net `input` that pulls `drain` to ground, with its gate's resistors. `number` tells the
/// second and further ones apart.
void add_gate(Sketch& sketch, const std::string& drain, double down_ohms = 100e3,
              const std::string& input = "OUT", const std::string& number = {});
/// How long that gate takes from 10 to 90 % [s] from a source of so many ohms, beside a cycle of `rate` [Hz].
Figure gate_time(const Sketch& sketch, double source_ohms, double rate);

/// Gate voltage [V] at which a MOSFET of a type lets so much through, at 21 °C (the engine's curve, from Enz,
/// Krummenacher & Vittoz, AICSP 8, 1995, turned round); of a P-channel one below its source. Errors as
/// mosfet_fit().
Result<double> gate_volts(const char* type, double amps, const char* kind = "nmos");
/// By what part of itself its threshold differs over a batch, as the engine's.
inline constexpr double threshold_spread = 0.3;

/// V of a transistor's base at a collector current [A], at 21 °C: kT/q ln(I/Is).
double base_volts(const PartType& transistor, double collector);

/// The NPN or PNP transistor for a current: at most half of what it bears. Design error if none does.
Result<const PartType*> transistor_for(const std::string& kind, double amps);
inline Result<const PartType*> npn_for(double amps) { return transistor_for("npn", amps); }

/// A that a strip takes at its ends: each row (V − n V LED)/R, at 21 °C.
double strip_current(const Part& strip, double volts);

}  // namespace elkit
