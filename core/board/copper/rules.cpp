// Geometric rules of a method, looked at on the finished layout.
#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "board/copper/layout.hpp"

namespace elkit {
namespace {

constexpr double rule_eps = 2e-3;  // mm: chords of circles lie so much inside them

/// A piece of copper with its rim at hand.
struct Rimmed {
    CopperShape shape;
    std::vector<Ring> rings;
    Box box;
};

/// mm from a rim to this line, or more than `enough` where it is farther.
double rim_distance(const Rimmed& s, Point a, Point b, double enough) {
    const Box near{std::min(a.x, b.x) - enough, std::min(a.y, b.y) - enough, std::max(a.x, b.x) + enough,
                   std::max(a.y, b.y) + enough};
    double least = 1e9;
    for (const Ring& ring : s.rings)
        for (std::size_t k = 0, last = ring.size() - 1; k < ring.size() && least > 0; last = k++) {
            const Point p = ring[last], q = ring[k];
            if ((p.x < near.x0 && q.x < near.x0) || (p.x > near.x1 && q.x > near.x1) ||
                (p.y < near.y0 && q.y < near.y0) || (p.y > near.y1 && q.y > near.y1))
                continue;
            least = std::min(least, distance(p, q, a, b));
        }
    return least > 0 && s.shape.region.contains(a) ? 0 : least;
}

/// mm between two pieces of copper, 0 where they touch; or more than `enough`.
double clearance(const Rimmed& a, const Rimmed& b, double enough) {
    const CopperShape &x = a.shape, &y = b.shape;
    if (x.width > 0 && y.width > 0)
        return std::max(0.0, distance(x.a, x.b, y.a, y.b) - x.width / 2 - y.width / 2);
    if (y.width > 0) return std::max(0.0, rim_distance(a, y.a, y.b, enough + y.width / 2) - y.width / 2);
    if (x.width > 0) return clearance(b, a, enough);
    if (x.region.touches(y.region)) return 0;
    double least = 1e9;
    for (const Ring& ring : b.rings)
        for (std::size_t k = 0; k < ring.size(); ++k)
            least = std::min(least, rim_distance(a, ring[k], ring[(k + 1) % ring.size()], enough));
    return least;
}

double to_edge(const CopperLayout& l, Point a, Point b) {
    double least = 1e9;
    for (std::size_t k = 0; k < l.outline.size(); ++k)
        least = std::min(least, distance(a, b, l.outline[k], l.outline[(k + 1) % l.outline.size()]));
    return least;
}

class RuleCheck {
  public:
    explicit RuleCheck(const CopperLayout& l) : l_(l), m_(l.making) {}

    std::vector<RuleFault> run() {
        for (int layer = 0; layer < l_.layers; ++layer) gaps(layer);
        widths();
        holes();
        edges();
        bodies();
        links();
        std::stable_sort(found_.begin(), found_.end(),
                         [](const auto& a, const auto& b) { return a.rule < b.rule; });
        return std::move(found_);
    }

  private:
    template <class... A>
    void fault(const char* rule, Point at, fmt::format_string<A...> words, A&&... args) {
        found_.push_back(
            {rule, fmt::format(words, std::forward<A>(args)...) + ", at " + square_name(at), at});
    }

    void gaps(int layer) {
        std::vector<Rimmed> copper;
        for (CopperShape& s : copper_on(l_, layer)) {
            Rimmed rimmed{std::move(s), {}, no_box};
            rimmed.rings = rimmed.shape.region.rings(), rimmed.box = rimmed.shape.region.bounds();
            copper.push_back(std::move(rimmed));
        }
        for (std::size_t i = 0; i < copper.size(); ++i)
            for (std::size_t k = 0; k < i; ++k) {
                const CopperShape &a = copper[i].shape, &b = copper[k].shape;
                if (a.net == b.net && !a.net.empty()) continue;
                const Box &p = copper[i].box, &q = copper[k].box;
                if (p.x0 - m_.gap > q.x1 || q.x0 - m_.gap > p.x1 || p.y0 - m_.gap > q.y1 ||
                    q.y0 - m_.gap > p.y1)
                    continue;
                const double gap = clearance(copper[i], copper[k], m_.gap);
                if (gap < m_.gap - rule_eps)
                    fault("gap", a.what == "area" ? b.a : a.a,
                          "{} of {} and {} of {} are {:.2f} mm apart, less than {:.2f} mm", a.what,
                          a.net.empty() ? "no net" : a.net, b.what, b.net.empty() ? "no net" : b.net, gap,
                          m_.gap);
            }
    }

