// Polygons by the Clipper library (Vatti's algorithm, CACM 35 (1992) 56).
#include "board/copper/geometry.hpp"

#include <algorithm>
#include <cmath>
#include <memory>
#include <numbers>
#include <polyclipping/clipper.hpp>

namespace elkit {

namespace clip = ClipperLib;

/// Between Region and the library's own types.
struct RegionTools {
    static constexpr double fine = 1e6;       // nm in a mm
    static constexpr double flatness = 5000;  // nm

    static clip::Paths paths(const Region& r) {
        clip::Paths out;
        for (const auto& ring : r.rings_) {
            clip::Path path;
            path.reserve(ring.size());
            for (const auto& [x, y] : ring) path.emplace_back(x, y);
            out.push_back(std::move(path));
        }
        return out;
    }
    static Region region(const clip::Paths& paths) {
        Region r;
        for (const clip::Path& path : paths) {
            if (path.size() < 3) continue;
            Region::Fine ring;
            ring.reserve(path.size());
            for (const clip::IntPoint& p : path) ring.emplace_back(p.X, p.Y);
            r.rings_.push_back(std::move(ring));
        }
        return r;
    }
    static clip::Path path(const Ring& ring) {
        clip::Path out;
        for (const Point p : ring) out.push_back(fine_point(p));
        return out;
    }
    static clip::IntPoint fine_point(Point p) { return {std::llround(p.x * fine), std::llround(p.y * fine)}; }
    static Point point(const std::pair<long long, long long>& p) {
        return {static_cast<double>(p.first) / fine, static_cast<double>(p.second) / fine};
    }
    static Region combined(clip::ClipType how, const Region& a, const Region& b) {
        clip::Clipper clipper;
        clipper.AddPaths(paths(a), clip::ptSubject, true);
        clipper.AddPaths(paths(b), clip::ptClip, true);
        clip::Paths out;
        clipper.Execute(how, out, clip::pftNonZero, clip::pftNonZero);
        return region(out);
    }
    static Region offset(const clip::Paths& from, clip::EndType ends, double mm) {
        clip::ClipperOffset offset(2, flatness);
        offset.AddPaths(from, clip::jtRound, ends);
        clip::Paths out;
        offset.Execute(out, mm * fine);
        return region(out);
    }
    static clip::Path fine_path(const Region::Fine& ring) {
        clip::Path path;
        for (const auto& [x, y] : ring) path.emplace_back(x, y);
        return path;
    }
    static double signed_area(const Region::Fine& ring) {
        return clip::Area(fine_path(ring)) / (fine * fine);
    }
    static Ring ring(const Region::Fine& fine_ring) {
        Ring out;
        for (const auto& p : fine_ring) out.push_back(point(p));
        return out;
    }
};

void widen(Box& box, Point p, double around) {
    widen(box, Box{p.x - around, p.y - around, p.x + around, p.y + around});
}
void widen(Box& box, const Box& o) {
    box = {std::min(box.x0, o.x0), std::min(box.y0, o.y0), std::max(box.x1, o.x1), std::max(box.y1, o.y1)};
}
Box box_of(const Ring& ring) {
    Box box = no_box;
    for (const Point p : ring) widen(box, p);
    return box;
}

double distance(Point a, Point b) { return std::hypot(a.x - b.x, a.y - b.y); }

double distance(Point p, Point a, Point b) {
    const double dx = b.x - a.x, dy = b.y - a.y, square = dx * dx + dy * dy;
    if (square == 0) return distance(p, a);
    const double t = std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / square, 0.0, 1.0);
    return distance(p, {a.x + t * dx, a.y + t * dy});
}

double distance(Point a, Point b, Point c, Point d) {
    const auto side = [](Point p, Point q, Point r) {
        return (q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x);
    };
    if (side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0) return 0;
    return std::min({distance(a, c, d), distance(b, c, d), distance(c, a, b), distance(d, a, b)});
}

Point turned(Point offset, double degrees) {
    const auto quarters = static_cast<int>(std::lround(degrees / 90));
    if (std::abs(degrees - 90.0 * quarters) < 1e-9) switch (((quarters % 4) + 4) % 4) {
            case 0:
                return offset;
            case 1:
                return {-offset.y, offset.x};
            case 2:
                return {-offset.x, -offset.y};
            default:
                return {offset.y, -offset.x};
        }
    const double a = degrees * std::numbers::pi / 180;
    return {offset.x * std::cos(a) - offset.y * std::sin(a), offset.x * std::sin(a) + offset.y * std::cos(a)};
}

