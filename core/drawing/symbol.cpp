#include "drawing/symbol.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

#include "circuit/part_kind.hpp"
#include "drawing/body_symbol.hpp"

namespace elkit {
namespace {

class Pen {
  public:
    Pen(Drawing& d, std::string ref, double x, double middle, bool flipped, const SymbolState& s)
        : d_(d), ref_(std::move(ref)), x_(x), m_(middle), sign_(flipped ? -1 : 1), k_(s.scale), s_(s) {}

    void line(double x1, double y1, double x2, double y2, double width = 0) {
        d_.add(Line{at_x(x1), at_y(y1), at_x(x2), at_y(y2)}, {Ink::ink, width > 0 ? width : s_.weight}, ref_);
    }
    void triangle(Ink fill, unsigned rgb) {
        d_.add(Polygon{{{at_x(-9), at_y(-8)}, {at_x(9), at_y(-8)}, {at_x(0), at_y(8)}}},
               {Ink::ink, 1.4, fill, 1, rgb}, ref_);
        line(-9, 8, 9, 8, 1.8);
    }
    void glow() {
        for (const double r : {26.0, 19.0})
            d_.add(Circle{x_, m_, k_ * r}, {Ink::none, 0, Ink::rgb, 0.42 * s_.glow, s_.light_rgb}, ref_);
    }
    void arrow(double x, double y) {  // away from the LED, up to the right
        const double tip_x = at_x(x + 8), tip_y = upright(y - 7), e = k_ * 3.5, f = k_ * 1.5;
        d_.add(Line{at_x(x), upright(y), tip_x, tip_y}, {Ink::ink, 1.1}, ref_);
        d_.add(Polygon{{{tip_x + f, tip_y - f}, {tip_x - e, tip_y}, {tip_x, tip_y + e}}},
               {Ink::none, 0, Ink::ink}, ref_);
    }
    void box(double w, double h) {
        d_.add(Rect{x_ - k_ * w / 2, m_ - k_ * h / 2, k_ * w, k_ * h, 0}, {Ink::ink, 1.4, Ink::card}, ref_);
    }
    void circle(double y, double r) {
        d_.add(Circle{x_, upright(y), k_ * r}, {Ink::ink, 1.3, Ink::card}, ref_);
    }
    void bump(double y, double r) {  // half a turn of a coil, to the right
        Polygon arc;
        for (int n = 0; n <= 8; ++n) {
            const double a = std::numbers::pi * n / 8;
            arc.points.push_back({at_x(r * std::sin(a)), at_y(y - r * std::cos(a))});
        }
        arc.closed = false;
        d_.add(arc, {Ink::ink, 1.6}, ref_);
    }
    void head(double x, double y, bool outward, bool level = false) {  // an arrow head
        const double s = outward ? 1 : -1, dx = level ? 6 * s : 4.5 * s, dy = level ? 0 : 3.5 * s;
        const double tip_x = x + dx / 2, tip_y = y + dy / 2, back_x = tip_x - dx, back_y = tip_y - dy;
        const double nx = -(tip_y - back_y) * 0.5, ny = (tip_x - back_x) * 0.5;
        d_.add(Polygon{{{at_x(tip_x), at_y(tip_y)},
                        {at_x(back_x + nx), at_y(back_y + ny)},
                        {at_x(back_x - nx), at_y(back_y - ny)}}},
               {Ink::none, 0, Ink::ink}, ref_);
    }
    void light_in() {
        for (const double y : {-10.0, 0.0}) {
            d_.add(Line{at_x(-27), upright(y - 8), at_x(-17), upright(y)}, {Ink::ink, 1.1}, ref_);
            d_.add(Circle{at_x(-17), upright(y), 1.8}, {Ink::none, 0, Ink::ink}, ref_);
        }
    }
    void mark(const char* sign, double x, double y) {
        d_.text(at_x(x), at_y(y) + 4, sign, 11 * std::max(1.0, k_), Ink::muted, false, Anchor::middle, ref_);
    }

