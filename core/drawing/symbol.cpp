#include "drawing/symbol.hpp"

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
    } else {
        leads(14);
        pen.box(28, 28);
    }
}

}  // namespace elkit
