#pragma once
#include "outline/outline.hpp"

namespace elkit {

inline constexpr double rounded_corner = 3;  ///< mm, radius

/// Outlines of so many mm with their upper left corner at 0, 0; curves in chords.
Outline rectangle_shape(double width, double height);
Outline rounded_shape(double width, double height);
Outline round_shape(double diameter);

/// A place near each corner of the box around an outline, moved towards its middle until it lies so far [mm]
/// within it; the corner's own where none does.
Outline corner_places(const Outline& outline, double within);

/// mm from a place to the nearest one of the outline.
double to_rim(const Outline& outline, double x, double y);

}  // namespace elkit
