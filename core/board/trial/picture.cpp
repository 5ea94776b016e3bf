// A breadboard with what is plugged into it.
#include <algorithm>
#include <cmath>
#include <map>

#include "board/holes/frame.hpp"
#include "board/trial/trial_board.hpp"

namespace elkit {
namespace {

constexpr double outside = 9;  // mm, for what comes from outside

class TrialPainter {
  public:
    TrialPainter(const HoleLayout& layout, const HoleParts& parts)
        : l_(layout), parts_(parts), frame_(layout.board, outside, false), painter_(d_) {
        d_.width = frame_.width, d_.height = frame_.height;
        d_.title = "Breadboard";
    }

    Drawing draw() {
        board();
        for (const HolePart& p : parts_.all)
            if (const Placement* at = l_.placement(p.part->designator)) painter_.part(lying(frame_, p, *at));
        for (const Wire& w : l_.wires) wire(w);
        from_outside();
        painter_.write_names();
        return std::move(d_);
    }

  private:
    double x(double column) const { return frame_.x(column); }
    double y(double row) const { return frame_.y(row); }
    bool is_rail(std::size_t g) const {
        return std::find(l_.board.rails.begin(), l_.board.rails.end(), g) != l_.board.rails.end();
    }

    void board() {
        d_.add(Rect{outside - 1.5, outside - 1.5, l_.board.width() + 3, l_.board.height() + 3, 2},
               {Ink::ink, 0.4, Ink::paper}, "board");
        for (std::size_t g = 0; g < l_.board.groups.size(); ++g) {
            const auto& holes = l_.board.groups[g];
            const Hole a = holes.front(), b = holes.back();
            if (is_rail(g))
                rail(a, b);
            else
                d_.add(Rect{x(a.column) - 0.7, y(a.row) - 0.9, 1.4, y(b.row) - y(a.row) + 1.8, 0.7},
                       {Ink::none, 0, Ink::card});
            for (const Hole h : holes)
                d_.add(Circle{x(h.column), y(h.row), 0.32}, {Ink::none, 0, Ink::faint},
                       "hole:" + l_.board.name(h));
        }
        for (int row = 0; row < l_.rows(); ++row) {
            const std::string name = l_.board.row_name(row);
            if (name.empty()) continue;
            for (const double at : {outside - 3.0, outside + l_.board.width() + 3.0})
                d_.text(at, y(row) + 0.6, name, 1.8, Ink::muted, false, Anchor::middle);
        }
        // numbers between the halves, where no hole is
        for (int row = 0; row + 1 < l_.rows(); ++row)
            if (l_.board.row_name(row).empty() && l_.board.row_name(row + 1).empty())
                for (int column = 0; column < l_.columns(); ++column)
                    if (column == 0 || (column + 1) % 5 == 0)
                        d_.text(x(column), y(row + 0.5) + 0.6, l_.board.column_name(column), 1.7, Ink::muted,
                                false, Anchor::middle);
    }

    void rail(Hole from, Hole to) {
        const bool plus = l_.board.row_name(from.row) == "+";
        const double line = y(from.row) + (plus ? -1.0 : 1.0);
        d_.add(Line{x(from.column) - 0.8, line, x(to.column) + 0.8, line},
               {plus ? Ink::attention : Ink::structure, 0.25});
    }

    /// A bow, so that two wires that go the same way can be told apart.
    void wire(const Wire& w) {
        const double x1 = x(w.a.column), y1 = y(w.a.row), x2 = x(w.b.column), y2 = y(w.b.row);
        const double far = std::max(std::hypot(x2 - x1, y2 - y1), 0.1), bow = std::min(4.0, 0.16 * far);
        std::vector<std::pair<double, double>> way;
        constexpr int pieces = 12;
        for (int k = 0; k <= pieces; ++k) {
            const double t = double(k) / pieces, out = 4 * t * (1 - t) * bow;
            way.emplace_back(x1 + (x2 - x1) * t + (y2 - y1) / far * out,
                             y1 + (y2 - y1) * t - (x2 - x1) / far * out);
        }
        const std::string ref = "wire:" + l_.board.name(w.a) + "-" + l_.board.name(w.b);
        d_.add(Polygon{way, false}, {Ink::ink, 1.0}, ref);
        d_.add(Polygon{way, false}, {Ink::rgb, 0.65, Ink::none, 1, colour_of_wire(w.colour)}, ref);
        for (const Hole h : {w.a, w.b})
            d_.add(Circle{x(h.column), y(h.row), 0.55}, {Ink::none, 0, Ink::ink}, ref);
    }

    /// Leads of what sits beside the board, each over the rim that is nearer.
    void from_outside() {
        std::map<bool, double> last{{false, -100}, {true, -100}};
        std::vector<PinHole> pins;
        for (const PinHole& p : l_.pins)
            if (!l_.placement(p.designator)) pins.push_back(p);
        std::sort(pins.begin(), pins.end(), [](const auto& a, const auto& b) { return a.hole < b.hole; });
        for (const PinHole& p : pins) {
            const double px = x(p.hole.column), py = y(p.hole.row);
            const bool up = py < frame_.height / 2;
            const std::string text = p.designator + " " + p.pin, ref = "part:" + p.designator;
            const double half = text_width(text, 1.8, true) / 2;
            const double at = std::max(px, last[up] + half + 1);
            last[up] = at + half;
            const double rim = up ? outside - 3.6 : frame_.height - outside + 3.6;
            const bool plus = p.pin == "+", minus = p.pin == "-";
            d_.add(Polygon{{{px, py}, {at, rim}}, false},
                   {Ink::rgb, 0.9, Ink::none, 1,
                    plus    ? colour_of_wire("red")
                    : minus ? colour_of_wire("black")
                            : colour_of_wire("grey")},
                   ref);
            d_.add(Circle{px, py, 0.55}, {Ink::none, 0, Ink::ink}, ref);
            d_.text(at, up ? rim - 0.8 : rim + 2.0, text, 1.8, Ink::ink, true, Anchor::middle, ref);
        }
    }

    const HoleLayout& l_;
    const HoleParts& parts_;
    Drawing d_;
    BoardFrame frame_;
    PartPainter painter_;
};

}  // namespace

Drawing draw_trial(const HoleLayout& layout, const HoleParts& parts) {
    return TrialPainter(layout, parts).draw();
}

}  // namespace elkit
