#pragma once
#include <string>
#include <vector>

#include "design/design.hpp"
#include "engine/queries.hpp"

namespace elkit {

/// A situation and what the gadget does in it, in short.
struct Placed {
    Situation situation;
    bool lit = false;    ///< some light gives light
    double current = 0;  ///< A out of the source on average
};

/// A through an LED: below it, it is dark in a room.
inline constexpr double gives_light = 5e-5;

/// True if some light of the circuit gives light at these readings.
bool is_lit(const Circuit& circuit, const OperatingPoint& readings);

/// The situation with what the strip says otherwise than usual put in.
Conditions with_strip(const Situation& situation, const Conditions& now);

/// Conditions in which a design gives light, if any do: the first situation with what the strip says; `now`
/// itself where that is a situation already, or none can be found.
Conditions lit_conditions(const Ask& ask, const Design& design, const Keyed<Circuit>& circuit,
                          const Conditions& now);

/// Of the dark ones the situation that takes least: standby; nullptr if it is lit in all.
const Placed* standby_of(const std::vector<Placed>& situations);

/// The situations of a design with what it does in each: its own, or those that its circuit suggests.
Result<std::vector<Placed>> placed_situations(const Ask& ask, const std::vector<Situation>& own,
                                              const Keyed<Circuit>& circuit);

/// What a gadget does in a situation; dark and without current where it cannot be solved.
Placed placed(const Ask& ask, const Situation& situation, const Keyed<Circuit>& circuit);

/// The situations that a circuit suggests, three to eight where there is anything to choose: each rest of a
/// switch that matters, each button held and let go again, light and dark where a sensor sees it, cold and
/// hot where one feels it, both ends of a knob, off. What comes out alike is one; what is lit stands first.
/// Errors are those of the engine in the circuit as drawn; a situation that cannot be solved is kept.
struct ProposalsQuery {
    Keyed<Circuit> circuit;
    using Value = std::vector<Placed>;
    static constexpr std::string_view name = "situations";
    static constexpr std::size_t weight = 4;
    Digest key() const { return circuit.digest(); }
    Result<Value> compute(const Ask& ask) const;
};

/// The design's own situations, or those that its circuit suggests. Empty if those cannot be found.
std::vector<Situation> situations_of(const Ask& ask, const Design& design, const Keyed<Circuit>& circuit);

/// Light and infrared that go together [lx, W/m²]: overcast noon, night, dusk. Usual is a room.
struct Ambience {
    const char* name;
    double lux, infrared;
};
inline constexpr Ambience ambiences[] = {{"daylight", 10'000, 40}, {"dark", 0.1, 0}, {"dusk", 10, 0.04}};

}  // namespace elkit
