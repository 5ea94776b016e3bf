#pragma once
#include "engine/transient.hpp"
#include "recipes/recipe.hpp"

namespace elkit {

/// The light [lx] in which what an expectation looks at comes on as it gets darker ("wakes"), or goes off as
/// it gets lighter ("sleeps"): where it passes half of what it is in the dark. The light changes slowly, in
/// steps of 4 %, so that a circuit that snaps shows its two edges. Design error if it never does within three
/// times what the expectation allows; errors as simulate().
Result<double> dusk_level(const Circuit& circuit, const Expectation& expected, Conditions conditions,
                          const Corner& corner = {});

}  // namespace elkit
