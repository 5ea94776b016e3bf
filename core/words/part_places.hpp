#pragma once
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "circuit/part_kind.hpp"
#include "quantity/result.hpp"

/// Where a part belongs, in the words of a line.
namespace elkit {

using Ends = std::pair<std::string, std::string>;  ///< two nets

/// "from A to B", "between A and B", "across S1", "across A B": the two nets, and the words taken out of the
/// line, wherever they stand. Nothing if the line says no such thing. Usage error for half of it.
Result<std::optional<Ends>> take_ends(std::vector<std::string>& line, const Circuit& circuit);

/// The pins of a part of this kind with their nets: both ends as they were said, the others by name from word
/// `from` on ("wiper OUT", "b on IN"), which are taken out of the line. A source of a circuit that has none
/// belongs between V+ and GND. Usage error that names the pin without a net.
Result<std::vector<Pin>> take_pins(std::vector<std::string>& line, std::size_t from, const PartKind& kind,
                                   const std::optional<Ends>& ends, const Circuit& circuit);

/// The pin that a word means: its name, another usual one ("base", "ground"), or a word that goes on as the
/// pin's name begins ("threshold"); nullptr for none.
const std::string* pin_from_word(const PartKind& kind, const std::string& typed);

/// An existing net in its own spelling; "gnd", "0", "vss" mean the negative rail, "v+", "vcc", "vdd" the
/// supply's plus, when nothing else is called so; anything else is a new net in capitals.
std::string net_from_word(const Circuit& circuit, const std::string& typed);

/// The part of the circuit with this designator in any case; nullptr if there is none.
const Part* part_from_word(const Circuit& circuit, const std::string& typed);

}  // namespace elkit