Region Region::polygon(const Ring& ring) {
    clip::Paths simple;
    clip::SimplifyPolygon(RegionTools::path(ring), simple, clip::pftNonZero);
    return RegionTools::region(simple);
}

Region Region::disc(Point centre, double diameter) { return stroke(centre, centre, diameter); }

Region Region::stroke(Point a, Point b, double width) {
    clip::Path path{RegionTools::fine_point(a)};
    if (const auto end = RegionTools::fine_point(b); end != path.front()) path.push_back(end);
    return RegionTools::offset({path}, clip::etOpenRound, width / 2);
}

Region Region::along(const std::vector<Ring>& rings, double width) {
    clip::Paths paths;
    for (const Ring& ring : rings) paths.push_back(RegionTools::path(ring));
    return RegionTools::offset(paths, clip::etClosedLine, width / 2);
}

Region Region::box(double x0, double y0, double x1, double y1) {
    return polygon({{x0, y0}, {x1, y0}, {x1, y1}, {x0, y1}});
}

Region Region::united(const std::vector<Region>& all) {
    clip::Clipper clipper;
    for (const Region& r : all) clipper.AddPaths(RegionTools::paths(r), clip::ptSubject, true);
    clip::Paths out;
    clipper.Execute(clip::ctUnion, out, clip::pftNonZero, clip::pftNonZero);
    return RegionTools::region(out);
}

Region Region::with(const Region& other) const { return RegionTools::combined(clip::ctUnion, *this, other); }
Region Region::without(const Region& other) const {
    return RegionTools::combined(clip::ctDifference, *this, other);
}
Region Region::within(const Region& other) const {
    return RegionTools::combined(clip::ctIntersection, *this, other);
}
Region Region::mirrored(double x) const {
    Region out = *this;
    const long long twice = std::llround(2 * x * RegionTools::fine);
    for (Fine& ring : out.rings_) {
        for (auto& [px, py] : ring) px = twice - px;
        std::reverse(ring.begin(), ring.end());  // outer ones run the same way round as before
    }
    return out;
}
Region Region::grown(double mm) const {
    return RegionTools::offset(RegionTools::paths(*this), clip::etClosedPolygon, mm);
}

double Region::area() const {
    double sum = 0;
    for (const Fine& ring : rings_) sum += RegionTools::signed_area(ring);
    return sum;
}

bool Region::contains(Point p) const {
    const clip::IntPoint at = RegionTools::fine_point(p);
    int depth = 0;
    for (const Fine& ring : rings_) {
        const int where = clip::PointInPolygon(at, RegionTools::fine_path(ring));
        if (where == -1) return true;
        if (where == 1) depth += RegionTools::signed_area(ring) > 0 ? 1 : -1;
    }
    return depth > 0;
}

std::vector<Region> Region::pieces() const {
    clip::Clipper clipper;
    clipper.AddPaths(RegionTools::paths(*this), clip::ptSubject, true);
    clip::PolyTree tree;
    clipper.Execute(clip::ctUnion, tree, clip::pftNonZero, clip::pftNonZero);
    std::vector<Region> all;
    for (const clip::PolyNode* node = tree.GetFirst(); node; node = node->GetNext()) {
        if (node->IsHole()) continue;
        clip::Paths paths{node->Contour};
        for (const clip::PolyNode* hole : node->Childs) paths.push_back(hole->Contour);
        all.push_back(RegionTools::region(paths));
    }
    return all;
}

std::vector<Ring> Region::rings() const {
    std::vector<Ring> all;
    for (const Fine& ring : rings_) all.push_back(RegionTools::ring(ring));
    return all;
}

std::vector<Ring> Region::outer() const {
    std::vector<Ring> all;
    for (const Fine& ring : rings_)
        if (RegionTools::signed_area(ring) > 0) all.push_back(RegionTools::ring(ring));
    return all;
}

Box Region::bounds() const {
    Box box = no_box;
    for (const Ring& ring : outer()) widen(box, box_of(ring));
    return box;
}

}  // namespace elkit
