#pragma once
#include <cstddef>
#include <vector>

namespace elkit {

/// Least heights of what stands between lines.
struct StaveHeights {
    double slot = 0;  ///< one symbol with its words
    double gap = 0;   ///< between two lines with nothing between
    double body = 0;  ///< a chip with the leads above and below
};

/// How much height each gap between two lines needs, counted in slots: a slot holds one symbol with its
/// words.
class StaveSlots {
  public:
    explicit StaveSlots(std::size_t rows);
    /// A run of `count` parts hangs from one row to another: the gaps between hold at least that many slots.
    void need(int from_row, int to_row, std::size_t count);
    /// What a leg of a body reaches: a row, with parts that hang between.
    struct Leg {
        int row = 0;
        std::size_t parts = 0;
    };
    /// The gap in which a body's legs are shortest; one that holds a body already is worth somewhat longer
    /// legs, and so is room for what hangs on them.
    std::size_t shortest_gap(const std::vector<Leg>& legs) const;
    /// A body stands in the gap.
    void need_body(std::size_t gap) { gaps_[gap].body = true; }
    /// `count` parts hang between a body in `gap` and the row `to`, above or below the body.
    void need_beside_body(std::size_t gap, bool above, int to, std::size_t count);

    double least_height(const StaveHeights& least) const;
    /// The gaps: no smaller than needed, no wider than `widest` (and what their slots ask for), as near to
    /// `height` in all as that allows.
    std::vector<double> gaps(const StaveHeights& least, double widest, double height) const;
    double body_middle(std::size_t gap, double upper, double lower, double slot, double height) const;

  private:
    struct Gap {
        std::size_t slots = 0, above = 0, below = 0;
        bool body = false;
        std::size_t holds() const { return slots > 0 || !body ? slots : 1; }  // beside a body, a symbol
    };
    static double least_of(const Gap& gap, const StaveHeights& least);
    std::vector<Gap> gaps_;
};

/// Middles of `count` symbols between top and bottom, none nearer to a line than half a slot where that can
/// be had, as evenly spread as that allows. `lines` are sorted.
std::vector<double> spread_between(double top, double bottom, const std::vector<double>& lines,
                                   std::size_t count, double slot);

}  // namespace elkit
