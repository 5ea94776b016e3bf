#pragma once
#include <string>

#include "circuit/part.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// A circuit without some of its lights, and where they hung.
struct LightsPlace {
    Circuit circuit;          ///< the rest
    std::string plus, minus;  ///< the nets between which they hung, the positive side first
};

/// Takes out the strings of LEDs of the type that the first string has, with their resistors, own and shared;
/// a circuit without LEDs has its place between the nets of its source. Design error without a source, and
/// where those lights hang between more than two nets.
Result<LightsPlace> without_lights(const Circuit& circuit);

/// Lights of another circuit put in such a place: its parts but for its source, whose nets become those of
/// the place. Other nets and designators become free ones of `taken`: of the circuit as it was where blocks
/// own its lights, who would take new parts of their names for theirs.
Circuit with_lights(LightsPlace place, const Circuit& lights, const Circuit& taken);

}  // namespace elkit
