#pragma once
#include <optional>
#include <string>
#include <vector>

#include "board/holes/layout.hpp"
#include "board/pad/top_side.hpp"
#include "design/design.hpp"

namespace elkit {

/// What was joined on a pad board before a part was put elsewhere.
struct KeptJoints {
    struct Joint {
        std::string net;
        Bridge bridge;
    };
    std::vector<Joint> joints{};
    /// A bare wire on the component side.
    struct Link {
        std::string net;
        Hole a, b;
    };
    std::vector<Link> links{};
    std::size_t jumpers = 0;
};

/// Joints as straight runs over the middles of holes, links as such on the component side, jumpers as links
/// of the solder side, so that they can be kept.
std::vector<TrackWay> ways_of_pads(const HoleLayout& layout);
/// And back, by so many holes elsewhere. What does not go from hole to hole is left out.
KeptJoints read_pad_ways(const std::vector<TrackWay>& ways, Hole shift);

/// Joins the pads of each net in place as route_board() does, but begins with what is kept: joints that still
/// lie on free pads between pins of their net stay, and links that nothing lies over. Where more is to be
/// joined, and that takes more wires than there were, or there are few nets, everything is laid anew if it
/// takes fewer wires then.
void mend_board(HoleLayout& layout, const KeptJoints& kept, const std::optional<TopSide>& top = {});

}  // namespace elkit
