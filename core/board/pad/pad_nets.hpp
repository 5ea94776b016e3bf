#pragma once
#include <string>
#include <vector>

#include "board/holes/layout.hpp"
#include "board/pad/ways.hpp"

namespace elkit {

/// The nets of a placed layout by number: their pads, and who owns which pad of the board.
struct PadNets {
    explicit PadNets(const HoleLayout& layout);
    PadGrid grid;
    std::vector<std::string> names;
    std::vector<std::vector<Hole>> pads;              ///< its legs, then where it was pulled to
    std::vector<std::size_t> legs;                    ///< how many of them
    std::vector<std::size_t> shortest_first() const;  ///< by half the outline of their pads
    /// Fills the pads of the net into `marks`: the first as joined, the others as wanted.
    void mark(std::size_t net, std::vector<Mark>& marks) const;
    /// The first that is still wanted: a leg, if there is one; nullptr if there is none.
    const Hole* lone(std::size_t net, const std::vector<Mark>& marks) const;
    bool is_leg(std::size_t net, const Hole* pad) const {
        return pad < pads[net].data() + static_cast<std::ptrdiff_t>(legs[net]);
    }

  private:
    void keep_free(const HoleLayout& layout);
    void pass_pulls(const std::vector<HolePull>& pulls);
};

/// Adds the joints of a way, and links where its pads are not side by side.
void add_way(const std::vector<Hole>& way, std::vector<Bridge>& bridges, std::vector<Wire>& wires);

/// From a pad of the net that is joined to this one, insulated: the nearest.
Wire jumper_to(const PadNets& nets, std::size_t net, const std::vector<Mark>& marks, Hole to);

}  // namespace elkit
