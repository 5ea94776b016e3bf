#include "drawing/symbol.hpp"

#include <cmath>
#include <numbers>

namespace elkit {
namespace {

class Pen {
  public:
    Pen(Drawing& d, std::string ref, double x, double middle, bool flipped, const SymbolState& s)
        : d_(d), ref_(std::move(ref)), x_(x), m_(middle), sign_(flipped ? -1 : 1), s_(s) {}

    void line(double x1, double y1, double x2, double y2, double width = 0) {
        d_.add(Line{x_ + x1, m_ + sign_ * y1, x_ + x2, m_ + sign_ * y2},
               {Ink::ink, width > 0 ? width : s_.weight}, ref_);
    }
    void triangle(Ink fill, unsigned rgb) {
        d_.add(Polygon{{{x_ - 9, m_ - sign_ * 8}, {x_ + 9, m_ - sign_ * 8}, {x_, m_ + sign_ * 8}}},
               {Ink::ink, 1.4, fill, 1, rgb}, ref_);
        line(-9, 8, 9, 8, 1.8);
    }
    void glow() {
        for (const double r : {26.0, 19.0})
            d_.add(Circle{x_, m_, r}, {Ink::none, 0, Ink::rgb, 0.42 * s_.glow, s_.light_rgb}, ref_);
    }
    void arrow(double x, double y) {  // away from the LED, up to the right
        const double tip_x = x_ + x + 8, tip_y = m_ + y - 7;
        d_.add(Line{x_ + x, m_ + y, tip_x, tip_y}, {Ink::ink, 1.1}, ref_);
        d_.add(Polygon{{{tip_x + 1.5, tip_y - 1.5}, {tip_x - 3.5, tip_y}, {tip_x, tip_y + 3.5}}},
               {Ink::none, 0, Ink::ink}, ref_);
    }
    void box(double w, double h) {
        d_.add(Rect{x_ - w / 2, m_ - h / 2, w, h, 0}, {Ink::ink, 1.4, Ink::card}, ref_);
    }
    void circle(double y, double r) { d_.add(Circle{x_, m_ + y, r}, {Ink::ink, 1.3, Ink::card}, ref_); }
    void bump(double y, double r) {  // half a turn of a coil, to the right
        Polygon arc;
        for (int k = 0; k <= 8; ++k) {
            const double a = std::numbers::pi * k / 8;
            arc.points.push_back({x_ + r * std::sin(a), m_ + sign_ * (y - r * std::cos(a))});
        }
        arc.closed = false;
        d_.add(arc, {Ink::ink, 1.6}, ref_);
    }
    void head(double x, double y, bool outward, bool level = false) {  // an arrow head
        const double s = outward ? 1 : -1, dx = level ? 6 * s : 4.5 * s, dy = level ? 0 : 3.5 * s;
        const double tip_x = x_ + x + dx / 2, tip_y = m_ + sign_ * (y + dy / 2);
        const double back_x = tip_x - dx, back_y = tip_y - sign_ * dy;
        const double nx = -(tip_y - back_y) * 0.5, ny = (tip_x - back_x) * 0.5;
        d_.add(Polygon{{{tip_x, tip_y}, {back_x + nx, back_y + ny}, {back_x - nx, back_y - ny}}},
               {Ink::none, 0, Ink::ink}, ref_);
    }
    void light_in() {
        for (const double y : {-10.0, 0.0}) {
            d_.add(Line{x_ - 27, m_ + y - 8, x_ - 17, m_ + y}, {Ink::ink, 1.1}, ref_);
            d_.add(Circle{x_ - 17, m_ + y, 1.8}, {Ink::none, 0, Ink::ink}, ref_);
        }
    }
    void mark(const char* sign, double x, double y) {
        d_.text(x_ + x, m_ + sign_ * y + 4, sign, 11, Ink::muted, false, Anchor::middle, ref_);
    }

