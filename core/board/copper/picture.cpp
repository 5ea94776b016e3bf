// A board of copper as it lies on the bench: from the component side, and turned over.
#include <algorithm>
#include <cmath>

#include "board/copper/layout.hpp"
#include "board/part_painter.hpp"

namespace elkit {
namespace {

constexpr double margin = 5.5;  // mm around the board for the names of its squares
constexpr unsigned copper = 0xd8a27a, copper_beneath = 0xecd6c3;

class CopperPainter {
  public:
    CopperPainter(const CopperLayout& l, bool mirrored) : l_(l), mirrored_(mirrored), painter_(d_) {
        d_.width = l.width() + 2 * margin, d_.height = l.height() + 2 * margin;
        d_.title = mirrored ? "Solder side, mirrored" : "Component side";
    }

    Drawing component_side() {
        board();
        if (l_.layers > 1)
            layer(component_side_layer, copper);
        else
            layer(solder_side, copper_beneath);  // as it shines through
        for (const CopperPad& p : l_.pads) hole(p.at, p.hole);
        vias();
        for (const WireLink& w : l_.links) {
            line(w.a, w.b, {Ink::ink, 0.6}, "link");
            for (const Point end : {w.a, w.b}) hole(end, w.hole), keep(end, 0.6);
        }
        for (const CopperPart& p : l_.parts) painter_.part(lying(p));
        texts();
        painter_.write_names();
        return std::move(d_);
    }

    Drawing solder_side_up() {
        board();
        layer(solder_side, copper);
        for (const CopperPad& p : l_.pads) hole(p.at, p.hole);
        for (const WireLink& w : l_.links)
            for (const Point end : {w.a, w.b}) hole(end, w.hole);
        vias();
        for (const CopperPart& p : l_.parts) painter_.name_at_pins(lying(p));
        painter_.write_names();
        return std::move(d_);
    }

  private:
    static constexpr int component_side_layer = elkit::component_side;

    double x(double mm) const { return mirrored_ ? d_.width - margin - mm : margin + mm; }
    double y(double mm) const { return margin + mm; }
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
        for (const KeepOut& k : l_.keep_out)
            d_.add(Rect{std::min(x(k.x), x(k.x + k.width)), y(k.y), k.width, k.height, 0.3},
                   {Ink::muted, 0.25, Ink::none, 1, 0, true}, "free");
        const double square = 2.54;
        for (int k = 0; (k + 0.5) * square < l_.width(); ++k) {
            const std::string name = square_name({(k + 0.5) * square, 0});
            const std::string letters = name.substr(0, name.size() - 1);
            if (letters.size() > 1 && k % 2 == 1) continue;  // two letters take the room of two
            d_.text(x((k + 0.5) * square), margin - 1.2, letters, 1.9, Ink::muted, false, Anchor::middle);
        }
        for (int k = 0; (k + 0.5) * square < l_.height(); ++k)
            d_.text(margin - 1.2, y((k + 0.5) * square) + 0.65, std::to_string(k + 1), 1.9, Ink::muted, false,
                    Anchor::end);
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
        for (const CopperPad& p : l_.pads) {
            if (which != solder_side && !l_.making.plated) continue;
            const double h = p.land / 2;
            if (p.square)
                d_.add(Rect{x(p.at.x) - h, y(p.at.y) - h, 2 * h, 2 * h, 0}, {Ink::none, 0, Ink::rgb, 1, rgb},
                       ref(p.net));
            else
                d_.add(Circle{x(p.at.x), y(p.at.y), h}, {Ink::none, 0, Ink::rgb, 1, rgb}, ref(p.net));
        }
        for (const Via& v : l_.vias)
            d_.add(Circle{x(v.at.x), y(v.at.y), v.land / 2}, {Ink::none, 0, Ink::rgb, 1, rgb}, ref(v.net));
        if (which == solder_side)
            for (const WireLink& w : l_.links)
                for (const Point end : {w.a, w.b})
                    d_.add(Circle{x(end.x), y(end.y), w.land / 2}, {Ink::none, 0, Ink::rgb, 1, rgb},
                           ref(w.net));
    }
    void vias() {
        for (const Via& v : l_.vias) hole(v.at, v.hole);
    }
    void hole(Point at, double diameter) {
        d_.add(Circle{x(at.x), y(at.y), diameter / 2}, {Ink::ink, 0.1, Ink::paper}, "");
    }
    void texts() {
        for (const BoardText& t : l_.texts) d_.text(x(t.x), y(t.y), t.text, t.size, Ink::ink, true);
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
