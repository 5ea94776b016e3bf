#pragma once
#include "quantity/format.hpp"
#include "review/findings.hpp"

namespace elkit {

std::vector<Rule> light_rules();    ///< LEDs, resistors, strings
std::vector<Rule> power_rules();    ///< cells, run time, wire, switch, supply limit
std::vector<Rule> making_rules();   ///< board, build, batch
std::vector<Rule> circuit_rules();  ///< pins, gates, capacitors at chips, diodes at coils
std::vector<Rule> stress_rules();   ///< what parts bear in the long run, supply ranges, drain when off

/// The long run from fresh cells with everything switched on; nullptr while it is being computed or if it
/// could not be.
const LongRun* fresh_run(const Evidence& e);

inline std::string amps(double a) { return format_quantity(a, Unit::ampere); }
inline std::string volts(double v) { return format_quantity(v, Unit::volt); }

/// Changes the recipe's goals and runs it again; fails where the design has no recipe.
template <class Change>
Remedy goals_remedy(std::string label, Change change);

/// Adds a finding; `ref` names the part, net or field.
inline Finding& add_finding(std::vector<Finding>& out, Severity severity, std::string station,
                            std::string ref, std::string title, std::string detail) {
    Finding f;
    f.severity = severity, f.station = std::move(station), f.ref = std::move(ref), f.title = std::move(title),
    f.detail = std::move(detail);
    return out.emplace_back(std::move(f));
}

}  // namespace elkit

#include "recipes/steady_light.hpp"

namespace elkit {
template <class Change>
Remedy goals_remedy(std::string label, Change change) {
    return {std::move(label), [change](const Design& design) -> Result<Design> {
                if (!design.light)
                    return Error{Fault::design, "/recipe", "there are no goals to size from",
                                 "a design made by the steady-light recipe"};
                LightGoals goals = *design.light;
                change(goals);
                return apply_steady_light(design, goals);
            }};
}
}  // namespace elkit
