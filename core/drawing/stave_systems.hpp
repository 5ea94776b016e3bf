#pragma once
#include <vector>

#include "drawing/drawing.hpp"

namespace elkit {

/// Breaks a stave that is too wide for a page into pieces to be set one below the other, as music is: each
/// with all its tags, cut only where no part stands; a line that goes on ends in an arrow. A piece is wider
/// than `width` only if one column is. Widths are in the stave's units.
std::vector<Drawing> stave_systems(const Drawing& stave, double width);

}  // namespace elkit
