#pragma once
#include <string>
#include <vector>

#include "board/holes/layout.hpp"
#include "design/design.hpp"

namespace elkit {

/// What was joined on a pad board before a part was put elsewhere.
struct KeptJoints {
    struct Joint {
        std::string net;
        Bridge bridge;
    };
    std::vector<Joint> joints{};
    std::size_t jumpers = 0;
};

/// Joints as straight runs over the middles of holes, jumpers as links, so that they can be kept.
std::vector<TrackWay> ways_of_pads(const HoleLayout& layout);
/// And back, by so many holes elsewhere. What does not go from hole to hole is left out.
KeptJoints read_pad_ways(const std::vector<TrackWay>& ways, Hole shift);

/// Joins the pads of each net in place as route_board() does, but begins with what is kept: joints that still
/// lie on free pads between pins of their net stay. Where that takes more jumpers than there were, or there
/// are few nets, everything is laid anew if it takes fewer then.
void mend_board(HoleLayout& layout, const KeptJoints& kept);

}  // namespace elkit
