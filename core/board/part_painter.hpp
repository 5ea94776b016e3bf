#pragma once
#include <utility>
#include <vector>

#include "board/names.hpp"
#include "circuit/part.hpp"
#include "drawing/drawing.hpp"

namespace elkit {

/// A part as it lies in a picture [mm], seen from the side that the picture shows.
struct LyingPart {
    struct Leg {
        std::string pin;  ///< empty: it leads nowhere
        double x, y;
    };
    const Part* part;
    std::string picture;  ///< of its footprint
    std::vector<Leg> pins;
    Box body{};
};

/// Draws parts as they lie on the board, each by its footprint's picture; names go where they cover least,
/// once all parts are there.
class PartPainter {
  public:
    explicit PartPainter(Drawing& drawing) : d_(drawing) {}
    void part(const LyingPart& part);
    /// Only its name, at its pins: for the side where the part is not seen.
    void name_at_pins(const LyingPart& part);
    /// A name that stands in one of these places.
    void name(BoardName name) { names_.push_back(std::move(name)); }
    void keep_free(const Box& box) { obstacles_.push_back({box, {}}); }
    void write_names() { elkit::write_names(d_, names_, obstacles_); }

  private:
    /// A part as it lies here.
    struct Lying {
        const Part& part;
        const std::vector<LyingPart::Leg>& pins;
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

    void pad(double x, double y, double r);
    static std::pair<double, double> middle(const std::vector<LyingPart::Leg>& pins);
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
    void flat(const Lying& at);
    void flat_chip(const Lying& at);
    void dome(const Lying& at);
    void half_round(const Lying& at);
    void tab(const Lying& at);
    void toroid(const Lying& at);
    void leads(const Lying& at);

    Drawing& d_;
    std::vector<BoardName> names_;
    std::vector<BoardObstacle> obstacles_;
};

}  // namespace elkit
