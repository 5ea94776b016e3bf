#pragma once
#include <optional>
#include <string>
#include <string_view>

#include "circuit/part.hpp"
#include "quantity/unit.hpp"

namespace elkit {

/// The part that a key of drawer_key() (circuit/part_words.hpp) stands for, without pins or designator;
/// nothing for a key that no kind of part has ("board/pad", "own/felt feet").
std::optional<Part> part_of_key(std::string_view key);

/// What a key tells, as columns of a table; empty where it tells nothing.
struct ItemWords {
    std::string kind;       ///< "resistor", "LED", "holder", "own"
    std::string value;      ///< "4.7 kΩ", "warm amber 5 mm LED"
    std::string tolerance;  ///< "1 %"
    std::string rating;     ///< "250 mW", "16 V"
    double number = 0;      ///< the value in SI units; 0 if it is no number
    Unit unit = Unit::none;
};
ItemWords words_of_key(std::string_view key);

/// The key of what has only a name: "own/felt feet 10 mm".
std::string own_key(std::string_view name);

}  // namespace elkit