  private:
    Drawing& d_;
    std::string ref_;
    double x_, m_, sign_;
    const SymbolState& s_;
};

}  // namespace

void add_symbol(Drawing& drawing, const Part& part, double x, double top, double bottom, double middle,
                bool flipped, const SymbolState& state) {
    const std::string ref = "part:" + part.designator;
    if (state.lit)
        drawing.add(Rect{x - 16, middle - 24, 32, 48, 10}, {Ink::none, 0, Ink::rgb, 0.22, 0xd0902c}, ref);
    Pen pen(drawing, ref, x, middle, flipped, state);
    const auto leads = [&](double half) {
        drawing.add(Line{x, top, x, middle - half}, {Ink::ink, state.weight}, ref);
        drawing.add(Line{x, middle + half, x, bottom}, {Ink::ink, state.weight}, ref);
    };
    if (part.kind == "resistor") {
        leads(17);
        pen.box(14, 34);
    } else if (part.kind == "led" || part.kind == "diode") {
        const bool led = part.kind == "led";
        if (led && state.glow > 0) pen.glow();
        leads(8);
        pen.triangle(led ? Ink::rgb : Ink::card, state.light_rgb);
        if (led) pen.arrow(11, -3), pen.arrow(11, 5);
    } else if (part.kind == "battery") {
        leads(4);
        pen.line(-13, -4, 13, -4, 1.6);
        pen.line(-7, 4, 7, 4, 3.6);
        pen.mark("+", -19, -9);
    } else if (part.kind == "supply") {
        leads(15);
        pen.circle(0, 15);
        pen.mark("+", 0, -7);
        pen.mark("−", 0, 7);
    } else if (part.kind == "switch") {
        leads(12);
        pen.circle(-12, 2.6);
        pen.circle(12, 2.6);
        if (state.closed)
            pen.line(0, 10, 0, -10, 1.8);
        else
            pen.line(0, 10, 11, -9, 1.8);
    } else if (part.kind == "capacitor" || part.kind == "electrolytic") {
        leads(4);
        pen.line(-13, -4, 13, -4, 2.6);
        pen.line(-13, 4, 13, 4, 2.6);
        if (part.kind == "electrolytic") pen.mark("+", -17, -9);
    } else if (part.kind == "inductor") {
        leads(18);
        for (const double y : {-13.5, -4.5, 4.5, 13.5}) pen.bump(y, 4.5);
    } else if (part.kind == "npn" || part.kind == "pnp" || part.kind == "nmos" || part.kind == "pmos") {
        leads(18);
        pen.circle(0, 18);
        const bool mos = part.kind.ends_with("mos");
        pen.line(-8, -9, -8, 9, 2.6);
        if (mos) pen.line(-4, -10, -4, 10, 2.0);
        const double from = mos ? -4 : -8;
        pen.line(from, -5, 0, -11), pen.line(0, -11, 0, -18);
        pen.line(from, 5, 0, 11), pen.line(0, 11, 0, 18);
        pen.head(mos ? -2.0 : -3.0, part.kind == "npn" ? 9.0 : 6.8,
                 part.kind == "npn" || part.kind == "pmos");
    } else if (part.kind == "potentiometer") {
        leads(17);
        pen.box(14, 34);
        pen.head(-7, 0, true, true);
    } else if (part.kind == "button" || part.kind == "jumper") {
        leads(12);
        pen.circle(-12, 2.6), pen.circle(12, 2.6);
        const double bar = state.closed ? 0 : 7;
        pen.line(bar, -13, bar, 13, 1.8);
        pen.line(bar, 0, bar + 8, 0, 1.2);
    } else if (part.kind == "thermistor" || part.kind == "ldr" || part.kind == "fuse") {
        leads(17);
        pen.box(14, 34);
        if (part.kind == "fuse")
            pen.line(0, -17, 0, 17, 1.2);
        else
            pen.line(-13, 15, 12, -13, 1.3);
        if (part.kind == "thermistor") pen.mark("ϑ", -17, 12);
        if (part.kind == "ldr") pen.light_in();
    } else if (part.kind == "phototransistor") {
        leads(15);
        pen.circle(0, 15);
        pen.line(-6, -8, -6, 8, 2.4), pen.line(-6, -4, 0, -9), pen.line(0, -9, 0, -15);
        pen.line(-6, 4, 0, 9), pen.line(0, 9, 0, 15);
        pen.light_in();
    } else if (part.kind == "vsource" || part.kind == "isource") {
        leads(15);
        pen.circle(0, 15);
        pen.mark("+", -19, -9);
        if (part.kind == "isource") pen.line(-15, 0, 15, 0, 1.3);
    } else if (part.kind == "motor" || part.kind == "buzzer") {
        leads(15);
        pen.circle(0, 15);
        pen.mark(part.kind == "motor" ? "M" : "♪", 0, 0);
    } else if (part.kind == "prewired_led" || part.kind == "strip") {
        if (state.glow > 0) pen.glow();
        leads(17);
        pen.box(26, 34);
        pen.triangle(Ink::rgb, state.light_rgb);
        pen.arrow(15, -3), pen.arrow(15, 5);
    } else {
        leads(14);
        pen.box(28, 28);
    }
}

}  // namespace elkit
