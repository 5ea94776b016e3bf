// template: the holes in the face
#include <fmt/format.h>

#include <iostream>

#include "cli/command.hpp"
#include "cli/with_design.hpp"
#include "design/file.hpp"
#include "face/template.hpp"
#include "formats/svg.hpp"

namespace elkit::cli {
namespace {

struct FaceOptions {
    Options common;
    std::string svg, outline, pattern, material, fit;
    double thickness = 0;
    bool strip = false, use = false;
};

Result<Design> arranged(const Design& design, const std::string& pattern) {
    const auto equals = pattern.find('=');
    const std::string name = pattern.substr(0, equals);
    const auto mm = quantity_of(
        "--pattern", equals == std::string::npos ? "20mm" : pattern.substr(equals + 1), Unit::metre);
    if (!mm) return mm.error();
    constexpr std::array names{"row", "circle", "grid", "edge"};
    for (std::size_t k = 0; k < names.size(); ++k)
        if (name == names[k]) return with_pattern(design, static_cast<FacePattern>(k), mm.value() * 1000);
    return Error{Fault::usage, "--pattern", "\"" + name + "\" is none",
                 "row=15mm, circle=60mm, grid=20mm or edge=10mm"};
}

Result<Design> as_asked(const FaceOptions& o) {
    auto design = load(o.common);
    if (!design) return design;
    Design next = std::move(design).value();
    if (!o.material.empty()) next.face.material = o.material;
    if (!o.fit.empty()) next.face.fit = o.fit;
    if (o.thickness > 0) next.face.thickness = o.thickness;
    if (!o.outline.empty()) {
        auto text = read_file(o.outline);
        if (!text) return Error{Fault::file, o.outline, text.error().found, "a drawing as SVG"};
        auto drawing = read_face_svg(text.value());
        if (!drawing) {
            Error error = drawing.error();
            error.place = o.outline + ", " + error.place;
            return error;
        }
        next = with_face_drawing(next, drawing.value());
    }
    return o.pattern.empty() ? Result<Design>(std::move(next)) : arranged(next, o.pattern);
}

int face_template(const FaceOptions& o) {
    auto design = as_asked(o);
    if (!design) return fail(design.error());
    if (o.use) return std::cout << write_design(design.value()), 0;
    if (!o.svg.empty()) {
        const Drawing drawing =
            o.strip ? draw_test_strip(design.value()) : draw_drill_template(design.value());
        auto written = write_file(o.svg, write_svg(drawing));
        if (!written) return fail(written.error());
    }
    const auto spots = face_spots(design.value());
    const auto faults = face_faults(spots, face_outline(design.value(), spots));
    Json rows = Json::array();
    for (const FaceSpot& s : spots) {
        rows.push_back({{"light", s.light},
                        {"body_mm", s.body},
                        {"hole", figure_json(s.hole.diameter)},
                        {"x_mm", s.x},
                        {"y_mm", s.y},
                        {"placed", s.placed},
                        {"remark", s.hole.remark}});
        if (!o.common.json)
            fmt::print("{:<6} {:<24} hole {:.1f} mm at {:6.1f}, {:6.1f} mm  {}\n", s.light, s.name,
                       1000 * s.hole.diameter.value, s.x, s.y, s.hole.remark);
    }
    if (o.common.json)
        print_json({{"lights", rows}, {"faults", faults}});
    else
        for (const std::string& fault : faults) fmt::print("{}\n", fault);
    return 0;
}

}  // namespace

std::vector<Command> face_commands() {
    return {{"template", "holes in the face: drill template and test strip, at true size", [](CLI::App& sub) {
                 const auto o = std::make_shared<FaceOptions>();
                 std::vector<std::string> materials, fits;
                 for (const FaceMaterial& m : face_materials()) materials.push_back(m.id);
                 for (const FaceFit& f : face_fits()) fits.push_back(f.id);
                 sub.add_option("FILE", o->common.file, "design")->required();
                 sub.add_option("--svg", o->svg, "writes the template there");
                 sub.add_flag("--strip", o->strip, "the strip of stepped test holes instead");
                 sub.add_option("--outline", o->outline, "an SVG whose outline and holes are taken");
                 sub.add_option("--pattern", o->pattern, "row=15mm, circle=60mm, grid=20mm or edge=10mm");
                 sub.add_option("--material", o->material, "of the face")->check(CLI::IsMember(materials));
                 sub.add_option("--fit", o->fit, "of the lights")->check(CLI::IsMember(fits));
                 sub.add_option("--thickness", o->thickness, "mm")->check(within(0.05, 100));
                 sub.add_flag("--use", o->use, "prints the design with this face");
                 sub.add_flag("--json", o->common.json, "JSON on stdout");
                 return [o] { return face_template(*o); };
             }}};
}

}  // namespace elkit::cli
