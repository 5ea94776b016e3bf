#pragma once
#include "board/holes/parts.hpp"

namespace elkit {

/// Puts the lights that the choices have of the face into the holes nearest to their places, all turned the
/// same way: of the ways to lay the face over the grid of holes the one with the least that any light stands
/// beside its place. They stay there; where other parts were put by hand, they only begin there. Fills `face`
/// of the parts.
void put_face_lights(HoleParts& parts, const BoardChoices& choices);

}  // namespace elkit
