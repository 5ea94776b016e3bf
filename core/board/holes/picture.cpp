// The board itself, and what joins or parts its holes.
#include <algorithm>
#include <cmath>

#include "board/holes/frame.hpp"
#include "board/holes/layout.hpp"

namespace elkit {
namespace {

constexpr double name_margin = 5.5;  // mm around the board for the row and column names
constexpr unsigned copper = 0xd8a27a;

class BoardPainter {
  public:
    BoardPainter(const HoleLayout& layout, const HoleParts& parts, bool mirrored)
        : l_(layout),
          parts_(parts),
          nets_(hole_nets(layout)),
          frame_(layout.board, name_margin, mirrored),
          painter_(d_) {
        d_.width = frame_.width, d_.height = frame_.height;
        d_.title = mirrored ? "Solder side, mirrored" : "Component side";
    }

    Drawing component_side() {
        board();
        for (const Wire& w : l_.wires)
            if (w.kind == Wire::Kind::jumper)
                straight(w.a, w.b, {Ink::faint, 0.4, Ink::none, 1, 0, true}, net(w.a));
            else if (w.kind == Wire::Kind::link)
                link(w);
        for (const Hole h : l_.cuts) cut(h, Ink::faint);
        for (const HolePart& p : parts_.all)
            if (const Placement* at = l_.placement(p.part->designator)) painter_.part(lying(frame_, p, *at));
        if (l_.board.kind == Substrate::Kind::strips) pulls();  // links are on this side
        painter_.write_names();
        return std::move(d_);
    }

    Drawing solder_side() {
        board();
        if (l_.board.kind == Substrate::Kind::strips) strips();
        for (const auto& b : l_.bridges) straight(b.a, b.b, {Ink::muted, 1.5}, net(b.a));
        for (const auto& pin : l_.pins) joint(pin.hole, pin.net.empty() ? Ink::faint : Ink::muted);
        for (const Wire& w : l_.wires)
            if (w.kind == Wire::Kind::link) joint(w.a, Ink::muted), joint(w.b, Ink::muted);
        for (const Wire& w : l_.wires)
            if (w.kind == Wire::Kind::jumper) jumper(w);
        for (const HolePart& p : parts_.all)
            if (const Placement* at = l_.placement(p.part->designator))
                painter_.name_at_pins(lying(frame_, p, *at));
        if (l_.board.kind == Substrate::Kind::pads) pulls();
        painter_.write_names();
        return std::move(d_);
    }

  private:
    double x(double column) const { return frame_.x(column); }
    double y(double row) const { return frame_.y(row); }
    std::string ref(Hole h) const { return "hole:" + l_.board.name(h); }
    std::string net(Hole h) const { return "net:" + nets_.at(h); }
    void straight(Hole a, Hole b, const Style& style, const std::string& ref) {
        d_.add(Line{x(a.column), y(a.row), x(b.column), y(b.row)}, style, ref);
    }

    void board() {
        rim();
        for (std::size_t k = 0; k < l_.wishes.free.size(); ++k) {
            const Box& b = l_.wishes.free[k];
            const double left = std::min(x(b.x0), x(b.x1)), right = std::max(x(b.x0), x(b.x1));
            d_.add(Rect{left, y(b.y0), right - left, y(b.y1) - y(b.y0), 0.3},
                   {Ink::muted, 0.25, Ink::paper, 1, 0, true}, "free:" + std::to_string(k));
        }
        for (int r = 0; r < l_.rows(); ++r)
            for (int c = 0; c < l_.columns(); ++c)
                if (l_.board.has({c, r}))
                    d_.add(Circle{x(c), y(r), 0.42}, {Ink::faint, 0.18, Ink::none}, ref({c, r}));
        for (int c = 0; c < l_.columns(); ++c) {
            const std::string name = l_.board.column_name(c);
            if (name.size() > 1 && c % 2 == 1) continue;  // two letters take the room of two
            d_.text(x(c), name_margin - 1.2, name, 1.9, Ink::muted, false, Anchor::middle);
        }
        for (int r = 0; r < l_.rows(); ++r)
            d_.text(name_margin - 1.2, y(r) + 0.65, l_.board.row_name(r), 1.9, Ink::muted, false,
                    Anchor::end);
    }

