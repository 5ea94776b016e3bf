#pragma once
#include <optional>
#include <string>
#include <vector>

#include "command/command.hpp"

namespace elkit {

/// Understands what a gadget should do: `blink 2 times a second`, `blink every 3 s with red`, `stay on for 20
/// s`; where the design has one block of that recipe it is run again, else one is added. `slower`, `faster`,
/// `longer` and `shorter` change a rate or a time by half. Nothing if the line is none of these; usage error
/// if a word of it is not understood, or the recipe cannot do it, then with what would work.
Result<std::optional<Command>> recipe_command(const std::string& line, const Design& design);

/// The same, of a line that begins with three words of a recipe or more, such as `turn on when it gets dark`:
/// these come before parts and pins.
Result<std::optional<Command>> recipe_phrase(const std::string& line, const Design& design);

/// Lines of that kind, for a design.
std::vector<std::string> recipe_lines(const Design& design);

/// What a person said after a recipe's own word, by goals: "2 times a second" is a rate. Usage error at a
/// word that no goal takes.
Result<std::map<std::string, ParamValue>> said_goals(const Recipe& recipe, const std::string& words);

}  // namespace elkit
