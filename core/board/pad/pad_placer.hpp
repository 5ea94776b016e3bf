#pragma once
#include "board/holes/placer.hpp"

namespace elkit {

/// On pads: joining a net takes a tree of solder over its pads, which goes round the trees of others or not
/// at all; legs of other nets right beside are in its way.
class PadPlacer : public Placer {
  public:
    PadPlacer(const HoleParts& parts, std::vector<Cluster> clusters, Substrate board, double airy,
              std::uint64_t seed);

  private:
    double joining() const override;
    double joining_of(std::size_t piece) const override;
    /// Legs of other nets right beside: nothing goes through between, and solder creeps.
    double crowd(const Piece& p) const;
    /// A net of many pins, such as a supply rail: its tree would cost its pins squared in every move.
    bool is_rail(std::size_t net) const { return members_[net].size() > most_in_tree; }
    /// Holes from `here` to the net's nearest pin on another piece.
    double to_nearest(std::size_t net, std::size_t piece, Hole here) const;
    /// A minimum spanning tree over the net's pads (Prim); none over those of a rail.
    struct Tree {
        struct Branch {
            Hole a, b;
            Hole least, most;  // corners of the box round it
        };
        std::vector<Branch> branches{};
        double length = 0;     // of a rail, the sum of what each pin has to its nearest
        Hole least{}, most{};  // corners of the box round it
        bool stale = true;
    };
    const Tree& tree(std::size_t net) const;
    void grow(std::size_t net, Tree& tree) const;
    /// How often branches of two nets cross.
    double crossings(std::size_t one, std::size_t other) const;
    void touch_nets(const std::vector<int>& nets) override;

    static constexpr std::size_t most_in_tree = 16;  // pins
    mutable std::vector<Tree> trees_;                // by net
    /// A pad that is not yet in the tree, and what of the tree is nearest to it.
    struct Loose {
        Hole pin, nearest;
        int far;
    };
    mutable std::vector<Loose> loose_;  // scratch of grow()
};

}  // namespace elkit
