#pragma once
#include <utility>
#include <vector>

#include "board/holes/layout.hpp"
#include "board/holes/names.hpp"
#include "drawing/drawing.hpp"

namespace elkit {

/// From holes to places in a picture [mm]; the solder side is seen from behind.
struct BoardFrame {
    double margin, width, height;  ///< around the board; of the picture
    bool mirrored = false;

    BoardFrame(const Substrate& board, double around, bool from_behind)
        : margin(around),
          width(board.width() + 2 * around),
          height(board.height() + 2 * around),
          mirrored(from_behind) {}
    double x(double column) const {
        const double at = margin + (column + 0.5) * hole_pitch;
        return mirrored ? width - at : at;
    }
    double y(double row) const { return margin + (row + 0.5) * hole_pitch; }
};

/// Draws parts as they lie on the board, each by its footprint's picture; names go where they cover least,
/// once all parts are there.
class PartPainter {
  public:
    PartPainter(Drawing& drawing, const BoardFrame& frame) : d_(drawing), frame_(frame) {}
    void part(const HolePart& part, const Placement& placement);
    /// Only its name, at its pins: for the side where the part is not seen.
    void name_at_pins(const HolePart& part, const Placement& placement);
    /// A name that stands in one of these places.
    void name(BoardName name) { names_.push_back(std::move(name)); }
    void keep_free(const Box& box) { obstacles_.push_back({box, {}}); }
    void write_names() { elkit::write_names(d_, names_, obstacles_); }

  private:
    /// A part as it lies here.
    struct Lying {
        const HolePart& whole;
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

    double x(double column) const { return frame_.x(column); }
    double y(double row) const { return frame_.y(row); }
    void pad(const Hole& hole, double r);
    std::pair<double, double> middle(const std::vector<PinHole>& pins) const;
    void pin_names(const Lying& at);
    void name(const Lying& at, const std::vector<std::pair<double, double>>& middles, double size);
    static bool fits(const Lying& at, double size, bool upward);
    void name_in_the_middle(const Lying& at, double size);

    void axial(const Lying& at);
    void standing(const Lying& at);
    void box(const Lying& at);
    void disc(const Lying& at);
    void can(const Lying& at);
    void can_lying(const Lying& at);
    void clamp(const Lying& at);
    void holder(const Lying& at);
    void dip(const Lying& at);
    void dome(const Lying& at);
    void half_round(const Lying& at);
    void tab(const Lying& at);
    void toroid(const Lying& at);
    void leads(const Lying& at);

    Drawing& d_;
    const BoardFrame& frame_;
    std::vector<BoardName> names_;
    std::vector<BoardObstacle> obstacles_;
};

}  // namespace elkit
