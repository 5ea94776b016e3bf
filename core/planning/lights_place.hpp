#pragma once
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Strings of LEDs of one type that hang side by side between two nets.
struct HungLights {
    std::vector<std::string> strings;  ///< the first LED of each
    std::string type;
    std::size_t leds = 0, longest = 0;  ///< in all; in the longest string
    std::string plus, minus;            ///< the nets, the positive side first
    std::string name() const;           ///< "L1 and 5 more"
};

/// All of a circuit's, in its order. What hangs between other than two nets, or shares a resistor with LEDs
/// of another type, is left out.
std::vector<HungLights> hung_lights(const Circuit& circuit);

/// The first LED that hangs now where lights of another circuit hung; empty if none does.
std::string light_at(const Circuit& now, const Circuit& before, const std::string& light);

/// A circuit without some of its lights, and where they hung.
struct LightsPlace : HungLights {
    Circuit circuit;  ///< the rest
};

/// Takes out the lights among which `light` is, or the first ones where that is empty, with their resistors,
/// own and shared; a circuit without LEDs has its place between the nets of its source, with no strings.
/// Design error without a source, and where those lights do not hang between two nets; usage error for a
/// light that is not there.
Result<LightsPlace> without_lights(const Circuit& circuit, const std::string& light = {});

/// Lights of another circuit put in such a place: its parts but for its source, whose nets become those of
/// the place. Other nets and designators become free ones of `taken`: of the circuit as it was where blocks
/// own its lights, who would take new parts of their names for theirs.
Circuit with_lights(LightsPlace place, const Circuit& lights, const Circuit& taken);

}  // namespace elkit
