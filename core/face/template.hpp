#pragma once
#include "design/design.hpp"
#include "drawing/drawing.hpp"
#include "face/places.hpp"

namespace elkit {

/// The face at its true size: outline, a cross and a circle for each hole with its drill, and a bar of 50 mm
/// to hold a ruler to. A unit is a millimetre.
Drawing draw_drill_template(const Design& design);

/// A strip of stepped holes for each body that the design has, to be drilled into a scrap of the same sheet.
Drawing draw_test_strip(const Design& design);

/// Where the face's upper left corner is in draw_face(), mm from the picture's.
inline constexpr double face_picture_margin = 3;
/// The face as it is looked at on the screen, its lights with ref "light:L1"; without crosses and bar.
Drawing draw_face(const Design& design, const std::string& chosen = {});

}  // namespace elkit
