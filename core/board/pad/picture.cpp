#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

#include "board/pad/layout.hpp"
#include "board/pad/names.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

constexpr double name_margin = 5.5;  // mm around the board for the row and column names

class BoardPainter {
  public:
    BoardPainter(const PadLayout& layout, const Circuit& circuit, bool mirrored)
        : l_(layout), circuit_(circuit), mirrored_(mirrored) {
        d_.width = l_.width() + 2 * name_margin;
        d_.height = l_.height() + 2 * name_margin;
        d_.title = mirrored ? "Solder side, mirrored" : "Component side";
    }

    Drawing component_side() {
        board();
        for (const auto& j : l_.jumpers)
            d_.add(Line{x(j.a.column), y(j.a.row), x(j.b.column), y(j.b.row)},
                   {Ink::faint, 0.4, Ink::none, 1, 0, true}, "jumper");
        for (const Part& p : circuit_.parts) part(p);
        write_names(d_, names_, obstacles_);
        return std::move(d_);
    }

    Drawing solder_side() {
        board();
        for (const auto& b : l_.bridges)
            d_.add(Line{x(b.a.column), y(b.a.row), x(b.b.column), y(b.b.row)}, {Ink::muted, 1.5}, "bridge");
        for (const auto& pin : l_.pins) {
            d_.add(Circle{x(pin.hole.column), y(pin.hole.row), 1.0},
                   {Ink::none, 0, pin.net.empty() ? Ink::faint : Ink::muted}, "hole:" + hole_name(pin.hole));
            d_.add(Circle{x(pin.hole.column), y(pin.hole.row), 0.38}, {Ink::none, 0, Ink::ink},
                   "hole:" + hole_name(pin.hole));
        }
        for (const auto& j : l_.jumpers) jumper(j);
        for (const auto& p : circuit_.parts) {
            const auto pins = placed_pins(p, *l_.placement(p.designator));
            const auto [mx, my] = middle(pins);
            BoardName name{p.designator, "part:" + p.designator, Ink::structure, true, {}};
            for (const double size : {1.5, 1.2}) {
                name.spots.push_back({mx, my, size});
                for (const double far : {0.6, 1.3, 2.5})
                    for (const auto& spot :
                         around({mx - far, my - far, mx + far, my + far}, p.designator, size))
                        name.spots.push_back(spot);
            }
            names_.push_back(std::move(name));
            for (const auto& pin : pins) pad(pin.hole, 1.0);
        }
        write_names(d_, names_, obstacles_);
        return std::move(d_);
    }

  private:
    double x(double column) const {
        const double at = name_margin + (column + 0.5) * pad_pitch;
        return mirrored_ ? d_.width - at : at;
    }
    double y(double row) const { return name_margin + (row + 0.5) * pad_pitch; }

    void pad(const Hole& hole, double r) {
        const double cx = x(hole.column), cy = y(hole.row);
        obstacles_.push_back({{cx - r, cy - r, cx + r, cy + r}, {}});
    }

    void board() {
        d_.add(Rect{name_margin, name_margin, l_.width(), l_.height(), 0.8}, {Ink::ink, 0.3, Ink::card},
               "board");
        for (int r = 0; r < l_.rows; ++r)
            for (int c = 0; c < l_.columns; ++c)
                d_.add(Circle{x(c), y(r), 0.42}, {Ink::faint, 0.18, Ink::none}, "hole:" + hole_name({c, r}));
        for (int c = 0; c < l_.columns; ++c) {
            std::string name = hole_name({c, 0});
            name.pop_back();
            if (name.size() > 1 && c % 2 == 1) continue;  // two letters take the room of two
            d_.text(x(c), name_margin - 1.2, name, 1.9, Ink::muted, false, Anchor::middle);
        }
        for (int r = 0; r < l_.rows; ++r)
            d_.text(name_margin - 1.2, y(r) + 0.65, std::to_string(r + 1), 1.9, Ink::muted, false,
                    Anchor::end);
    }

    void jumper(const Jumper& j) {
        const double x1 = x(j.a.column), y1 = y(j.a.row), x2 = x(j.b.column), y2 = y(j.b.row);
        const double bend = 0.18 * std::hypot(x2 - x1, y2 - y1);
        const double mx = (x1 + x2) / 2 + (y2 - y1) / std::max(std::hypot(x2 - x1, y2 - y1), 0.1) * bend,
                     my = (y1 + y2) / 2 - (x2 - x1) / std::max(std::hypot(x2 - x1, y2 - y1), 0.1) * bend;
        d_.add(Polygon{{{x1, y1}, {mx, my}, {x2, y2}}, false}, {Ink::attention, 0.7}, "jumper");
    }

