#include "board/part_painter.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

/// The leg that is marked as the first.
std::size_t first_leg(const Part& part, const std::vector<LyingPart::Leg>& pins) {
    const PartKind* kind = part_kind(part.kind);
    for (std::size_t k = 0; kind && k < pins.size(); ++k)
        if (const auto* mark = kind->legs.of(pins[k].pin); mark && mark->mark == "first") return k;
    return 0;
}

bool polarised(const Part& part) {
    const PartKind* kind = part_kind(part.kind);
    return kind && kind->polarised;
}

}  // namespace

void PartPainter::pad(double x, double y, double r) { keep_free({x - r, y - r, x + r, y + r}); }

void PartPainter::part(const LyingPart& lying) {
    if (lying.pins.empty()) return;
    const LyingPart::Leg &first = lying.pins.front(), &last = lying.pins.back();
    const Lying at{*lying.part, lying.pins, lying.body, "part:" + lying.part->designator,
                   first.x,     first.y,    last.x,     last.y};
    using Painter = void (PartPainter::*)(const Lying&);
    static const std::map<std::string_view, Painter> painters{
        {"axial", &PartPainter::axial},   {"standing", &PartPainter::standing},
        {"dome", &PartPainter::dome},     {"leads", &PartPainter::leads},
        {"box", &PartPainter::box},       {"disc", &PartPainter::disc},
        {"can", &PartPainter::can},       {"can-lying", &PartPainter::can_lying},
        {"dip", &PartPainter::dip},       {"half-round", &PartPainter::half_round},
        {"tab", &PartPainter::tab},       {"tab-lying", &PartPainter::tab},
        {"toroid", &PartPainter::toroid}, {"header", &PartPainter::box},
        {"clamp", &PartPainter::clamp},   {"holder", &PartPainter::holder},
        {"flat", &PartPainter::flat},     {"flat-chip", &PartPainter::flat_chip}};
    const auto painter = painters.find(lying.picture);
    (this->*(painter == painters.end() ? &PartPainter::box : painter->second))(at);
    obstacles_.push_back({at.body, at.ref});
    if (lying.picture.starts_with("flat")) return;  // its lands are seen
    for (const auto& pin : at.pins) {
        d_.add(Circle{pin.x, pin.y, 0.5}, {Ink::none, 0, Ink::ink}, at.ref);
        pad(pin.x, pin.y, 0.5);
    }
    if (lying.picture == "half-round" || lying.picture.starts_with("tab")) pin_names(at);
}

void PartPainter::name_at_pins(const LyingPart& lying) {
    const std::string& designator = lying.part->designator;
    const auto [mx, my] = middle(lying.pins);
    BoardName name{designator, "part:" + designator, Ink::structure, true, {}};
    for (const double size : {1.5, 1.2}) {
        name.spots.push_back({mx, my, size});
        for (const double far : {0.6, 1.3, 2.5})
            for (const auto& spot : around({mx - far, my - far, mx + far, my + far}, designator, size))
                name.spots.push_back(spot);
    }
    names_.push_back(std::move(name));
    for (const auto& pin : lying.pins) pad(pin.x, pin.y, 1.0);
}

std::pair<double, double> PartPainter::middle(const std::vector<LyingPart::Leg>& pins) {
    double sx = 0, sy = 0;
    for (const auto& pin : pins) sx += pin.x, sy += pin.y;
    const auto n = static_cast<double>(std::max<std::size_t>(pins.size(), 1));
    return {sx / n, sy / n};
}

/// Names of pins beside their pads, where a part could be put in the wrong way.
void PartPainter::pin_names(const Lying& at) {
    if (at.pins.size() < 3) return;
    const double my = middle(at.pins).second;
    for (const auto& pin : at.pins) {
        if (pin.pin.empty()) continue;
        const double px = pin.x, py = pin.y;
        const double dy = py < my - 0.1 ? 1.5 : -0.8;
        d_.text(px, py + dy, pin.pin, 1.0, Ink::muted, false, Anchor::middle, at.ref);
    }
}

