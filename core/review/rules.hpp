#pragma once
#include "circuit/part_kind.hpp"
#include "quantity/format.hpp"
#include "review/findings.hpp"

namespace elkit {

std::vector<Rule> light_rules();       ///< circuit faults, headroom, what fades or is turned round
std::vector<Rule> limiter_rules();     ///< what limits the current of a light
std::vector<Rule> power_rules();       ///< cells, run time, wire, supply limit
std::vector<Rule> making_rules();      ///< board, build, batch
std::vector<Rule> copper_rules();      ///< tracks of boards of copper
std::vector<Rule> circuit_rules();     ///< what kinds want around them
std::vector<Rule> recipe_rules();      ///< goals against parts and against the engine
std::vector<Rule> sight_rules();       ///< what people will see
std::vector<Rule> warmth_rules();      ///< what gets warm, and cells run too low
std::vector<Rule> pitfall_rules();     ///< mistakes that benches know by name
std::vector<Rule> timing_rules();      ///< timing parts, gates that are driven too little
std::vector<Rule> controller_rules();  ///< what a controller is told beside what its pins are joined to
std::vector<Rule> matrix_rules();      ///< matrices of lights, their data and their supply
std::vector<Rule> coil_rules();        ///< boosters that do not start, full cores
std::vector<Rule> drain_rules();       ///< dividers that drain, grounds that are apart
std::vector<Rule> stress_rules();      ///< what parts bear in the long run, supply ranges, drain when off

inline std::string amps(double a) { return format_quantity(a, Unit::ampere); }
inline std::string volts(double v) { return format_quantity(v, Unit::volt); }

/// Adds a finding; `ref` names the part, net or field.
Finding& add_finding(std::vector<Finding>& out, Severity severity, std::string station, std::string ref,
                     std::string title, std::string detail, std::string aspect = {});

/// Remedies that recipes declare for a rule, of the block with `part`; of every block if it is empty. Those
/// that the finding has already are left out: each finding gets them by its `ref`, unless its rule has put
/// them elsewhere among its own before.
void add_goal_remedies(const Design& design, const std::string& rule, const std::string& part,
                       Finding& finding);

/// What a changed circuit reads while one of its lights is on, in the long run. Errors as long_run().
Result<OperatingPoint> while_on(const Circuit& circuit, const Conditions& conditions,
                                const std::string& light, const Corner& corner = {});

/// A remedy that changes the circuit; `change` gets a copy and returns what is wrong, if anything.
Remedy circuit_remedy(std::string label, std::function<std::optional<Error>(Circuit&)> change);
Remedy set_param(std::string label, const std::string& designator, const std::string& key,
                 const ParamValue& value);
/// Exchanges the nets of two pins.
Remedy swap_pins(std::string label, const std::string& designator, const std::string& a,
                 const std::string& b);
/// Adds a part of a kind with two pins between two nets.
Remedy add_between(std::string label, const std::string& kind, double value, const std::string& first,
                   const std::string& second);
Remedy turn_round(const std::string& designator);

/// A remedy that raises the resistor in a row with a part by E24 steps until `fits` says so; none is added
/// where there is no such resistor.
void add_raised_resistor(const Evidence& e, const std::string& part, std::function<bool(const Circuit&)> fits,
                         Finding& finding);

/// A remedy that changes the source and then raises the resistors of strings, so that no light gets more than
/// before.
Remedy with_currents_kept(const Evidence& e, std::string label, std::function<void(Circuit&)> change);

/// A remedy that adds cells, four at most, until `fits`, with currents kept; none is added where the source
/// has no cells, or the design has a recipe that sizes it.
void add_more_cells(const Evidence& e, std::function<bool(const Circuit&)> fits, Finding& finding);

/// Remedies that take another type of the same kind which bears `value` of a parameter; where types do not
/// say, a larger rating of its own.
void add_larger_types(const Part& part, const std::string& param, double value, Finding& finding);

/// The kind that has a role, for remedies that add a part: its first.
const std::string& kind_with(Role role);

}  // namespace elkit
