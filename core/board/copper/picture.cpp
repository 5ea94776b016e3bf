// A board of copper as it lies on the bench: from the component side, and turned over.
#include <algorithm>
#include <cmath>

#include "board/copper/layout.hpp"
#include "board/copper/words.hpp"
#include "board/part_painter.hpp"

namespace elkit {
namespace {

constexpr double around_board = 5.5;  // mm around the board for the names of its squares
constexpr unsigned bare_copper = 0xd8a27a, copper_beneath = 0xecd6c3;

class CopperPainter {
  public:
    CopperPainter(const CopperLayout& l, bool mirrored) : l_(l), mirrored_(mirrored), painter_(d_) {
        d_.width = l.width() + 2 * around_board, d_.height = l.height() + 2 * around_board;
        d_.title = mirrored ? "Solder side, mirrored" : "Component side";
    }

    Drawing component_side() {
        board();
        if (l_.layers > 1)
            layer(component_side_layer, bare_copper);
        else
            layer(solder_side, copper_beneath);  // as it shines through
        legs();
        vias();
        for (const WireLink& w : l_.links) {
            line(w.a, w.b, {Ink::ink, 0.6}, "link");
            for (const Point end : {w.a, w.b}) hole(end, w.hole), keep(end, 0.6);
        }
        for (const CopperPart& p : l_.parts) painter_.part(lying(p));
        if (!l_.making.milled()) texts();
        painter_.write_names();
        unjoined();
        pulls(true);
        return std::move(d_);
    }

    Drawing solder_side_up() {
        board();
        layer(solder_side, bare_copper);
        legs();
        for (const WireLink& w : l_.links)
            for (const Point end : {w.a, w.b}) hole(end, w.hole);
        vias();
        for (const CopperPart& p : l_.parts)
            if (!p.footprint.surface) painter_.name_at_pins(lying(p));
        if (l_.making.milled()) texts();
        painter_.write_names();
        unjoined();
        pulls(false);
        return std::move(d_);
    }

  private:
    static constexpr int component_side_layer = elkit::component_side;

    double x(double mm) const { return mirrored_ ? d_.width - around_board - mm : around_board + mm; }
    double y(double mm) const { return around_board + mm; }
    void line(Point a, Point b, const Style& style, const std::string& ref) {
        d_.add(Line{x(a.x), y(a.y), x(b.x), y(b.y)}, style, ref);
    }
    void keep(Point p, double r) { painter_.keep_free({x(p.x) - r, y(p.y) - r, x(p.x) + r, y(p.y) + r}); }
    Polygon polygon(const Ring& ring) const {
        Polygon out;
        for (const Point p : ring) out.points.emplace_back(x(p.x), y(p.y));
        return out;
    }

    void board() {
        d_.add(polygon(l_.outline), {Ink::ink, 0.3, Ink::card}, "board");
        for (const PlainHole& h : l_.holes)
            d_.add(Circle{x(h.at.x), y(h.at.y), h.diameter / 2}, {Ink::ink, 0.3, Ink::paper}, "hole");
        for (std::size_t k = 0; k < l_.keep_out.size(); ++k) {
            const KeepOut& free = l_.keep_out[k];
            d_.add(Rect{std::min(x(free.x), x(free.x + free.width)), y(free.y), free.width, free.height, 0.3},
                   {Ink::muted, 0.25, Ink::card, 1, 0, true}, "free:" + std::to_string(k));
        }
        const double square = 2.54;
        for (int k = 0; (k + 0.5) * square < l_.width(); ++k) {
            const std::string name = square_name({(k + 0.5) * square, 0});
            const std::string letters = name.substr(0, name.size() - 1);
            if (letters.size() > 1 && k % 2 == 1) continue;  // two letters take the room of two
            d_.text(x((k + 0.5) * square), around_board - 1.2, letters, 1.9, Ink::muted, false,
                    Anchor::middle);
        }
        for (int k = 0; (k + 0.5) * square < l_.height(); ++k)
            d_.text(around_board - 1.2, y((k + 0.5) * square) + 0.65, std::to_string(k + 1), 1.9, Ink::muted,
                    false, Anchor::end);
    }

