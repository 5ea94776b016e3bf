#include "face/template.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <set>

namespace elkit {
namespace {

constexpr double margin = 8, head = 10, foot = 20, bar = 50, letter_height = 3.2, small = 2.6;  // mm
constexpr double thin = 0.15;

Style line_of(Ink ink, double width = thin) { return {ink, width, Ink::none, 1, 0, false}; }

Polygon polygon_of(const Outline& outline, double dx, double dy) {
    Polygon p;
    for (const auto& [x, y] : outline) p.points.emplace_back(x + dx, y + dy);
    return p;
}

std::pair<double, double> size_of(const Outline& outline) {
    double w = 0, h = 0;
    for (const auto& [x, y] : outline) w = std::max(w, x), h = std::max(h, y);
    return {w, h};
}

void scale_bar(Drawing& d, double x, double y) {
    d.add(Line{x, y, x + bar, y}, line_of(Ink::ink, 0.3));
    for (const double end : {x, x + bar}) d.add(Line{end, y - 2, end, y + 2}, line_of(Ink::ink, 0.3));
    d.text(x, y + 5.5, fmt::format("{:.0f} mm on paper? Print at 100 %, not fitted to the page.", bar), small,
           Ink::muted);
}

}  // namespace

Drawing draw_drill_template(const Design& design) {
    const auto spots = face_spots(design);
    const Outline outline = face_outline(design, spots);
    const auto [w, h] = size_of(outline);
    Drawing d;
    d.width = std::max(w + 2 * margin, 110.0), d.height = h + head + margin + foot;
    d.title = "Drill template: " + design.name;
    d.text(margin, head - 4,
           fmt::format("{} · {} {:.3g} mm, {}", design.name, face_material(design.face.material).name,
                       design.face.thickness, design.face.fit == "push" ? "push fit" : design.face.fit),
           letter_height, Ink::ink, true);
    d.add(polygon_of(outline, margin, head), line_of(Ink::ink, 0.25), "outline");
    for (const FaceSpot& spot : spots) {
        const double x = spot.x + margin, y = spot.y + head, r = spot.hole.diameter.value * 500;
        const double reach = r + 2;
        d.add(Line{x - reach, y, x + reach, y}, line_of(Ink::structure));
        d.add(Line{x, y - reach, x, y + reach}, line_of(Ink::structure));
        d.add(Circle{x, y, r}, line_of(Ink::ink, 0.2), "light:" + spot.light);
        d.text(x + r + 1, y - r - 0.4, fmt::format("{} ⌀ {:.1f}", spot.light, 2 * r), small);
    }
    scale_bar(d, margin, head + h + 7);
    d.text(margin, head + h + 17,
           fmt::format("Clamp it, wear goggles; {}. Try the test strip first.",
                       face_material(design.face.material).drill),
           small, Ink::muted);
    return d;
}

Drawing draw_test_strip(const Design& design) {
    std::set<double> bodies;
    for (const FaceSpot& spot : face_spots(design)) bodies.insert(spot.body);
    if (bodies.empty()) bodies.insert(5);
    constexpr double row = 24, pitch = 16;
    Drawing d;
    d.width = 8 * pitch + 2 * margin, d.height = head + row * static_cast<double>(bodies.size()) + foot;
    d.title = "Test strip of holes";
    d.text(margin, head - 4,
           fmt::format("Test strip for {}: drill all, push a light in, note the hole that holds it",
                       face_material(design.face.material).name),
           letter_height, Ink::ink, true);
    double y = head + row / 2;
    for (const double body : bodies) {
        d.text(margin, y - 8, fmt::format("for {:.3g} mm", body), small, Ink::muted);
        double x = margin + pitch / 2;
        for (const double hole : test_holes(body, design.face)) {
            d.add(Circle{x, y, hole / 2}, line_of(Ink::ink, 0.2), fmt::format("hole:{:.1f}", hole));
            d.add(Line{x - 1, y, x + 1, y}, line_of(Ink::structure));
            d.add(Line{x, y - 1, x, y + 1}, line_of(Ink::structure));
            d.text(x, y + hole / 2 + 4, fmt::format("{:.1f}", hole), small, Ink::ink, false, Anchor::middle);
            x += pitch;
        }
        y += row;
    }
    scale_bar(d, margin, y - row / 2 + 6);
    return d;
}

Drawing draw_face(const Design& design, const std::string& chosen) {
    const auto spots = face_spots(design);
    const Outline outline = face_outline(design, spots);
    const auto [w, h] = size_of(outline);
    constexpr double room = face_picture_margin;
    Drawing d;
    d.width = w + 2 * room, d.height = h + 2 * room;
    d.title = "Face of " + design.name;
    d.add(polygon_of(outline, room, room), {Ink::ink, 0.4, Ink::card, 1, 0, false});
    const double letters = std::clamp(w / 30, 2.0, 5.0);
    for (const FaceSpot& spot : spots) {
        const double x = spot.x + room, y = spot.y + room, r = spot.hole.diameter.value * 500;
        const bool is_chosen = spot.light == chosen;
        d.add(Circle{x, y, r},
              {is_chosen ? Ink::structure : Ink::ink, is_chosen ? 0.8 : 0.4,
               spot.placed ? Ink::light : Ink::none, 1, 0, !spot.placed},
              "light:" + spot.light);
        d.text(x, y + r + letters, spot.light, letters, Ink::muted, false, Anchor::middle);
    }
    return d;
}

}  // namespace elkit
