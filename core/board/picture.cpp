#include <algorithm>
#include <cmath>

#include "board/pad_board.hpp"
#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "quantity/preferred.hpp"

namespace elkit {
namespace {

constexpr double margin = 5.5;  // mm around the board for the row and column names

class BoardPainter {
  public:
    BoardPainter(const PadLayout& layout, const Circuit& circuit, bool mirrored)
        : l_(layout), circuit_(circuit), mirrored_(mirrored) {
        d_.width = l_.width() + 2 * margin;
        d_.height = l_.height() + 2 * margin;
        d_.title = mirrored ? "Solder side, mirrored" : "Component side";
    }

    Drawing component_side() {
        board();
        for (const auto& j : l_.jumpers)
            d_.add(Line{x(j.a.column), y(j.a.row), x(j.b.column), y(j.b.row)},
                   {Ink::faint, 0.4, Ink::none, 1, 0, true}, "jumper");
        for (std::size_t i = 0; i < circuit_.parts.size(); ++i) part(circuit_.parts[i]);
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
            const double mx = (x(pins.front().hole.column) + x(pins[1].hole.column)) / 2,
                         my = (y(pins.front().hole.row) + y(pins[1].hole.row)) / 2;
            const double w = text_width(p.designator, 1.5, true) + 0.5;
            d_.add(Rect{mx - w / 2, my - 0.85, w, 1.7, 0.4}, {Ink::none, 0, Ink::card, 0.9},
                   "part:" + p.designator);
            d_.text(mx, my + 0.55, p.designator, 1.5, Ink::structure, true, Anchor::middle,
                    "part:" + p.designator);
        }
        return std::move(d_);
    }

  private:
    double x(double column) const {
        const double at = margin + (column + 0.5) * pad_pitch;
        return mirrored_ ? d_.width - at : at;
    }
    double y(double row) const { return margin + (row + 0.5) * pad_pitch; }

    void board() {
        d_.add(Rect{margin, margin, l_.width(), l_.height(), 0.8}, {Ink::ink, 0.3, Ink::card}, "board");
        for (int r = 0; r < l_.rows; ++r)
            for (int c = 0; c < l_.columns; ++c)
                d_.add(Circle{x(c), y(r), 0.42}, {Ink::faint, 0.18, Ink::none}, "hole:" + hole_name({c, r}));
        for (int c = 0; c < l_.columns; ++c) {
            const std::string name = hole_name({c, 0});
            d_.text(x(c), margin - 1.2, name.substr(0, name.size() - 1), 1.9, Ink::muted, false,
                    Anchor::middle);
        }
        for (int r = 0; r < l_.rows; ++r)
            d_.text(margin - 1.2, y(r) + 0.65, std::to_string(r + 1), 1.9, Ink::muted, false, Anchor::end);
    }

    void jumper(const Jumper& j) {
        const double x1 = x(j.a.column), y1 = y(j.a.row), x2 = x(j.b.column), y2 = y(j.b.row);
        const double bend = 0.18 * std::hypot(x2 - x1, y2 - y1);
        const double mx = (x1 + x2) / 2 + (y2 - y1) / std::max(std::hypot(x2 - x1, y2 - y1), 0.1) * bend,
                     my = (y1 + y2) / 2 - (x2 - x1) / std::max(std::hypot(x2 - x1, y2 - y1), 0.1) * bend;
        d_.add(Polygon{{{x1, y1}, {mx, my}, {x2, y2}}, false}, {Ink::attention, 0.7}, "jumper");
    }

    void part(const Part& p) {
        const Placement& placement = *l_.placement(p.designator);
        const auto pins = placed_pins(p, placement);
        const std::string ref = "part:" + p.designator;
        const double x1 = x(pins[0].hole.column), y1 = y(pins[0].hole.row), x2 = x(pins[1].hole.column),
                     y2 = y(pins[1].hole.row);
        const double mx = (x1 + x2) / 2, my = (y1 + y2) / 2;
        const bool flat = std::abs(y1 - y2) < 0.1;
        if (p.kind == "resistor")
            axial(p, x1, y1, x2, y2, ref);
        else if (p.kind == "led")
            led(p, x1, y1, x2, y2, ref);
        else if (p.kind == "switch")
            body(placed_body(footprint(p), placement), Ink::faint, ref);
        else if (p.kind == "diode")
            axial(p, x1, y1, x2, y2, ref);
        else
            leads(x1, y1, x2, y2, ref);
        for (const auto& pin : pins)
            d_.add(Circle{x(pin.hole.column), y(pin.hole.row), 0.5}, {Ink::none, 0, Ink::ink}, ref);
        const bool aside = p.kind == "diode";
        if (p.kind == "led")
            d_.text(mx, my + 0.8, p.designator, 2.2, Ink::ink, true, Anchor::middle, ref);
        else if (p.kind == "resistor")
            return;
        else if (aside && flat)
            d_.text(mx, my - 1.35, p.designator, 1.8, Ink::ink, true, Anchor::middle, ref);
        else if (aside)
            d_.text(mx + 1.4, my + 0.6, p.designator, 1.8, Ink::ink, true, Anchor::start, ref);
        else if (p.kind == "switch")
            d_.text(x(pins[1].hole.column), y(pins[1].hole.row) + (flat ? 1.9 : 0.6), p.designator, 1.8,
                    Ink::ink, true, Anchor::middle, ref);
        else
            d_.text(mx, my + 0.55, p.designator, 1.5, Ink::ink, true, Anchor::middle, ref);
    }

