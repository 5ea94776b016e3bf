#pragma once
#include <string>
#include <vector>

#include "board/copper/layout.hpp"
#include "board/copper/nearest_first.hpp"
#include "board/copper/route_grid.hpp"

namespace elkit {

/// Ways for all nets by negotiated congestion (McMurchie & Ebeling, PathFinder, FPGA 1995): nets may lie over
/// each other at first, at a price that rises where they do, until none does. Each net grows as a tree from
/// pin to nearest pin by A*.
class CopperRouter {
  public:
    CopperRouter(const CopperLayout& placed, std::vector<std::string> nets, double width);

    /// The tracks of these nets pass these places, as near as they may lie; to be said before route(). What
    /// finds no room is left out.
    void pull(const std::vector<TrackPull>& pulls);
    /// Begins with these ways, as far as they still are ways from pin to pin; to be said after pull(). They
    /// stay where nothing presses them aside.
    void keep(const std::vector<TrackWay>& ways);
    /// True if all nets have found ways, in so many rounds; it ends before where no more of them find one.
    bool route(int rounds);
    /// Someone waits: after so many looks at nodes nothing is pushed aside any more.
    void hurry(std::size_t looks) { most_looks_ = looks_ + looks; }
    /// How many nets lay over others or had no way in the best of these rounds.
    std::size_t unfinished() const { return unfinished_; }
    /// Takes away what lies over something else, and looks once more for ways that are free; what finds none
    /// is named.
    std::vector<std::string> settle();
    /// The shortest lines that would join what is not, from pad to pad.
    std::vector<Unjoined> missing() const;
    /// Straightens and shortens what was found, where that is free.
    void tighten();
    /// A way from node to node, through layers: of one net.
    using Way = std::vector<int>;
    struct Found {
        std::string net;
        std::vector<Way> ways;
    };
    std::vector<Found> found() const;
    /// Likewise by their corners, for keep().
    std::vector<TrackWay> ways() const;
    const RouteGrid& grid() const { return grid_; }

  private:
    struct Net {
        std::string name;
        std::vector<std::vector<int>> ends;  // nodes of each pad; then of each pull, which is passed
        std::size_t pulled = 0;              // how many of them, at the end
        std::vector<std::pair<std::size_t, std::size_t>> pairs{};  // ends that are joined first
        std::vector<Way> ways;
        RouteGrid::Claim claim;
        bool complete = true, entered = false;
        bool kept = false;  // its ways were there before, and are to be completed
    };
    /// How hard the nets press aside what lies in their way; strict: not at all.
    struct Press {
        double price;
        bool strict;
    };
    void join(int net, Press press);
    struct Passed {
        std::vector<std::size_t> group;   // of each end: those that are joined have the same
        std::vector<std::size_t> way_of;  // the end that each way begins at
        std::vector<bool> left_out;       // pulls that find no way
        explicit Passed(std::size_t ends);
        void join(std::size_t a, std::size_t b) {
            const std::size_t from = group[b], to = group[a];
            for (std::size_t& g : group)
                if (g == from) g = to;
        }
    };
    Passed taken_up(const Net& net) const;
    void clear_way(Net& net);
    bool join_freely(int net);
    void drop_spurs(Net& net) const;
    void drop_crowded(Net& net) const;
    void take_up(Net& net) const;
    Way nodes_of(const TrackWay& way) const;
    bool may_be_way(int net, const Way& way) const;
    void join_pairs(int net, Press press, Passed& passed);
    void pass_pulls(int net, Press press, Passed& passed);
    bool reach_clear(int net, const std::vector<int>& tree, const std::vector<bool>& reached, Press press,
                     Way& way, std::size_t& end);
    bool reach(int net, const std::vector<int>& tree, const std::vector<bool>& reached, Press press, Way& way,
               std::size_t& end);
    bool free_for(int net, int node) const;
    void tighten(int net, Way& run) const;
    void mark_own(const Way& way);
    int hole_too_near(const Way& way) const;
    void enter(Net& net);
    void leave(Net& net);
    bool crowded(Net& net, bool note);
    bool late() const { return looks_ > most_looks_; }

    std::vector<std::string> names_;
    RouteGrid grid_;
    std::vector<Net> nets_;
    std::size_t unfinished_ = 0;
    std::size_t looks_ = 0, most_looks_ = static_cast<std::size_t>(-1);
    bool gently_ = false;  // only ways that are in the way are laid anew, not their whole nets
    // of the search
    struct Visit {  // of a node, together: a search looks at all of it
        float cost = 0;
        int from = -1;
        int seen = 0;    // search_: cost and from are of the search that goes on
        int target = 0;  // search_: where it ends
        int own = 0;     // net_mark_: too near to what the net has drilled or linked already
        int shut = 0;    // shut_mark_: no way for the search that goes on
        float worn = 0;  // what was crowded before
    };
    std::vector<Visit> visits_;
    struct Open {
        float cost;
        int node;
    };
    NearestFirst<Open> open_;
    Visit& visit(int node) { return visits_[static_cast<std::size_t>(node)]; }
    int search_ = 0, net_mark_ = 0, shut_mark_ = 1;
    float via_price_ = 0;
    float eager_ = 1;  // how much what lies ahead counts: among many parts any good way will do
};

/// Straight tracks of what the router found, pulled tight, then as wide as there is room for up to `width`
/// [mm]; fills tracks, vias and links of the layout.
void lay_tracks(CopperLayout& layout, const CopperRouter& router, double width);

}  // namespace elkit
