#pragma once
#include <optional>
#include <string>

#include "circuit/part_kind.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A part as people say it, in any order: "white 3mm led from V+ to A", "470 resistor 0.5W between P and Q",
/// "3 AA", "4k7 from A to B", "q7 npn c LAMP b IN e GND". Nothing if the line does not name a part or says
/// not where it belongs (a source of a circuit that has none belongs between V+ and GND). Usage error for a
/// word that cannot be read, a value of another unit, and a number whose unit is anyone's guess: nothing is
/// left out and nothing is guessed that describe() does not tell.
Result<std::optional<Part>> described_part(const std::string& line, const Circuit& circuit);

/// Likewise, but without its place: a kind with its types and values, "white 3mm led", "electrolytic 100u
/// 16V". Nothing if the words name no kind.
Result<std::optional<Part>> described_kind(const std::string& words);

/// The choice of a text parameter that a person's words mean: an id, or words as choice_from_words(). Errors
/// as there.
Result<std::string> choice_from_text(const PartKind& kind, const ParamInfo& info, const std::string& typed);

/// What a part will be, in full: "L3: white 5 mm LED, a on V+, k on A".
std::string describe(const Part& part);

}  // namespace elkit
