#pragma once
#include <vector>

#include "board/holes/placer.hpp"

namespace elkit {

/// On a board whose holes are joined in groups from the start: a net takes as few groups as it can, since
/// each more takes a wire; two nets in one group take a cut between them where the group can be cut, and are
/// a mistake where not.
class GroupedPlacer : public Placer {
  public:
    /// What there is to pay, in holes.
    struct Prices {
        double cut;    ///< above what can be cut at all; 0: groups cannot be cut
        double wire;   ///< for each group of a net but the first
        double apart;  ///< for each hole between two of its groups
    };
    /// `owners`: the net that a group is given to from the start, by group; −1 or none: anyone's.
    GroupedPlacer(const HoleParts& parts, std::vector<Cluster> clusters, Substrate board, double airy,
                  std::uint64_t seed, Prices prices, std::vector<int> owners = {});
    /// Nets that meet where nothing parts them, and groups with no free hole for the wire that they need.
    int faults() const override { return scan().faults; }

  private:
    double joining() const override;
    double joining_of(std::size_t) const override { return joining(); }

    /// A net's groups so far, in the order they come.
    struct Reach {
        int groups = 0, full = 0;  // how many there are; how many without a free hole
        Hole low{}, high{};        // the last one's ends
    };
    struct Sum {
        double cost = 0;
        int faults = 0;
    };
    /// What one net has of a group.
    struct Share {
        int net;
        Hole first, last;
        bool full;
    };
    /// As it was when its legs were last looked at: few change from move to move.
    struct Group {
        std::vector<std::size_t> cells;
        std::vector<Share> shares{};
        Sum own{};  // cuts, and legs that meet
        bool stale = true;
    };
    void touch(std::size_t cell) override;
    Sum scan() const;
    void look_at(std::size_t group) const;
    void reach(Sum& sum, const Share& share) const;

    Prices prices_;
    std::vector<int> owners_;
    std::vector<std::vector<std::size_t>> groups_of_;  // of each hole of the ground
    mutable std::vector<Group> groups_;
    mutable std::vector<Reach> reaches_;
};

}  // namespace elkit