/// The designator at one of these spots, smaller there, along the body, beside it, or small beside it.
void PartPainter::name(const Lying& at, const std::vector<std::pair<double, double>>& middles, double size) {
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
bool PartPainter::fits(const Lying& at, double size, bool upward) {
    const double w = text_width(at.part.designator, size, true);
    return w <= (upward ? at.body.y1 - at.body.y0 : at.body.x1 - at.body.x0) + 0.3;
}
void PartPainter::name_in_the_middle(const Lying& at, double size) {
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

void PartPainter::box(const Lying& at) {
    d_.add(at.outline(0.5), {Ink::ink, 0.25, Ink::faint}, at.ref);
    name_in_the_middle(at, 1.8);
}

void PartPainter::disc(const Lying& at) {
    d_.add(at.outline(1.2), {Ink::ink, 0.25, Ink::paper}, at.ref);
    name_in_the_middle(at, 1.6);
}

/// A can standing up, with its stripe at the minus pin.
void PartPainter::can(const Lying& at) {
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

/// A chip's body with its notch at the end of leg 1.
void PartPainter::dip(const Lying& at) {
    box(at);
    const std::size_t first = first_leg(at.part, at.pins);
    const double px = at.pins[first].x, py = at.pins[first].y;
    double dx = 0, dy = 0, nearest = std::numeric_limits<double>::infinity();  // to the next in its row
    for (const LyingPart::Leg& pin : at.pins) {
        const double ox = pin.x - px, oy = pin.y - py, far = std::hypot(ox, oy);
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

/// On the surface: its caps at both ends, the marked end, or the first of its lands.
void PartPainter::flat(const Lying& at) {
    d_.add(at.outline(0.15), {Ink::ink, 0.2, Ink::paper}, at.ref);
    const bool across = at.body.x1 - at.body.x0 > at.body.y1 - at.body.y0;
    if (at.pins.size() == 2 && polarised(at.part)) {  // the end at its last land
        const bool high = across ? at.x2 > at.x1 : at.y2 > at.y1;
        const double thick = 0.35;
        d_.add(
            across
                ? Rect{high ? at.body.x1 - thick : at.body.x0, at.body.y0, thick, at.body.y1 - at.body.y0, 0}
                : Rect{at.body.x0, high ? at.body.y1 - thick : at.body.y0, at.body.x1 - at.body.x0, thick, 0},
            {Ink::none, 0, Ink::ink}, at.ref);
    } else if (at.pins.size() > 2) {
        d_.add(Circle{at.x1 + 0.25 * (at.cx() - at.x1), at.y1 + 0.45 * (at.cy() - at.y1), 0.25},
               {Ink::none, 0, Ink::ink}, at.ref);
    }
    name_in_the_middle(at, std::clamp(0.75 * 2 * at.radius(), 0.8, 1.5));
}
void PartPainter::flat_chip(const Lying& at) {
    d_.add(at.outline(0.3), {Ink::ink, 0.25, Ink::paper}, at.ref);
    const std::size_t first = first_leg(at.part, at.pins);
    d_.add(Circle{at.pins[first].x + 0.3 * (at.cx() - at.pins[first].x) * (at.flat() ? 1 : 0.6),
                  at.pins[first].y + 0.35 * (at.cy() - at.pins[first].y), 0.4},
           {Ink::ink, 0.2, Ink::card}, at.ref);
    name_in_the_middle(at, 1.6);
}

void PartPainter::half_round(const Lying& at) {
    d_.add(at.outline(1.9), {Ink::ink, 0.25, Ink::paper}, at.ref);
    name_in_the_middle(at, 1.6);
}

void PartPainter::toroid(const Lying& at) {
    const double cx = at.cx(), cy = at.cy(), r = at.radius();
    d_.add(Circle{cx, cy, r}, {Ink::ink, 0.3, Ink::faint}, at.ref);
    d_.add(Circle{cx, cy, r / 2}, {Ink::ink, 0.3, Ink::card}, at.ref);
    name_in_the_middle(at, 1.6);
}

void PartPainter::axial(const Lying& at) {
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
void PartPainter::dome(const Lying& at) {
    const LedType* type = is(at.part, Role::light) ? known_catalogue().led(at.part.text("type")) : nullptr;
    const double r = at.radius() - 0.4;
    const double mx = at.cx(), my = at.cy();
    const unsigned rgb = type ? type->colour() : 0xd8d4c8;
    d_.add(Circle{mx, my, r}, {Ink::ink, 0.3, Ink::rgb, 0.5, rgb}, at.ref);
    const double long_way = std::max(std::hypot(at.x2 - at.x1, at.y2 - at.y1), 0.1);
    const double dx = (at.x2 - at.x1) / long_way, dy = (at.y2 - at.y1) / long_way;
    if (polarised(at.part)) {
        const double fx = mx + dx * r * 0.94, fy = my + dy * r * 0.94;
        d_.add(Line{fx - dy * r * 0.55, fy + dx * r * 0.55, fx + dy * r * 0.55, fy - dx * r * 0.55},
               {Ink::ink, 0.7}, at.ref);
        d_.text(mx - dx * (r + 0.55), my - dy * (r + 0.55) + 0.55, "+", 1.7, Ink::ink, true, Anchor::middle,
                at.ref);
    }
    name_in_the_middle(at, 2.0);
}

void PartPainter::leads(const Lying& at) {
    d_.add(at.outline(0.8), {Ink::ink, 0.25, Ink::paper, 1, 0, true}, at.ref);
    const double long_way = std::max(std::hypot(at.x2 - at.x1, at.y2 - at.y1), 0.1);
    const double ux = (at.x2 - at.x1) / long_way, uy = (at.y2 - at.y1) / long_way;
    if (polarised(at.part) && at.pins.size() == 2) {
        d_.text(at.x1 + 1.05 * ux, at.y1 + 1.05 * uy + 0.55, "+", 1.7, Ink::attention, true, Anchor::middle,
                at.ref);
        d_.text(at.x2 - 1.05 * ux, at.y2 - 1.05 * uy + 0.55, "−", 1.7, Ink::ink, true, Anchor::middle,
                at.ref);
    }
    name_in_the_middle(at, 1.5);
}

/// Standing on its first leg, the other bent over to its hole.
void PartPainter::standing(const Lying& at) {
    const double r = std::min(1.2, at.radius());
    d_.add(Line{at.x1, at.y1, at.x2, at.y2}, {Ink::ink, 0.5}, at.ref);
    d_.add(Circle{at.x1, at.y1, r}, {Ink::ink, 0.25, Ink::paper}, at.ref);
    if (polarised(at.part))  // which end is up: the striped one is at the bent leg
        d_.add(Line{at.x1 + (at.x2 - at.x1) * 0.35, at.y1 + (at.y2 - at.y1) * 0.35,
                    at.x1 + (at.x2 - at.x1) * 0.5, at.y1 + (at.y2 - at.y1) * 0.5},
               {Ink::ink, 1.2}, at.ref);
    name_in_the_middle(at, 1.4);
}

/// A can on its side: its legs bent, its stripe along the minus side.
void PartPainter::can_lying(const Lying& at) {
    d_.add(at.outline(1.2), {Ink::ink, 0.3, Ink::paper}, at.ref);
    d_.add(Line{at.x1, at.y1, at.x1 + (at.cx() - at.x1) * 0.3, at.y1 + (at.cy() - at.y1) * 0.3},
           {Ink::ink, 0.5}, at.ref);
    d_.add(Line{at.x2, at.y2, at.x2 + (at.cx() - at.x2) * 0.3, at.y2 + (at.cy() - at.y2) * 0.3},
           {Ink::ink, 0.5}, at.ref);
    if (is(at.part, Role::polar)) {
        const bool across = std::abs(at.x2 - at.x1) > std::abs(at.y2 - at.y1);
        const double sx = at.x2 > at.x1 ? at.body.x1 - 0.7 : at.body.x0 + 0.7,
                     sy = at.y2 > at.y1 ? at.body.y1 - 0.7 : at.body.y0 + 0.7;
        d_.add(across ? Line{sx, at.body.y0 + 1, sx, at.body.y1 - 1}
                      : Line{at.body.x0 + 1, sy, at.body.x1 - 1, sy},
               {Ink::ink, 0.9}, at.ref);
    }
    name_in_the_middle(at, 1.6);
}

/// Clamps with their screws.
void PartPainter::clamp(const Lying& at) {
    d_.add(at.outline(0.4), {Ink::ink, 0.25, Ink::faint}, at.ref);
    for (const LyingPart::Leg& pin : at.pins)
        d_.add(Circle{pin.x, pin.y, 1.5}, {Ink::ink, 0.25, Ink::paper}, at.ref);
    name_in_the_middle(at, 1.6);
}

/// A holder with the cell in it.
void PartPainter::holder(const Lying& at) {
    d_.add(at.outline(1), {Ink::ink, 0.3, Ink::paper}, at.ref);
    const double w = at.body.x1 - at.body.x0, h = at.body.y1 - at.body.y0;
    if (w / h < 1.4 && h / w < 1.4)
        d_.add(Circle{at.cx(), at.cy(), at.radius() - 1}, {Ink::faint, 0.3, Ink::none}, at.ref);
    else
        d_.add(Rect{at.body.x0 + 1, at.body.y0 + 1, w - 2, h - 2, 2}, {Ink::faint, 0.3, Ink::none}, at.ref);
    for (const LyingPart::Leg& pin : at.pins)
        if (pin.pin == "+" || pin.pin == "-")
            d_.text(pin.x, pin.y - 1.2, pin.pin == "+" ? "+" : "−", 2.2,
                    pin.pin == "+" ? Ink::attention : Ink::ink, true, Anchor::middle, at.ref);
    name_in_the_middle(at, 2.0);
}

/// With a metal tab at its back.
void PartPainter::tab(const Lying& at) {
    d_.add(at.outline(0.3), {Ink::ink, 0.25, Ink::faint}, at.ref);
    const double w = at.body.x1 - at.body.x0, h = at.body.y1 - at.body.y0;
    d_.add(w > h ? Line{at.body.x0, at.body.y0 + 0.5, at.body.x1, at.body.y0 + 0.5}
                 : Line{at.body.x0 + 0.5, at.body.y0, at.body.x0 + 0.5, at.body.y1},
           {Ink::muted, 1.0}, at.ref);
    name_in_the_middle(at, 1.6);
}

}  // namespace elkit