  private:
    double at_x(double x) const { return x_ + k_ * x; }
    double at_y(double y) const { return m_ + sign_ * k_ * y; }  // turned with the part
    double upright(double y) const { return m_ + k_ * y; }       // the same way up, however it stands
    Drawing& d_;
    std::string ref_;
    double x_, m_, sign_, k_;
    const SymbolState& s_;
};

/// What a symbol is drawn with: the pen, the two leads, and how the part stands.
struct Sketch {
    Drawing& drawing;
    Pen& pen;
    const SymbolState& state;
    double x, top, bottom, middle;
    const std::string& ref;
    void leads(double half) const {
        const double away = half * state.scale;
        drawing.add(Line{x, top, x, middle - away}, {Ink::ink, state.weight}, ref);
        drawing.add(Line{x, middle + away, x, bottom}, {Ink::ink, state.weight}, ref);
    }
    void round(double r = 15) const {
        leads(r);
        pen.circle(0, r);
    }
    void track() const {  // a resistor's body
        leads(17);
        pen.box(14, 34);
    }
};

void led(const Sketch& s) {
    if (s.state.glow > 0) s.pen.glow();
    s.leads(8);
    s.pen.triangle(Ink::rgb, s.state.light_rgb);
    s.pen.arrow(11, -3), s.pen.arrow(11, 5);
}

void diode(const Sketch& s) {
    s.leads(8);
    s.pen.triangle(Ink::card, 0);
}

void battery(const Sketch& s) {
    s.leads(4);
    s.pen.line(-13, -4, 13, -4, 1.6);
    s.pen.line(-7, 4, 7, 4, 3.6);
    s.pen.mark("+", -19, -9);
}

void supply(const Sketch& s) {
    s.round();
    s.pen.line(-7, -2.5, 7, -2.5, 1.5);  // direct current
    for (const double x : {-7.0, -1.8, 3.4}) s.pen.line(x, 3, x + 3.4, 3, 1.5);
    s.pen.mark("+", -21, -9);
}

void lever(const Sketch& s) {
    s.leads(12);
    s.pen.circle(-12, 2.6), s.pen.circle(12, 2.6);
    if (s.state.closed)
        s.pen.line(0, 10, 0, -10, 1.8);
    else
        s.pen.line(0, 10, 11, -9, 1.8);
}

void push(const Sketch& s) {
    s.leads(12);
    s.pen.circle(-12, 2.6), s.pen.circle(12, 2.6);
    const double bar = s.state.closed ? 0 : 7;
    s.pen.line(bar, -13, bar, 13, 1.8);
    s.pen.line(bar, 0, bar + 8, 0, 1.2);
}

void plates(const Sketch& s) {
    s.leads(4);
    s.pen.line(-13, -4, 13, -4, 2.6);
    s.pen.line(-13, 4, 13, 4, 2.6);
}

void polar_plates(const Sketch& s) {
    plates(s);
    s.pen.mark("+", -17, -9);
}

void coil(const Sketch& s) {
    s.leads(18);
    for (const double y : {-13.5, -4.5, 4.5, 13.5}) s.pen.bump(y, 4.5);
}

/// The lines common to transistors; `from` is where the two legs start.
void transistor(const Sketch& s, double from) {
    s.round(18);
    s.pen.line(-8, -9, -8, 9, 2.6);
    s.pen.line(from, -5, 0, -11), s.pen.line(0, -11, 0, -18);
    s.pen.line(from, 5, 0, 11), s.pen.line(0, 11, 0, 18);
}

void bipolar(const Sketch& s, bool n) {
    transistor(s, -8);
    s.pen.head(-3.0, n ? 9.0 : 6.8, n);
}

void mosfet(const Sketch& s, bool n) {
    transistor(s, -4);
    s.pen.line(-4, -10, -4, 10, 2.0);
    s.pen.head(-2.0, 6.8, !n);
}

void potentiometer(const Sketch& s) {
    s.track();
    s.pen.head(-7, 0, true, true);
}

void thermistor(const Sketch& s) {
    s.track();
    s.pen.line(-13, 15, 12, -13, 1.3);
    s.pen.mark("ϑ", -17, 12);
}

void light_resistor(const Sketch& s) {
    s.track();
    s.pen.line(-13, 15, 12, -13, 1.3);
    s.pen.light_in();
}

void fuse(const Sketch& s) {
    s.track();
    s.pen.line(0, -17, 0, 17, 1.2);
}

void phototransistor(const Sketch& s) {
    s.round();
    s.pen.line(-6, -8, -6, 8, 2.4), s.pen.line(-6, -4, 0, -9), s.pen.line(0, -9, 0, -15);
    s.pen.line(-6, 4, 0, 9), s.pen.line(0, 9, 0, 15);
    s.pen.light_in();
}

void source(const Sketch& s) {
    s.round();
    s.pen.mark("+", -19, -9);
}

void current_source(const Sketch& s) {
    source(s);
    s.pen.line(-15, 0, 15, 0, 1.3);
}

void lettered(const Sketch& s, const char* letter) {
    s.round();
    s.pen.mark(letter, 0, 0);
}

/// A circle with a cross (IEC 60617, S00965).
void lamp(const Sketch& s) {
    if (s.state.glow > 0) s.pen.glow();
    s.round();
    s.pen.line(-10.5, -10.5, 10.5, 10.5, 1.3), s.pen.line(-10.5, 10.5, 10.5, -10.5, 1.3);
}

void boxed_led(const Sketch& s) {
    if (s.state.glow > 0) s.pen.glow();
    s.leads(17);
    s.pen.box(26, 34);
    s.pen.triangle(Ink::rgb, s.state.light_rgb);
    s.pen.arrow(15, -3), s.pen.arrow(15, 5);
}

void box(const Sketch& s) {
    s.leads(14);
    s.pen.box(28, 28);
}

using Painter = void (*)(const Sketch&);
const std::map<std::string_view, Painter>& painters() {
    static const std::map<std::string_view, Painter> all{
        {"led", led},
        {"diode", diode},
        {"battery", battery},
        {"supply", supply},
        {"switch", lever},
        {"button", push},
        {"capacitor", plates},
        {"electrolytic", polar_plates},
        {"inductor", coil},
        {"resistor", [](const Sketch& s) { s.track(); }},
        {"npn", [](const Sketch& s) { bipolar(s, true); }},
        {"pnp", [](const Sketch& s) { bipolar(s, false); }},
        {"nmos", [](const Sketch& s) { mosfet(s, true); }},
        {"pmos", [](const Sketch& s) { mosfet(s, false); }},
        {"potentiometer", potentiometer},
        {"thermistor", thermistor},
        {"ldr", light_resistor},
        {"fuse", fuse},
        {"phototransistor", phototransistor},
        {"source", source},
        {"current_source", current_source},
        {"motor", [](const Sketch& s) { lettered(s, "M"); }},
        {"buzzer", [](const Sketch& s) { lettered(s, "♪"); }},
        {"boxed_led", boxed_led},
        {"lamp", lamp},
        {"box", box}};
    return all;
}

}  // namespace

bool has_symbol(std::string_view name) { return painters().contains(name) || has_body_symbol(name); }

void add_symbol(Drawing& drawing, const Part& part, double x, double top, double bottom, double middle,
                bool flipped, const SymbolState& state) {
    const std::string ref = "part:" + part.designator;
    if (state.lit) {
        const double k = state.scale;
        drawing.add(Rect{x - 16 * k, middle - 24 * k, 32 * k, 48 * k, 10},
                    {Ink::none, 0, Ink::rgb, 0.22, 0xd0902c}, ref);
    }
    Pen pen(drawing, ref, x, middle, flipped, state);
    const PartKind* kind = part_kind(part.kind);
    const auto painter = painters().find(kind ? kind->symbol : "box");
    (painter == painters().end() ? box : painter->second)({drawing, pen, state, x, top, bottom, middle, ref});
}

}  // namespace elkit