    /// A part as it lies here.
    struct Lying {
        const Part& part;
        std::vector<PinHole> pins;
        Box body;  // mm
        std::string ref;
        double x1, y1, x2, y2;  // first and last pad
        double mx() const { return (x1 + x2) / 2; }
        double my() const { return (y1 + y2) / 2; }
        bool flat() const { return std::abs(y1 - y2) < 0.1; }
        // of the body
        double cx() const { return (body.x0 + body.x1) / 2; }
        double cy() const { return (body.y0 + body.y1) / 2; }
        double radius() const { return std::min(body.x1 - body.x0, body.y1 - body.y0) / 2; }
        Rect outline(double corner) const {
            return {body.x0, body.y0, body.x1 - body.x0, body.y1 - body.y0, corner};
        }
    };

    std::pair<double, double> middle(const std::vector<PinHole>& pins) const {
        double sx = 0, sy = 0;
        for (const auto& pin : pins) sx += x(pin.hole.column), sy += y(pin.hole.row);
        const auto n = static_cast<double>(std::max<std::size_t>(pins.size(), 1));
        return {sx / n, sy / n};
    }

    void part(const Part& p) {
        const Placement& placement = *l_.placement(p.designator);
        const GridFootprint shape = on_grid(footprint(p));
        const auto pins = placed_pins(p, placement);
        if (pins.empty()) return;
        const Box b = placed_body(shape, placement);
        const Hole last = pins.size() == 2 ? pins[1].hole : pins.back().hole;
        const Lying at{p,
                       pins,
                       {std::min(x(b.x0), x(b.x1)), y(b.y0), std::max(x(b.x0), x(b.x1)), y(b.y1)},
                       "part:" + p.designator,
                       x(pins[0].hole.column),
                       y(pins[0].hole.row),
                       x(last.column),
                       y(last.row)};
        using Painter = void (BoardPainter::*)(const Lying&);
        static const std::map<std::string_view, Painter> painters{
            {"axial", &BoardPainter::axial},   {"dome", &BoardPainter::dome},
            {"leads", &BoardPainter::leads},   {"box", &BoardPainter::box},
            {"disc", &BoardPainter::disc},     {"can", &BoardPainter::can},
            {"dip", &BoardPainter::dip},       {"half-round", &BoardPainter::half_round},
            {"toroid", &BoardPainter::toroid}, {"header", &BoardPainter::box}};
        const auto painter = painters.find(shape.picture);
        (this->*(painter == painters.end() ? &BoardPainter::box : painter->second))(at);
        obstacles_.push_back({at.body, at.ref});
        for (const auto& pin : pins) {
            d_.add(Circle{x(pin.hole.column), y(pin.hole.row), 0.5}, {Ink::none, 0, Ink::ink}, at.ref);
            pad(pin.hole, 0.5);
        }
        if (shape.picture == "half-round") pin_names(at);
    }

    /// Names of pins beside their pads, where a part could be put in the wrong way.
    void pin_names(const Lying& at) {
        if (at.pins.size() < 3) return;
        const double my = middle(at.pins).second;
        for (const auto& pin : at.pins) {
            if (pin.pin.empty()) continue;
            const double px = x(pin.hole.column), py = y(pin.hole.row);
            const double dy = py < my - 0.1 ? 1.5 : -0.8;
            d_.text(px, py + dy, pin.pin, 1.0, Ink::muted, false, Anchor::middle, at.ref);
        }
    }

    /// The designator at one of these spots, smaller there, along the body, beside it, or small beside it.
    void name(const Lying& at, const std::vector<std::pair<double, double>>& middles, double size) {
        const double smaller = 0.8 * size;
        BoardName name{at.part.designator, at.ref, Ink::ink, false, {}};
        for (const bool upward : {false, true})
            for (const double s : {size, smaller})
                for (const auto& [mx, my] : middles)
                    if (fits(at, s, upward)) name.spots.push_back({mx, my, s, upward});
        for (const double s : {size, smaller, 0.65 * size})
            for (const auto& spot : around(at.body, at.part.designator, s)) name.spots.push_back(spot);
        names_.push_back(std::move(name));
    }
    /// Words that are wider than the body run into the neighbour's.
    bool fits(const Lying& at, double size, bool upward) const {
        const double w = text_width(at.part.designator, size, true);
        return w <= (upward ? at.body.y1 - at.body.y0 : at.body.x1 - at.body.x0) + 0.3;
    }
    void name_in_the_middle(const Lying& at, double size) {
        const auto [mx, my] = middle(at.pins);
        const double up = 0.3 * (at.body.y1 - at.body.y0), across = 0.25 * (at.body.x1 - at.body.x0);
        name(at,
             {{at.cx(), at.cy()},
              {mx, my},
              {at.cx(), at.cy() + up},
              {at.cx(), at.cy() - up},
              {at.cx() - across, at.cy()},
              {at.cx() + across, at.cy()}},
             size);
    }

