#pragma once
#include "circuit/content.hpp"
#include "drawing/drawing.hpp"
#include "engine/conditions.hpp"
#include "store/store.hpp"

namespace elkit {

/// The stave of a circuit under these conditions, laid out afresh, its lights glowing. Errors of the engine.
Result<Drawing> stave_picture(const Ask& ask, const Keyed<Circuit>& circuit, const Conditions& conditions);

}  // namespace elkit
