#pragma once
#include "board/holes/placer.hpp"

namespace elkit {

/// On pads: joining a net takes a tree of solder over its pads; legs of other nets right beside are in its
/// way.
class PadPlacer : public Placer {
  public:
    using Placer::Placer;

  private:
    double joining() const override;
    double joining_of(std::size_t piece) const override;
    /// Legs of other nets right beside: nothing goes through between, and solder creeps.
    double crowd(const Piece& p) const;
    /// A net of many pins, such as a supply rail: its tree would cost its pins squared in every move.
    bool is_rail(std::size_t net) const { return members_[net].size() > most_in_tree; }
    /// Holes from `here` to the net's nearest pin on another piece.
    double to_nearest(std::size_t net, std::size_t piece, Hole here) const;
    /// Length of a minimum spanning tree over the net's pads (Prim); of a rail, the sum of what each pin has
    /// to its nearest.
    double net_length(std::size_t net) const;

    static constexpr std::size_t most_in_tree = 16;  // pins
    mutable std::vector<double> distance_;           // scratch of net_length()
    mutable std::vector<char> joined_;
};

}  // namespace elkit
