#pragma once
#include "engine/transient.hpp"
#include "recipes/recipe.hpp"

namespace elkit {

/// Whether an expectation's reading is one of edge_level().
bool is_edge(const std::string& reading);

/// The light [lx] or warmth [°C] in which what an expectation looks at comes on or goes off: where it passes
/// half of what it is at most. "wakes": comes on as it gets darker; "sleeps": goes off as it gets lighter;
/// "on cooling", "off warming", "on warming", "off cooling" likewise. Halved down to a step of 4 % of the
/// light, or a fortieth of the warmth between what the expectation allows: each time from the end
/// where it is as it was, and held for its `wait`, so that a circuit with hysteresis shows its two edges, and
/// one that looks only now and then sees them. Design error if it never does around what the expectation
/// allows; errors as simulate().
Result<double> edge_level(const Circuit& circuit, const Expectation& expected, const Conditions& conditions,
                          const Corner& corner = {});

}  // namespace elkit
