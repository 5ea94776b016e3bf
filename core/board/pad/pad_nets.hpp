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
    std::vector<std::vector<Hole>> pads;
    std::vector<std::size_t> shortest_first() const;  ///< by half the outline of their pads
    /// Fills the pads of the net into `marks`: the first as joined, the others as wanted.
    void mark(std::size_t net, std::vector<Mark>& marks) const;
};

/// From a pad of the net that is joined to this one, insulated: the nearest.
Wire jumper_to(const PadNets& nets, std::size_t net, const std::vector<Mark>& marks, Hole to);

}  // namespace elkit
