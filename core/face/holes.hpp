#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "design/design.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// What a face is made of, and what that does to a hole. Workshop practice; a test hole says it better.
struct FaceMaterial {
    std::string id, name;
    double give = 0;    ///< mm that a push fit is wider than the body; less than 0: the material yields
    std::string drill;  ///< what to mind when drilling
};
const std::vector<FaceMaterial>& face_materials();
const FaceMaterial& face_material(std::string_view id);  ///< the first if unknown

/// How a light sits in its hole.
struct FaceFit {
    std::string id, name, words;
};
const std::vector<FaceFit>& face_fits();

/// The hole for a light of this body.
struct FaceHoleFor {
    Figure diameter;  ///< mm
    bool measured = false;
    std::string remark;
};
/// For a round body [mm] in this face: as it was measured, else body and material, clearance for glue
/// (0.3 mm), or the collar of a bezel. To a tenth of a millimetre, as drills come.
FaceHoleFor hole_for(double body, const Face& face);

/// Diameters [mm] of a strip of test holes round the one for this body: from 0.2 mm below to 0.5 mm above.
std::vector<double> test_holes(double body, const Face& face);

/// The face with the hole that fits this body, found with the strip; 0 takes it back.
Face with_measured_hole(Face face, double body, double hole);

}  // namespace elkit