    void rim() {
        if (l_.board.outline.empty()) {
            d_.add(Rect{name_margin, name_margin, l_.board.width(), l_.board.height(), 0.8},
                   {Ink::ink, 0.3, Ink::card}, "board");
            return;
        }
        Polygon sawn;
        for (const auto& [mm_x, mm_y] : l_.board.outline)
            sawn.points.emplace_back(x(mm_x / hole_pitch - 0.5), y(mm_y / hole_pitch - 0.5));
        d_.add(sawn, {Ink::ink, 0.3, Ink::card}, "board");
        for (const Substrate::Screw& s : l_.board.screws)
            d_.add(Circle{x(s.hole.column), y(s.hole.row), s.diameter / 2}, {Ink::ink, 0.3, Ink::paper},
                   "hole");
    }

    /// Copper between the cuts.
    void strips() {
        constexpr double half_strip = 0.85, half_cut = 0.75;          // holes
        const double beyond = l_.board.outline.empty() ? 0.45 : 0.3;  // the last hole
        const auto is_cut = [&](Hole h) {
            return std::find(l_.cuts.begin(), l_.cuts.end(), h) != l_.cuts.end();
        };
        for (const auto& row : l_.board.groups)
            for (std::size_t from = 0; from < row.size();) {
                std::size_t to = from;
                while (to < row.size() && !is_cut(row[to])) ++to;
                const double left = from == 0 ? row.front().column - beyond : row[from].column - 1 + half_cut,
                             right =
                                 to == row.size() ? row.back().column + beyond : row[to].column - half_cut;
                const double a = std::min(x(left), x(right)), b = std::max(x(left), x(right));
                if (b > a)
                    d_.add(Rect{a, y(row.front().row) - half_strip, b - a, 2 * half_strip, 0.2},
                           {Ink::none, 0, Ink::rgb, 0.55, copper}, "strip");
                from = to + 1;
            }
        for (const auto& row : l_.board.groups)
            for (const Hole h : row)
                d_.add(Circle{x(h.column), y(h.row), 0.42}, {Ink::none, 0, Ink::card}, ref(h));
        for (const Hole h : l_.cuts) cut(h, Ink::attention);
    }

    /// A ring where a joint or link was pulled to; an empty one, dashed, where none of its net passes.
    void pulls() {
        for (std::size_t k = 0; k < l_.wishes.pulls.size(); ++k) {
            const HolePull& p = l_.wishes.pulls[k];
            const bool passed = is_passed(l_, p);
            d_.add(Circle{x(p.hole.column), y(p.hole.row), 0.8},
                   {Ink::structure, 0.3, passed ? Ink::card : Ink::none, 1, 0, !passed},
                   "pull:" + std::to_string(k));
        }
    }

    void cut(Hole h, Ink ink) {
        const double cx = x(h.column), cy = y(h.row), r = 0.75;
        d_.add(Line{cx - r, cy - r, cx + r, cy + r}, {ink, 0.35}, "cut");
        d_.add(Line{cx - r, cy + r, cx + r, cy - r}, {ink, 0.35}, "cut");
    }

    void joint(Hole h, Ink ink) {
        d_.add(Circle{x(h.column), y(h.row), 1.0}, {Ink::none, 0, ink}, ref(h));
        d_.add(Circle{x(h.column), y(h.row), 0.38}, {Ink::none, 0, Ink::ink}, ref(h));
    }

    void link(const Wire& w) {
        straight(w.a, w.b, {Ink::ink, 0.6}, net(w.a));
        for (const Hole h : {w.a, w.b}) {
            d_.add(Circle{x(h.column), y(h.row), 0.5}, {Ink::none, 0, Ink::ink}, net(w.a));
            painter_.keep_free({x(h.column) - 0.5, y(h.row) - 0.5, x(h.column) + 0.5, y(h.row) + 0.5});
        }
    }

    void jumper(const Wire& j) {
        const double x1 = x(j.a.column), y1 = y(j.a.row), x2 = x(j.b.column), y2 = y(j.b.row);
        const double far = std::max(std::hypot(x2 - x1, y2 - y1), 0.1), bend = 0.18 * far;
        const double mx = (x1 + x2) / 2 + (y2 - y1) / far * bend, my = (y1 + y2) / 2 - (x2 - x1) / far * bend;
        d_.add(Polygon{{{x1, y1}, {mx, my}, {x2, y2}}, false}, {Ink::attention, 0.7}, net(j.a));
    }

    const HoleLayout& l_;
    const HoleParts& parts_;
    std::map<Hole, std::string> nets_;
    Drawing d_;
    BoardFrame frame_;
    PartPainter painter_;
};

}  // namespace

Drawing draw_component_side(const HoleLayout& layout, const HoleParts& parts) {
    return BoardPainter(layout, parts, false).component_side();
}
Drawing draw_solder_side(const HoleLayout& layout, const HoleParts& parts) {
    return BoardPainter(layout, parts, true).solder_side();
}

}  // namespace elkit
