#pragma once
#include <QString>

#include "circuit/part.hpp"
#include "light/light.hpp"

namespace elkit {

/// What a circuit's strings are, in a line: "2 strings of 3 × white 5 mm LED and 8 others". One string at
/// least.
QString strings_in_words(const LightResult& light, const Circuit& circuit);

}  // namespace elkit