    void box(const Lying& at) {
        d_.add(at.outline(0.5), {Ink::ink, 0.25, Ink::faint}, at.ref);
        name_in_the_middle(at, 1.8);
    }

    void disc(const Lying& at) {
        d_.add(at.outline(1.2), {Ink::ink, 0.25, Ink::paper}, at.ref);
        name_in_the_middle(at, 1.6);
    }

    /// A can standing up, with its stripe at the minus pin.
    void can(const Lying& at) {
        const double cx = at.cx(), cy = at.cy(), r = at.radius();
        d_.add(Circle{cx, cy, r}, {Ink::ink, 0.3, Ink::paper}, at.ref);
        if (is(at.part, Role::polar)) {
            const double long_way = std::max(std::hypot(at.x2 - at.x1, at.y2 - at.y1), 0.1),
                         dx = (at.x2 - at.x1) / long_way, dy = (at.y2 - at.y1) / long_way;
            const double fx = cx + dx * r * 0.78, fy = cy + dy * r * 0.78;
            d_.add(Line{fx - dy * r * 0.5, fy + dx * r * 0.5, fx + dy * r * 0.5, fy - dx * r * 0.5},
                   {Ink::ink, 0.9}, at.ref);
        }
        name_in_the_middle(at, 1.6);
    }

    /// The hole of the leg that is marked as the first.
    static std::size_t first_leg(const Lying& at) {
        const PartKind* kind = part_kind(at.part.kind);
        for (std::size_t k = 0; kind && k < at.pins.size(); ++k)
            if (const auto* mark = kind->legs.of(at.pins[k].pin); mark && mark->mark == "first") return k;
        return 0;
    }

    /// A chip's body with its notch at the end of leg 1.
    void dip(const Lying& at) {
        box(at);
        const std::size_t first = first_leg(at);
        const double px = x(at.pins[first].hole.column), py = y(at.pins[first].hole.row);
        double dx = 0, dy = 0, nearest = std::numeric_limits<double>::infinity();  // to the next in its row
        for (const PinHole& pin : at.pins) {
            const double ox = x(pin.hole.column) - px, oy = y(pin.hole.row) - py, far = std::hypot(ox, oy);
            if (far > 0.1 && far < nearest) nearest = far, dx = ox, dy = oy;
        }
        const double cx = at.cx(), cy = at.cy();
        const bool along = std::abs(dx) > std::abs(dy);
        const double ex = along ? (dx > 0 ? at.body.x0 : at.body.x1) : cx,
                     ey = along ? cy : (dy > 0 ? at.body.y0 : at.body.y1);
        d_.add(Circle{ex, ey, 0.8}, {Ink::ink, 0.25, Ink::card}, at.ref);
        const double tx = along ? 0 : (px < cx ? 1.3 : -1.3), ty = along ? (py < cy ? 1.9 : -0.9) : 0.5;
        d_.text(px + tx, py + ty, "1", 1.4, Ink::ink, false, Anchor::middle, at.ref);
    }

    void half_round(const Lying& at) {
        d_.add(at.outline(1.9), {Ink::ink, 0.25, Ink::paper}, at.ref);
        name_in_the_middle(at, 1.6);
    }

    void toroid(const Lying& at) {
        const double cx = at.cx(), cy = at.cy(), r = at.radius();
        d_.add(Circle{cx, cy, r}, {Ink::ink, 0.3, Ink::faint}, at.ref);
        d_.add(Circle{cx, cy, r / 2}, {Ink::ink, 0.3, Ink::card}, at.ref);
        name_in_the_middle(at, 1.6);
    }

