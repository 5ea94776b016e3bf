// Polygons by the Clipper library (Vatti's algorithm, CACM 35 (1992) 56).
#include "board/copper/geometry.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <memory>
#include <numbers>
#include <polyclipping/clipper.hpp>

namespace elkit {

namespace clip = ClipperLib;

/// Between Region and the library's own types.
struct RegionTools {
    static constexpr double fine = 1e6;       // nm in a mm
    static constexpr double flatness = 5000;  // nm
    // nm off the line between its neighbours: each offset adds a point at every corner of a curve
    static constexpr double needless = 1000;

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
    struct FineBox {
        long long x0, y0, x1, y1;
        bool overlaps(const FineBox& o) const { return x0 <= o.x1 && o.x0 <= x1 && y0 <= o.y1 && o.y0 <= y1; }
    };
    static FineBox box(const Region::Fine& ring) {
        FineBox b{ring.front().first, ring.front().second, ring.front().first, ring.front().second};
        for (const auto& [x, y] : ring) {
            b.x0 = std::min(b.x0, x), b.x1 = std::max(b.x1, x);
            b.y0 = std::min(b.y0, y), b.y1 = std::max(b.y1, y);
        }
        return b;
    }
    /// Its rings that come near the other region: what no ring of it surrounds or touches is as if none were.
    static clip::Paths paths_near(const Region& r, const Region& other) {
        if (r.rings_.empty() || other.rings_.empty()) return {};
        FineBox room = box(other.rings_.front());
        for (const auto& ring : other.rings_) {
            const FineBox b = box(ring);
            room = {std::min(room.x0, b.x0), std::min(room.y0, b.y0), std::max(room.x1, b.x1),
                    std::max(room.y1, b.y1)};
        }
        clip::Paths out;
        for (const auto& ring : r.rings_)
            if (box(ring).overlaps(room)) out.push_back(fine_path(ring));
        return out;
    }
    static Region combined(clip::ClipType how, const Region& a, const Region& b) {
        clip::Clipper clipper;
        const clip::Paths subject = how == clip::ctIntersection ? paths_near(a, b) : paths(a),
                          other = how == clip::ctUnion ? paths(b) : paths_near(b, a);
        if (how == clip::ctIntersection && (subject.empty() || other.empty())) return {};
        clipper.AddPaths(subject, clip::ptSubject, true);
        clipper.AddPaths(other, clip::ptClip, true);
        clip::Paths out;
        clipper.Execute(how, out, clip::pftNonZero, clip::pftNonZero);
        return region(out);
    }
    static Region offset(const clip::Paths& from, clip::EndType ends, double mm) {
        clip::ClipperOffset offset(2, flatness);
        offset.AddPaths(from, clip::jtRound, ends);
        clip::Paths out;
        offset.Execute(out, mm * fine);
        clip::CleanPolygons(out, needless);
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

double distance(Point a, Point b) {
    const double dx = a.x - b.x, dy = a.y - b.y;
    return std::sqrt(dx * dx + dy * dy);
}

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

Region Region::of_rings(const std::vector<Ring>& rings) {
    Region out;
    for (const Ring& ring : rings) {
        Fine fine;
        for (const clip::IntPoint& p : RegionTools::path(ring)) fine.emplace_back(p.X, p.Y);
        if (fine.size() > 2) out.rings_.push_back(std::move(fine));
    }
    return out;
}

Region Region::beside(const Region& other) const {
    Region out = *this;
    out.rings_.insert(out.rings_.end(), other.rings_.begin(), other.rings_.end());
    return out;
}

Region Region::disc(Point centre, double diameter) { return stroke(centre, centre, diameter); }

Region Region::stroke(Point a, Point b, double width) {
    const double r = width / 2, least = 4;
    if (!(r > 0)) return {};
    constexpr double flat = RegionTools::flatness / RegionTools::fine;
    const double chord = std::acos(std::max(0.0, 1 - flat / r));
    const int half = std::max(static_cast<int>(std::ceil(std::numbers::pi / (2 * chord))),
                              static_cast<int>(least));  // chords of half a circle
    const double along = std::atan2(b.y - a.y, b.x - a.x);
    Region out;
    out.rings_.emplace_back();
    Fine& ring = out.rings_.front();
    for (int end = 0; end < 2; ++end) {
        const Point centre = end == 0 ? b : a;
        const double from = along + (end == 0 ? -0.5 : 0.5) * std::numbers::pi;
        for (int k = 0; k <= half; ++k) {
            const double angle = from + k * std::numbers::pi / half;
            const auto p =
                RegionTools::fine_point({centre.x + r * std::cos(angle), centre.y + r * std::sin(angle)});
            if (ring.empty() || ring.back() != std::pair<long long, long long>(p.X, p.Y))
                ring.emplace_back(p.X, p.Y);
        }
    }
    if (ring.size() > 1 && ring.front() == ring.back()) ring.pop_back();
    return out;
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
    bool inside = false;  // its rings do not cross: each that surrounds the point turns it over
    for (const Fine& ring : rings_) {
        const auto box = RegionTools::box(ring);
        if (at.X < box.x0 || at.X > box.x1 || at.Y < box.y0 || at.Y > box.y1) continue;
        const int where = clip::PointInPolygon(at, RegionTools::fine_path(ring));
        if (where == -1) return true;
        if (where == 1) inside = !inside;
    }
    return inside;
}

double Region::from(Point p) const {
    if (contains(p)) return 0;
    double least = std::numeric_limits<double>::infinity();  // squared, in nm²
    const double x = p.x * RegionTools::fine, y = p.y * RegionTools::fine;
    for (const Fine& ring : rings_)
        for (std::size_t k = 0, last = ring.size() - 1; k < ring.size(); last = k++) {
            const double ax = static_cast<double>(ring[last].first) - x,
                         ay = static_cast<double>(ring[last].second) - y,
                         dx = static_cast<double>(ring[k].first - ring[last].first),
                         dy = static_cast<double>(ring[k].second - ring[last].second);
            const double length = dx * dx + dy * dy;
            const double t = length > 0 ? std::clamp(-(ax * dx + ay * dy) / length, 0.0, 1.0) : 0;
            const double px = ax + t * dx, py = ay + t * dy;
            least = std::min(least, px * px + py * py);
        }
    return std::sqrt(least) / RegionTools::fine;
}

std::vector<Region> Region::pieces() const {
    struct Outer {
        clip::Path path;
        RegionTools::FineBox box;
        double area;
    };
    std::vector<Outer> outers;
    std::vector<Region> all;
    for (const Fine& ring : rings_) {
        const double area = RegionTools::signed_area(ring);
        if (area <= 0) continue;
        outers.push_back({RegionTools::fine_path(ring), RegionTools::box(ring), area});
        all.emplace_back();
        all.back().rings_.push_back(ring);
    }
    const auto surrounds = [](const Outer& outer, const Fine& hole) {
        for (const auto& [x, y] : hole)  // rings may touch at points
            if (const int where = clip::PointInPolygon({x, y}, outer.path); where != -1) return where == 1;
        return true;
    };
    for (const Fine& ring : rings_) {
        if (RegionTools::signed_area(ring) > 0) continue;
        const auto box = RegionTools::box(ring);
        std::size_t nearest = outers.size();
        for (std::size_t k = 0; k < outers.size(); ++k)
            if (outers[k].box.overlaps(box) &&
                (nearest == outers.size() || outers[k].area < outers[nearest].area) &&
                surrounds(outers[k], ring))
                nearest = k;
        if (nearest < outers.size()) all[nearest].rings_.push_back(ring);
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
