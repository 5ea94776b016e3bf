#pragma once
#include <string>

#include "engine/steady.hpp"
#include "quantity/unit.hpp"

namespace elkit {

/// A number to look at while something varies: a probe and how to read it, "net:OUT" by "mean".
struct Goal {
    std::string probe, reading = "mean";
    Unit unit = Unit::volt;  ///< of the number
    std::string label;       ///< "mean of OUT"
};

/// "OUT", "L1.light", "OUT period", "R1.p max": a probe as people name it and a reading of measurement().
/// Usage error for an unknown net, part or reading.
Result<Goal> goal_from_words(const Circuit& circuit, const std::string& words);

/// A reading of measurement() over a cycle that the engine found, of one of its traces. Errors as
/// measurement().
Result<double> read_cycle(const Steady& steady, const Trace& trace, const std::string& reading);

/// The goal's value: at rest, or over a cycle where the circuit repeats. Errors as steady_state(), which also
/// says what `near` is.
Result<double> evaluate(const Goal& goal, const Circuit& circuit, const Catalogue& catalogue,
                        const Conditions& conditions, const Corner& corner = {},
                        const Steady* near = nullptr);

/// Sets something by its name: a condition (battery, temperature, lux, infrared), a potentiometer or contact,
/// or a parameter as "R1.value". Usage error if there is no such thing or the value is outside its range.
Result<void> set_by_name(const std::string& name, double value, Circuit& circuit, Conditions& conditions);

}  // namespace elkit
