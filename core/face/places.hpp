#pragma once
#include <string>
#include <vector>

#include "design/design.hpp"
#include "face/holes.hpp"
#include "outline/outline.hpp"

namespace elkit {

/// A light where the face has it.
struct FaceSpot {
    std::string light;    ///< designator
    std::string name;     ///< "warm amber 5 mm LED"
    double body = 5;      ///< mm
    double x = 0, y = 0;  ///< mm from the left and upper edge
    bool placed = false;  ///< the design says so; else in a row, until it does
    FaceHoleFor hole;
};

/// The lights of a design that have a body of their own, where they are on its face.
std::vector<FaceSpot> face_spots(const Design& design);

/// The line round the face [mm]: drawn elsewhere, a rectangle as large as it says, or one round the lights.
Outline face_outline(const Design& design, const std::vector<FaceSpot>& spots);

/// Lights whose hole is too near to another's or to the edge, in words.
std::vector<std::string> face_faults(const std::vector<FaceSpot>& spots, const Outline& outline);

/// The design with one light here [mm].
Design with_place(const Design& design, const std::string& light, double x, double y);

enum class FacePattern { row, circle, grid, edge };
/// The design with all its lights in a pattern in the middle of its face: a row at this pitch, a circle of
/// this diameter, a grid at this pitch, or along the edge at this distance from it [mm]. Design error where
/// there is no light.
Result<Design> with_pattern(const Design& design, FacePattern pattern, double mm);

/// The design with the outline of a drawing, and its lights in the drawing's holes: by name where the names
/// are those of lights, the others in order.
Design with_face_drawing(const Design& design, const FaceDrawing& drawing);

}  // namespace elkit
