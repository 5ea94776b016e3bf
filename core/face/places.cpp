#include "face/places.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"

namespace elkit {
namespace {

constexpr double usual_pitch = 15, usual_margin = 12, usual_body = 5;  // mm
constexpr double least_web = 1.5;                                      // mm of material between holes
constexpr double hundredths = 100;
constexpr int in_a_row = 8;

double rounded(double mm) { return std::round(mm * hundredths) / hundredths; }

double body_of(const Part& part) {
    const LedType* type = known_catalogue().led(part.text("type"));
    return type && type->diameter > 0 ? type->diameter : usual_body;
}

const FacePlace* place_of(const Face& face, const std::string& light) {
    const auto found = std::find_if(face.places.begin(), face.places.end(),
                                    [&](const FacePlace& place) { return place.light == light; });
    return found == face.places.end() ? nullptr : &*found;
}

struct Extent {
    double x0 = 0, y0 = 0, x1 = 0, y1 = 0;
    double width() const { return x1 - x0; }
    double height() const { return y1 - y0; }
    double cx() const { return (x0 + x1) / 2; }
    double cy() const { return (y0 + y1) / 2; }
};

Extent extent_of(const Outline& outline) {
    Extent box{1e9, 1e9, -1e9, -1e9};
    for (const auto& [x, y] : outline)
        box = {std::min(box.x0, x), std::min(box.y0, y), std::max(box.x1, x), std::max(box.y1, y)};
    return box;
}

double distance_to_segment(double x, double y, std::pair<double, double> a, std::pair<double, double> b) {
    const double dx = b.first - a.first, dy = b.second - a.second, length = dx * dx + dy * dy;
    const double t =
        length > 0 ? std::clamp(((x - a.first) * dx + (y - a.second) * dy) / length, 0.0, 1.0) : 0;
    return std::hypot(x - a.first - t * dx, y - a.second - t * dy);
}

double distance_to_edge(const Outline& outline, double x, double y) {
    double least = 1e9;
    for (std::size_t k = 0; k < outline.size(); ++k)
        least = std::min(least, distance_to_segment(x, y, outline[k], outline[(k + 1) % outline.size()]));
    return is_inside(outline, x, y) ? least : -least;
}

/// Points at equal steps along the outline, moved towards its middle by `inset`.
std::vector<std::pair<double, double>> along_edge(const Outline& outline, std::size_t count, double inset) {
    double length = 0;
    std::vector<double> until{0};
    for (std::size_t k = 0; k < outline.size(); ++k) {
        const auto& [x0, y0] = outline[k];
        const auto& [x1, y1] = outline[(k + 1) % outline.size()];
        until.push_back(length += std::hypot(x1 - x0, y1 - y0));
    }
    std::vector<std::pair<double, double>> out;
    for (std::size_t n = 0; n < count; ++n) {
        const double at = length * (static_cast<double>(n) + 0.5) / static_cast<double>(count);
        const auto k = static_cast<std::size_t>(std::upper_bound(until.begin(), until.end() - 1, at) -
                                                until.begin() - 1);
        const auto& [x0, y0] = outline[k];
        const auto& [x1, y1] = outline[(k + 1) % outline.size()];
        const double piece = until[k + 1] - until[k], t = piece > 0 ? (at - until[k]) / piece : 0;
        const double x = x0 + t * (x1 - x0), y = y0 + t * (y1 - y0);
        const double nx = piece > 0 ? (y1 - y0) / piece : 0, ny = piece > 0 ? -(x1 - x0) / piece : 0;
        const double side = is_inside(outline, x + 0.01 * nx, y + 0.01 * ny) ? 1 : -1;
        out.emplace_back(x + side * inset * nx, y + side * inset * ny);
    }
    return out;
}

}  // namespace

std::vector<FaceSpot> face_spots(const Design& design) {
    std::vector<FaceSpot> spots;
    int waiting = 0;  // those without a place stand in rows
    for (const Part& part : design.circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        if (!kind || !kind->is(Role::light) || !kind->identity.pieces.empty()) continue;
        FaceSpot spot;
        spot.light = part.designator, spot.name = shop_name(part), spot.body = body_of(part);
        spot.hole = hole_for(spot.body, design.face);
        spot.hole.diameter.id = "face.hole." + part.designator;
        spot.hole.diameter.label = "hole for " + part.designator;
        if (const FacePlace* place = place_of(design.face, part.designator)) {
            spot.x = place->x, spot.y = place->y, spot.placed = true;
        } else {
            const auto column = waiting % in_a_row, row = waiting / in_a_row;
            spot.x = usual_margin + usual_pitch * column;
            spot.y = usual_margin + usual_pitch * row;
            ++waiting;
        }
        spots.push_back(std::move(spot));
    }
    return spots;
}

Outline face_outline(const Design& design, const std::vector<FaceSpot>& spots) {
    if (auto drawn = read_outline(design.face.outline); drawn && !drawn.value().empty())
        return std::move(drawn).value();
    double w = design.face.width, h = design.face.height;
    for (const FaceSpot& spot : spots) {
        if (!(design.face.width > 0)) w = std::max(w, spot.x + usual_margin);
        if (!(design.face.height > 0)) h = std::max(h, spot.y + usual_margin);
    }
    w = std::max(w, 2 * usual_margin), h = std::max(h, 2 * usual_margin);
    return {{0, 0}, {w, 0}, {w, h}, {0, h}};
}

std::vector<std::string> face_faults(const std::vector<FaceSpot>& spots, const Outline& outline) {
    std::vector<std::string> faults;
    for (std::size_t a = 0; a < spots.size(); ++a) {
        const double ra = spots[a].hole.diameter.value * 500;
        const double edge = distance_to_edge(outline, spots[a].x, spots[a].y) - ra;
        if (edge < 0)
            faults.push_back(fmt::format("{} is not on the face", spots[a].light));
        else if (edge < least_web)
            faults.push_back(fmt::format("{} leaves {:.1f} mm to the edge", spots[a].light, edge));
        for (std::size_t b = a + 1; b < spots.size(); ++b) {
            const double web = std::hypot(spots[a].x - spots[b].x, spots[a].y - spots[b].y) - ra -
                               spots[b].hole.diameter.value * 500;
            if (web < least_web)
                faults.push_back(fmt::format("between {} and {} {}", spots[a].light, spots[b].light,
                                             web > 0 ? fmt::format("{:.1f} mm are left", web)
                                                     : std::string("nothing is left: their holes meet")));
        }
    }
    return faults;
}

Design with_place(const Design& design, const std::string& light, double x, double y) {
    Design next = design;
    for (FacePlace& place : next.face.places)
        if (place.light == light) {
            place.x = rounded(x), place.y = rounded(y);
            return next;
        }
    next.face.places.push_back({light, rounded(x), rounded(y), {}});
    return next;
}

Result<Design> with_pattern(const Design& design, FacePattern pattern, double mm) {
    const auto spots = face_spots(design);
    if (spots.empty()) return Error{Fault::design, "face", "the circuit has no light", "an LED"};
    const std::size_t count = spots.size();
    const auto n = static_cast<double>(count);
    const auto columns = static_cast<std::size_t>(std::ceil(std::sqrt(n)));
    const auto rows = (count + columns - 1) / columns;
    Outline outline = face_outline(design, spots);
    const bool sized = !design.face.outline.empty() || (design.face.width > 0 && design.face.height > 0);
    if (!sized) {  // a face as large as the pattern asks
        const double span = pattern == FacePattern::circle ? mm : 0;
        const double w = pattern == FacePattern::row    ? mm * (n - 1)
                         : pattern == FacePattern::grid ? mm * static_cast<double>(columns - 1)
                                                        : span;
        const double h = pattern == FacePattern::grid ? mm * static_cast<double>(rows - 1) : span;
        if (pattern != FacePattern::edge)
            outline = {{0, 0},
                       {w + 2 * usual_margin, 0},
                       {w + 2 * usual_margin, h + 2 * usual_margin},
                       {0, h + 2 * usual_margin}};
    }
    const Extent box = extent_of(outline);
    const auto edge = along_edge(outline, count, mm);
    Design next = design;
    for (std::size_t k = 0; k < count; ++k) {
        const auto at = static_cast<double>(k);
        double x = box.cx(), y = box.cy();
        if (pattern == FacePattern::row) {
            x += mm * (at - (n - 1) / 2);
        } else if (pattern == FacePattern::circle) {  // the first at the top, clockwise
            const double angle = 2 * std::numbers::pi * at / n;
            if (count > 1) x += mm / 2 * std::sin(angle), y -= mm / 2 * std::cos(angle);
        } else if (pattern == FacePattern::grid) {
            const std::size_t column = k % columns, row = k / columns;
            x += mm * (static_cast<double>(column) - static_cast<double>(columns - 1) / 2);
            y += mm * (static_cast<double>(row) - static_cast<double>(rows - 1) / 2);
        } else {
            x = edge[k].first, y = edge[k].second;
        }
        next = with_place(next, spots[k].light, x, y);
    }
    return next;
}

Design with_face_drawing(const Design& design, const FaceDrawing& drawing) {
    Design next = design;
    next.face.outline = outline_text(drawing.outline);
    const auto spots = face_spots(design);
    std::vector<const FaceDrawing::Hole*> unnamed;
    std::set<std::string> done;
    for (const auto& hole : drawing.holes) {
        const auto colon = hole.name.rfind(':');
        const std::string name = colon == std::string::npos ? hole.name : hole.name.substr(colon + 1);
        const bool known =
            std::any_of(spots.begin(), spots.end(), [&](const FaceSpot& spot) { return spot.light == name; });
        if (!known || !done.insert(name).second)
            unnamed.push_back(&hole);
        else
            next = with_place(next, name, hole.x, hole.y);
    }
    auto hole = unnamed.begin();
    for (const FaceSpot& spot : spots) {
        if (done.contains(spot.light) || hole == unnamed.end()) continue;
        next = with_place(next, spot.light, (*hole)->x, (*hole)->y);
        ++hole;
    }
    return next;
}

}  // namespace elkit
