#include "face/holes.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace elkit {
namespace {

constexpr double glue_gap = 0.3, tenth = 0.1, same_body = 0.05;
constexpr double clip_reach = 3;  // mm of sheet that a bezel's clip spans
/// Holes for the collar of a bezel by body [mm]; typical ones, they differ.
constexpr std::array<std::array<double, 2>, 4> bezels{{{3, 6}, {5, 8}, {8, 11}, {10, 13}}};

double to_tenths(double mm) { return std::round(mm / tenth) * tenth; }

/// How far a light of this body reaches into its hole: the body above its flange, mm.
double reach_of(double body) { return body <= 3.5 ? 4.5 : 1.5 * body; }

}  // namespace

const std::vector<FaceMaterial>& face_materials() {
    static const std::vector<FaceMaterial> all{
        {"plywood", "plywood", 0, "a board below keeps the back from splintering"},
        {"softwood", "softwood", -0.1, "a board below keeps the back from splintering"},
        {"card", "card or paper", -0.2, "a punch is cleaner than a drill"},
        {"acrylic", "acrylic", 0.1,
         "slow, clamped, little pressure at the end: it cracks, and a tight fit cracks it later"},
        {"sheet", "sheet metal", 0.1, "centre-punch, clamp, take the burr off: it cuts fingers and leads"},
        {"printed", "printed plastic", 0.3,
         "printed holes come out small: print 0.3 mm wider, or drill after"}};
    return all;
}

const FaceMaterial& face_material(std::string_view id) {
    const auto& all = face_materials();
    const auto found =
        std::find_if(all.begin(), all.end(), [&](const FaceMaterial& m) { return m.id == id; });
    return found == all.end() ? all.front() : *found;
}

const std::vector<FaceFit>& face_fits() {
    static const std::vector<FaceFit> all{
        {"push", "push fit", "holds by itself, pushed in from behind up to its flange"},
        {"bezel", "bezel", "a collar holds it; can be taken out again"},
        {"glue", "loose with glue", "a drop of glue from behind; forgives every drill"}};
    return all;
}

FaceHoleFor hole_for(double body, const Face& face) {
    FaceHoleFor out;
    const FaceMaterial& material = face_material(face.material);
    double mm = 0;
    std::vector<std::string> working;
    const auto measured = std::find_if(face.measured.begin(), face.measured.end(), [&](const FaceHole& hole) {
        return std::abs(hole.body - body) < same_body;
    });
    if (measured != face.measured.end()) {
        mm = measured->hole, out.measured = true;
        working = {fmt::format("a test hole of {:.1f} mm fitted a body of {:.3g} mm", mm, body)};
    } else if (face.fit == "bezel") {
        const auto* bezel = std::min_element(bezels.begin(), bezels.end(), [&](const auto& a, const auto& b) {
            return std::abs(a[0] - body) < std::abs(b[0] - body);
        });
        mm = to_tenths((*bezel)[1] + std::max(0.0, body - (*bezel)[0]));
        working = {fmt::format("collar of a typical bezel for {:.3g} mm: {:.1f} mm", body, mm)};
        out.remark = "bezels differ: take the hole from the sheet of yours";
        if (face.thickness > clip_reach)
            out.remark += fmt::format("; its clip spans {:.0f} mm of sheet, the face is {:.3g} mm",
                                      clip_reach, face.thickness);
    } else {
        const double gap = face.fit == "glue" ? glue_gap + std::max(0.0, material.give) : material.give;
        mm = to_tenths(body + gap);
        working = {fmt::format("{:.3g} mm body {:+.1f} mm in {} = {:.1f} mm", body, gap, material.name, mm)};
        if (face.thickness > reach_of(body))
            out.remark = fmt::format(
                "the face is {:.3g} mm thick, the light reaches {:.1f} mm into it: it sits in "
                "a well and shines narrower",
                face.thickness, reach_of(body));
    }
    out.diameter = {"face.hole", "hole", mm / 1000, Unit::metre, {}, {}, std::move(working)};
    return out;
}

std::vector<double> test_holes(double body, const Face& face) {
    Face unmeasured = face;
    unmeasured.measured.clear();
    const double middle = hole_for(body, unmeasured).diameter.value * 1000;
    std::vector<double> holes;
    for (int k = -2; k <= 5; ++k) holes.push_back(to_tenths(middle + k * tenth));
    return holes;
}

Face with_measured_hole(Face face, double body, double hole) {
    std::erase_if(face.measured,
                  [&](const FaceHole& known) { return std::abs(known.body - body) < same_body; });
    if (hole > 0) face.measured.push_back({body, hole, {}});
    return face;
}

}  // namespace elkit