    void layer(int which, unsigned rgb) {
        const auto ref = [](const std::string& net) {
            return net.empty() ? std::string("copper") : "net:" + net;
        };
        for (const CopperArea& a : l_.areas) {
            if (a.layer != which) continue;
            for (const Region& piece : a.copper.pieces()) {
                const auto outer = piece.outer();
                for (const Ring& ring : piece.rings()) {
                    const bool is_outer = ring == outer.front();
                    d_.add(polygon(ring), {Ink::none, 0, is_outer ? Ink::rgb : Ink::card, 1, rgb},
                           is_outer ? ref(a.net) : "");
                }
            }
        }
        for (const Track& t : l_.tracks) {
            if (t.layer != which) continue;
            for (const Ring& ring : Region::stroke(t.a, t.b, t.width).outer())
                d_.add(polygon(ring), {Ink::none, 0, Ink::rgb, 1, rgb}, ref(t.net));
        }
        for (const Teardrop& t : l_.teardrops)
            if (t.layer == which) d_.add(polygon(t.ring), {Ink::none, 0, Ink::rgb, 1, rgb}, ref(t.net));
        for (const CopperPad& p : l_.pads) {
            if (!p.on(which, l_.making.plated)) continue;
            if (p.square || p.surface())
                d_.add(polygon(p.corners()), {Ink::none, 0, Ink::rgb, 1, rgb}, ref(p.net));
            else
                d_.add(Circle{x(p.at.x), y(p.at.y), p.land / 2}, {Ink::none, 0, Ink::rgb, 1, rgb},
                       ref(p.net));
        }
        for (const Via& v : l_.vias)
            d_.add(Circle{x(v.at.x), y(v.at.y), v.land / 2}, {Ink::none, 0, Ink::rgb, 1, rgb}, ref(v.net));
        if (which == solder_side)
            for (const WireLink& w : l_.links)
                for (const Point end : {w.a, w.b})
                    d_.add(Circle{x(end.x), y(end.y), w.land / 2}, {Ink::none, 0, Ink::rgb, 1, rgb},
                           ref(w.net));
    }
    /// A dashed line from pad to pad where tracks found no way.
    void unjoined() {
        for (const Unjoined& u : l_.unjoined)
            line(u.a, u.b, {Ink::attention, 0.3, Ink::none, 1, 0, true}, "net:" + u.net);
    }
    /// A ring where a track was pulled to; an empty one, dashed, where it found no room.
    void pulls(bool on_component_side) {
        for (std::size_t k = 0; k < l_.pulls.size(); ++k) {
            const TrackPull& p = l_.pulls[k];
            if (l_.layers > 1 && p.component_side != on_component_side) continue;
            const bool passed = is_passed(l_, p);
            d_.add(Circle{x(p.x), y(p.y), 0.7},
                   {Ink::structure, 0.25, passed ? Ink::card : Ink::none, 1, 0, !passed},
                   "pull:" + std::to_string(k));
        }
    }
    void legs() {
        for (const CopperPad& p : l_.pads)
            if (!p.surface()) hole(p.at, p.hole);
    }
    void vias() {
        for (const Via& v : l_.vias) hole(v.at, v.hole);
    }
    void hole(Point at, double diameter) {
        d_.add(Circle{x(at.x), y(at.y), diameter / 2}, {Ink::ink, 0.1, Ink::paper}, "");
    }
    void texts() {
        for (const BoardText& t : l_.texts)
            for (const auto& stroke : word_strokes(l_, t))
                for (std::size_t k = 1; k < stroke.size(); ++k)
                    line(stroke[k - 1], stroke[k], {Ink::ink, 0.15 * t.size}, "");
    }

    LyingPart lying(const CopperPart& p) const {
        LyingPart at{p.part, p.footprint.picture, {}, no_box};
        for (const Pad& pad : p.footprint.pads) {
            const Point q = p.pad(pad);
            at.pins.push_back({pad.pin, x(q.x), y(q.y)});
        }
        for (const Point q : p.body()) widen(at.body, Point{x(q.x), y(q.y)});
        return at;
    }

    const CopperLayout& l_;
    bool mirrored_;
    Drawing d_;
    PartPainter painter_;
};

}  // namespace

std::vector<BoardSide> copper_sides(const CopperLayout& layout) {
    std::vector<BoardSide> sides;
    for (const bool mirrored : {false, true}) {
        CopperPainter painter(layout, mirrored);
        Drawing side = mirrored ? painter.solder_side_up() : painter.component_side();
        std::string title = side.title;
        sides.push_back({std::move(title), std::move(side)});
    }
    return sides;
}

}  // namespace elkit
