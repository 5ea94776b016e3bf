#pragma once
#include <array>
#include <optional>
#include <string>
#include <vector>

#include "design/design.hpp"
#include "engine/conditions.hpp"
#include "quantity/result.hpp"
#include "quantity/unit.hpp"
#include "recipes/recipe.hpp"

namespace elkit {

/// Something the window can do by name, offered by the do-anything line.
struct ActionName {
    std::string id, label;
    bool station = false;  ///< a place to go to
};

/// What a line of plain words means, and what it will do.
struct Command {
    enum class Kind { station, action, edit, condition, show } kind = Kind::action;
    std::string id;                        ///< station or action id; to show: "net:NAME" or "value:R1"
    std::string preview;                   ///< "R1: 82 Ω → 100 Ω"
    std::optional<Design> design;          ///< for an edit
    std::optional<Conditions> conditions;  ///< for a condition
};

/// Understands a station or action by name; a part or net to show, `r1` or `show OUT`; `r1 = 82`, `r1
/// tolerance 1%`, `b1 = LR03`, `b1 count 4`, `l1 = red-5mm`; insertions and edits of the circuit
/// (command/circuit_command.hpp); what it should do
/// (command/recipe_command.hpp); goals of the design's blocks by their declared names, `current = 15mA`,
/// `cells = 4`, `led = red-5mm`; `run time = 80`, `kits = 60`; conditions `battery 62 %`, `temperature 5`,
/// `s1 on`, `s1 off`. Usage error that says what was expected.
Result<Command> parse_command(const std::string& text, const Design& design, const Conditions& conditions,
                              const std::vector<ActionName>& actions = {});

/// What a person typed for a goal: a quantity, or one of its choices by id or label. Usage error at `name`.
Result<ParamValue> goal_value(const GoalInfo& goal, const std::string& typed, const std::string& name);

/// A goal's value for people: a quantity, the name of a choice, pairs as they are typed.
std::string goal_text(const GoalInfo& goal, const ParamValue& value);

/// Measured points as people type them: "5mA 1.98V; 20mA 2.12V"; `axes` as in ParamInfo.
std::string points_text(const PointList& points,
                        const std::array<Unit, 2>& axes = {Unit::ampere, Unit::volt});

/// The design with one parameter of one part set from what a person typed. Usage error naming part and
/// parameter.
Result<Design> set_parameter(const Design& design, const std::string& designator, const std::string& key,
                             const std::string& typed);

}  // namespace elkit