    void axial(const Lying& at) {
        const Part& p = at.part;
        const bool bands = part_kind(p.kind)->marking == "bands";
        d_.add(Line{at.x1, at.y1, at.x2, at.y2}, {Ink::ink, 0.5}, at.ref);
        const double length = bands ? 6.3 : 4, half = bands ? 1.15 : 0.95;
        const bool flat = at.flat();
        const double mx = at.mx(), my = at.my();
        d_.add(flat ? Rect{mx - length / 2, my - half, length, 2 * half, 0.9}
                    : Rect{mx - half, my - length / 2, 2 * half, length, 0.9},
               {Ink::ink, 0.25, Ink::paper}, at.ref);
        const double sign = flat ? (at.x2 > at.x1 ? 1 : -1) : (at.y2 > at.y1 ? 1 : -1);
        const auto stripe = [&](double t, double width, unsigned rgb) {  // t from the first pin's end, in mm
            const double middle = (flat ? mx : my) + sign * (t - length / 2);
            d_.add(flat ? Rect{middle - width / 2, my - half, width, 2 * half, 0}
                        : Rect{mx - half, middle - width / 2, 2 * half, width, 0},
                   {Ink::none, 0, Ink::rgb, 1, rgb}, at.ref);
        };
        if (!bands) {
            stripe(3.2, 0.6, 0x1d1d1f);
            return name(at, {{flat ? mx - sign * 0.7 : mx, flat ? my : my - sign * 0.7}}, 1.5);
        }
        const double gap = sign * 1.0;  // the name stands between the band before the last and the last
        name(at, {{mx + (flat ? gap : 0), my + (flat ? 0 : gap)}}, 1.5);
        if (const auto colours = colour_bands(p.number("value"), p.number("tolerance"))) {
            const auto& names = colours.value().names;
            for (std::size_t k = 0; k < names.size(); ++k)
                stripe(0.55 + (k + 1 == names.size() ? 5.25 : double(k) * 0.62), 0.44, band_rgb(names[k]));
        }
    }

    /// A round body with a flat at its last pin: lights, and what looks like them.
    void dome(const Lying& at) {
        const LedType* type =
            is(at.part, Role::light) ? known_catalogue().led(at.part.text("type")) : nullptr;
        const double r = at.radius() - 0.4;
        const double mx = at.cx(), my = at.cy();
        const unsigned rgb = type ? type->colour() : 0xd8d4c8;
        d_.add(Circle{mx, my, r}, {Ink::ink, 0.3, Ink::rgb, 0.5, rgb}, at.ref);
        const double long_way = std::max(std::hypot(at.x2 - at.x1, at.y2 - at.y1), 0.1);
        const double dx = (at.x2 - at.x1) / long_way, dy = (at.y2 - at.y1) / long_way;
        if (part_kind(at.part.kind)->polarised) {
            const double fx = mx + dx * r * 0.94, fy = my + dy * r * 0.94;
            d_.add(Line{fx - dy * r * 0.55, fy + dx * r * 0.55, fx + dy * r * 0.55, fy - dx * r * 0.55},
                   {Ink::ink, 0.7}, at.ref);
            d_.text(mx - dx * (r + 0.55), my - dy * (r + 0.55) + 0.55, "+", 1.7, Ink::ink, true,
                    Anchor::middle, at.ref);
        }
        name_in_the_middle(at, 2.0);
    }

    void leads(const Lying& at) {
        d_.add(at.outline(0.8), {Ink::ink, 0.25, Ink::paper, 1, 0, true}, at.ref);
        const double long_way = std::max(std::hypot(at.x2 - at.x1, at.y2 - at.y1), 0.1);
        const double ux = (at.x2 - at.x1) / long_way, uy = (at.y2 - at.y1) / long_way;
        if (part_kind(at.part.kind)->polarised && at.pins.size() == 2) {
            d_.text(at.x1 + 1.05 * ux, at.y1 + 1.05 * uy + 0.55, "+", 1.7, Ink::attention, true,
                    Anchor::middle, at.ref);
            d_.text(at.x2 - 1.05 * ux, at.y2 - 1.05 * uy + 0.55, "−", 1.7, Ink::ink, true, Anchor::middle,
                    at.ref);
        }
        name_in_the_middle(at, 1.5);
    }

    const PadLayout& l_;
    const Circuit& circuit_;
    bool mirrored_;
    Drawing d_;
    std::vector<BoardName> names_;
    std::vector<BoardObstacle> obstacles_;
};

}  // namespace

Drawing draw_component_side(const PadLayout& layout, const Circuit& circuit) {
    return BoardPainter(layout, circuit, false).component_side();
}
Drawing draw_solder_side(const PadLayout& layout, const Circuit& circuit) {
    return BoardPainter(layout, circuit, true).solder_side();
}

}  // namespace elkit
