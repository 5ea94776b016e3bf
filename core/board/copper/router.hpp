#pragma once
#include <string>
#include <vector>

#include "board/copper/layout.hpp"
#include "board/copper/route_grid.hpp"

namespace elkit {

/// Ways for all nets by negotiated congestion (McMurchie & Ebeling, PathFinder, FPGA 1995): nets may lie over
/// each other at first, at a price that rises where they do, until none does. Each net grows as a tree from
/// pin to nearest pin by A*.
class CopperRouter {
  public:
    CopperRouter(const CopperLayout& placed, std::vector<std::string> nets, double width);

    /// True if all nets have found ways, in so many rounds.
    bool route(int rounds);
    /// Takes away what lies over something else, and looks once more for ways that are free; what finds none
    /// is named.
    std::vector<std::string> settle();
    /// Straightens and shortens what was found, where that is free.
    void tighten();
    /// A way from node to node, through layers: of one net.
    using Way = std::vector<int>;
    struct Found {
        std::string net;
        std::vector<Way> ways;
    };
    std::vector<Found> found() const;
    const RouteGrid& grid() const { return grid_; }

  private:
    struct Net {
        std::string name;
        std::vector<const CopperPad*> pads;
        std::vector<std::vector<int>> ends;  // nodes of each pad
        std::vector<Way> ways;
        RouteGrid::Claim claim;
        bool complete = true, entered = false;
    };
    void join(int net, double press, bool strict);
    bool reach(int net, const std::vector<int>& tree, std::vector<bool>& reached, double press, bool strict,
               Way& way, std::size_t& pad);
    bool free_for(int net, int node) const;
    void tighten(int net, Way& run) const;
    void mark_own(const Way& way);
    int hole_too_near(const Way& way) const;
    void enter(Net& net);
    void leave(Net& net);
    bool crowded(Net& net, bool note);

    std::vector<std::string> names_;
    RouteGrid grid_;
    std::vector<Net> nets_;
    std::vector<float> worn_;  // what was crowded before, by node
    // of the search
    std::vector<float> cost_;
    std::vector<int> from_, seen_, target_;
    std::vector<int> own_;  // net_mark_: too near to what the net has drilled or linked already
    int search_ = 0, net_mark_ = 0;
    float via_price_ = 0;
};

/// Straight tracks of what the router found, pulled tight, then as wide as there is room for up to `width`
/// [mm]; fills tracks, vias and links of the layout.
void lay_tracks(CopperLayout& layout, const CopperRouter& router, double width);

}  // namespace elkit