    void widths() {
        for (const Track& t : l_.tracks)
            if (t.width < m_.track_least - rule_eps)
                fault("track", t.a, "a track of {} is {:.2f} mm wide, less than {:.2f} mm", t.net, t.width,
                      m_.track_least);
        const auto ring = [&](const std::string& what, Point at, double land, double hole) {
            if ((land - hole) / 2 < m_.ring - rule_eps)
                fault("ring", at, "{} has {:.2f} mm of copper around its hole, less than {:.2f} mm", what,
                      (land - hole) / 2, m_.ring);
        };
        for (const CopperPad& p : l_.pads)
            if (!p.surface()) ring(p.designator + " " + p.pin, p.at, p.land, p.hole);
        for (const Via& v : l_.vias) ring("a via of " + v.net, v.at, v.land, v.hole);
        for (const WireLink& w : l_.links) ring("a link of " + w.net, w.a, w.land, w.hole);
    }

    void holes() {
        const auto all = drilled_holes(l_);
        for (std::size_t i = 0; i < all.size(); ++i) {
            const DrilledHole& h = all[i];
            if (h.diameter < m_.hole_least - rule_eps)
                fault("hole", h.at, "a hole of {:.2f} mm is smaller than {:.2f} mm", h.diameter,
                      m_.hole_least);
            const bool known = m_.holes.empty() ||
                               std::any_of(m_.holes.begin(), m_.holes.end(),
                                           [&](double d) { return std::abs(d - h.diameter) < rule_eps; });
            if (!known) fault("hole", h.at, "there is no drill of {:.2f} mm", h.diameter);
            for (std::size_t k = 0; k < i; ++k)
                if (const double wall = distance(h.at, all[k].at) - h.diameter / 2 - all[k].diameter / 2;
                    wall < m_.hole_gap - rule_eps)
                    fault("hole to hole", h.at, "two holes leave {:.2f} mm between them, less than {:.2f} mm",
                          wall, m_.hole_gap);
            if (const double rim = to_edge(l_, h.at, h.at) - h.diameter / 2; rim < m_.hole_edge - rule_eps)
                fault("hole to edge", h.at, "a hole leaves {:.2f} mm to the edge, less than {:.2f} mm", rim,
                      m_.hole_edge);
        }
    }

    void edges() {
        const Region board = board_region(l_);
        const Region room = board.grown(-(m_.copper_edge - 2 * rule_eps));
        for (int layer = 0; layer < l_.layers; ++layer)
            for (const CopperShape& s : copper_on(l_, layer))
                if (!s.region.without(room).empty())
                    fault("edge", s.what == "area" ? s.region.outer().front().front() : s.a,
                          "{} of {} is less than {:.2f} mm from the edge", s.what,
                          s.net.empty() ? "no net" : s.net, m_.copper_edge);
    }

    void bodies() {
        for (std::size_t i = 0; i < l_.parts.size(); ++i)
            for (std::size_t k = 0; k < i; ++k) {
                const CopperPart &a = l_.parts[i], &b = l_.parts[k];
                if (!a.bounds().overlaps(b.bounds())) continue;
                const Region both = Region::polygon(a.body()).within(Region::polygon(b.body()));
                if (both.area() > 0.05)
                    fault("part on part", a.at, "{} and {} lie over each other on {:.1f} mm²",
                          a.part->designator, b.part->designator, both.area());
            }
        const Region board = board_region(l_);
        for (const CopperPart& p : l_.parts)
            for (const PlainHole& h : l_.holes)
                if (Region::polygon(p.body()).touches(Region::disc(h.at, 2 * h.diameter)))
                    fault("part on screw", h.at, "{} lies under the head of a screw of {:.1f} mm",
                          p.part->designator, h.diameter);
    }

    void links() {
        constexpr double wire = 0.6;
        for (std::size_t i = 0; i < l_.links.size(); ++i) {
            const WireLink& w = l_.links[i];
            const Region lying = Region::stroke(w.a, w.b, wire);
            for (const CopperPart& p : l_.parts)
                if (p.bounds().overlaps(lying.bounds()) && Region::polygon(p.body()).touches(lying))
                    fault("link", w.a, "a link of {} runs under {}", w.net, p.part->designator);
            for (std::size_t k = 0; k < i; ++k)
                if (w.net != l_.links[k].net &&  // bare wires of one net may touch
                    distance(w.a, w.b, l_.links[k].a, l_.links[k].b) < wire)
                    fault("link", w.a, "links of {} and {} touch", w.net, l_.links[k].net);
        }
    }

    const CopperLayout& l_;
    const Making& m_;
    std::vector<RuleFault> found_;
};

}  // namespace

std::vector<RuleFault> rule_faults(const CopperLayout& layout) { return RuleCheck(layout).run(); }

}  // namespace elkit