    void body(const Box& b, Ink fill, const std::string& ref) {
        const double x0 = std::min(x(b.x0), x(b.x1)), x1 = std::max(x(b.x0), x(b.x1));
        d_.add(Rect{x0, y(b.y0), x1 - x0, y(b.y1) - y(b.y0), 0.5}, {Ink::ink, 0.25, fill}, ref);
    }

    void axial(const Part& p, double x1, double y1, double x2, double y2, const std::string& ref) {
        d_.add(Line{x1, y1, x2, y2}, {Ink::ink, 0.5}, ref);
        const double length = p.kind == "resistor" ? 6.3 : 4, half = p.kind == "resistor" ? 1.15 : 0.95;
        const bool flat = std::abs(y1 - y2) < 0.1;
        const double mx = (x1 + x2) / 2, my = (y1 + y2) / 2;
        d_.add(flat ? Rect{mx - length / 2, my - half, length, 2 * half, 0.9}
                    : Rect{mx - half, my - length / 2, 2 * half, length, 0.9},
               {Ink::ink, 0.25, Ink::paper}, ref);
        const auto stripe = [&](double t, double width, unsigned rgb) {  // t from the first pin's end, in mm
            const double sign = flat ? (x2 > x1 ? 1 : -1) : (y2 > y1 ? 1 : -1);
            const double at = (flat ? mx : my) + sign * (t - length / 2);
            d_.add(flat ? Rect{at - width / 2, my - half, width, 2 * half, 0}
                        : Rect{mx - half, at - width / 2, 2 * half, width, 0},
                   {Ink::none, 0, Ink::rgb, 1, rgb}, ref);
        };
        if (p.kind == "diode") return stripe(3.2, 0.6, 0x1d1d1f);
        const double sign_of = flat ? (x2 > x1 ? 1 : -1) : (y2 > y1 ? 1 : -1),
                     gap = sign_of * 0.95;  // the name stands between the third band and the last
        d_.text(mx + (flat ? gap : 0), my + (flat ? 0.55 : gap + 0.55), p.designator, 1.5, Ink::ink, true,
                Anchor::middle, ref);
        if (const auto bands = colour_bands(p.number("value"), p.number("tolerance"))) {
            const auto& names = bands.value().names;
            for (std::size_t k = 0; k < names.size(); ++k)
                stripe(1.0 + (k + 1 == names.size() ? 4.4 : double(k) * 0.95), 0.55, band_rgb(names[k]));
        }
    }

    void led(const Part& p, double x1, double y1, double x2, double y2, const std::string& ref) {
        const LedType* type = built_in_catalogue().led(p.text("type"));
        const double r = (type ? type->diameter : 5) / 2;
        const double mx = (x1 + x2) / 2, my = (y1 + y2) / 2;
        const unsigned rgb =
            type ? static_cast<unsigned>(std::stoul(type->rgb.substr(1), nullptr, 16)) : 0xf0a21e;
        d_.add(Circle{mx, my, r}, {Ink::ink, 0.3, Ink::rgb, 0.5, rgb}, ref);
        // the flat of the rim marks the cathode
        const double dx = (x2 - x1) / std::hypot(x2 - x1, y2 - y1),
                     dy = (y2 - y1) / std::hypot(x2 - x1, y2 - y1);
        const double fx = mx + dx * r * 0.94, fy = my + dy * r * 0.94;
        d_.add(Line{fx - dy * r * 0.55, fy + dx * r * 0.55, fx + dy * r * 0.55, fy - dx * r * 0.55},
               {Ink::ink, 0.7}, ref);
        d_.text(mx - dx * (r + 0.55), my - dy * (r + 0.55) + 0.55, "+", 1.7, Ink::ink, true, Anchor::middle,
                ref);
    }

    void leads(double x1, double y1, double x2, double y2, const std::string& ref) {
        d_.add(Rect{std::min(x1, x2) - 1.1, std::min(y1, y2) - 1.1, std::abs(x1 - x2) + 2.2,
                    std::abs(y1 - y2) + 2.2, 0.8},
               {Ink::ink, 0.25, Ink::paper, 1, 0, true}, ref);
        const double ux = (x2 - x1) / std::hypot(x2 - x1, y2 - y1),
                     uy = (y2 - y1) / std::hypot(x2 - x1, y2 - y1);
        d_.text(x1 + 1.05 * ux, y1 + 1.05 * uy + 0.55, "+", 1.7, Ink::attention, true, Anchor::middle, ref);
        d_.text(x2 - 1.05 * ux, y2 - 1.05 * uy + 0.55, "−", 1.7, Ink::ink, true, Anchor::middle, ref);
    }

    const PadLayout& l_;
    const Circuit& circuit_;
    bool mirrored_;
    Drawing d_;
};

}  // namespace

Drawing draw_component_side(const PadLayout& layout, const Circuit& circuit) {
    return BoardPainter(layout, circuit, false).component_side();
}
Drawing draw_solder_side(const PadLayout& layout, const Circuit& circuit) {
    return BoardPainter(layout, circuit, true).solder_side();
}

}  // namespace elkit
