#pragma once
#include <optional>
#include <string>
#include <vector>

#include "circuit/part_kind.hpp"
#include "quantity/result.hpp"

/// Values of a part in the words of a line.
namespace elkit {

/// True if the word says its unit: "16v", "3w", "470ω"; not "4k7".
bool says_unit(const std::string& word, Unit unit);

/// What in the line a plain word was made of, as it was typed: "100 nF" or "100nF" of "100nf".
std::string as_typed(const std::string& word, const std::vector<std::string>& line);

/// "3", "3x", "2×": how many cells; nothing if the word or the kind does not say a number of pieces.
std::optional<double> pieces_of(const std::string& word, const PartKind& kind);

/// Sets the parameter that the word gives: the kind's value first, others where the word says their unit.
/// `line` is the line as typed. Usage error for a value out of range, a number whose unit is anyone's guess
/// and a word that is no value, with what could stand there.
Result<void> take_value(const std::string& word, const std::vector<std::string>& line, const PartKind& kind,
                        Part& part);

}  // namespace elkit
