#pragma once
#include "recipes/sketch.hpp"

/// Transistors as switches, as recipes use them.
namespace elkit {

inline constexpr const char* switch_mosfet = "nmos-logic";

/// A MOSFET on the net OUT that pulls `drain` to ground, with its gate's resistors.
void add_gate(Sketch& sketch, const std::string& drain, double down_ohms = 100e3);
/// How long that gate takes from 10 to 90 % [s] from a source of so many ohms, beside a cycle of `rate` [Hz].
Figure gate_time(const Sketch& sketch, double source_ohms, double rate);

/// Gate voltage [V] at which a MOSFET of a type lets so much through, at 21 °C (the engine's curve, from Enz,
/// Krummenacher & Vittoz, AICSP 8, 1995, turned round). Errors as mosfet_fit().
Result<double> gate_volts(const char* type, double amps);
/// By what part of itself its threshold differs over a batch, as the engine's.
inline constexpr double threshold_spread = 0.3;

/// V of a transistor's base at a collector current [A], at 21 °C: kT/q ln(I/Is).
double base_volts(const PartType& transistor, double collector);

/// The NPN transistor for a current: at most half of what it bears. Design error if none does.
Result<const PartType*> npn_for(double amps);

}  // namespace elkit
