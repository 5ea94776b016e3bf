#pragma once
#include <cstddef>
#include <map>
#include <string>
#include <vector>

#include "board/holes/layout.hpp"

namespace elkit {

/// The strips of a board while its nets are joined: who has which holes, what lies over them, and which
/// pieces of strips belong together so far.
class Strips {
  public:
    static constexpr int free_hole = -1;
    /// Of the areas that stay free and below: copper there belongs to nobody, however far its strip goes.
    static constexpr int first_area = -1'000'000;
    /// Where a strip is sawn off or drilled away.
    static constexpr int no_copper = first_area + 1;

    /// A piece of a strip that a net has legs or wires on.
    struct Segment {
        int net, row, from, to;  ///< its first and last hole that is taken
    };

    Strips(const HoleLayout& layout, const HoleParts& parts);

    int columns() const { return columns_; }
    int rows() const { return rows_; }
    std::size_t nets() const { return by_net_.size(); }
    /// Net of the leg or wire in this hole; negative: none, or a leg that leads nowhere.
    int at(Hole h) const { return nets_[place(h)]; }
    /// -1 if no leg on the board is of this net.
    int net_of(const std::string& name) const;
    const std::vector<Segment>& segments() const { return segments_; }
    const std::vector<std::size_t>& segments_of(std::size_t net) const { return by_net_[net]; }
    bool joined(std::size_t a, std::size_t b) const { return root(a) == root(b); }
    /// True if its segments are all joined.
    bool whole(std::size_t net) const;

    /// A net may take this free hole of its piece: what is next to it on both sides is its own, or a hole
    /// away, where the strip can be cut.
    bool may_take(const Segment& segment, int column) const;
    /// Where a net may begin a piece of its own, by hole: nobody's legs are on both sides, or a hole away.
    std::vector<char> may_begin(int net) const;
    /// A body, leg or wire lies here: no wire goes over it.
    bool covered(Hole h) const { return covered_[place(h)] != 0; }
    /// No body, leg or wire on the way down this column.
    bool clear_between(int column, int from, int to) const;

    /// A bare wire between two pieces; both then reach to it.
    void link(std::size_t a, std::size_t b, int column);
    /// Two pieces are joined by something else.
    void join(std::size_t a, std::size_t b) { root_of_[root(a)] = root(b); }
    /// A piece for a net, of no holes yet. Returns its index.
    std::size_t begin(int net, int row);
    /// Holes of a piece that have a leg or wire.
    std::vector<Hole> taken(const Segment& segment) const;

  private:
    std::size_t place(Hole h) const { return static_cast<std::size_t>(h.row * columns_ + h.column); }
    std::size_t root(std::size_t k) const {
        while (root_of_[k] != k) k = root_of_[k];
        return k;
    }
    void keep_free(const std::vector<Box>& areas);
    void collect(std::size_t nets);

    int columns_, rows_;
    std::map<std::string, int> names_;
    std::vector<int> nets_;      // by hole
    std::vector<char> covered_;  // by hole: no wire over it
    std::vector<Segment> segments_;
    std::vector<std::vector<std::size_t>> by_net_;
    std::vector<std::size_t> root_of_;
};

/// A way from one piece of a net to another that is not joined to it, over strips that nobody uses: straight
/// links, each from the strip where the last one ended to another (Dijkstra by their number and length).
struct Detour {
    std::size_t from, to;  ///< segments
    struct Link {
        int column, row_a, row_b;
    };
    std::vector<Link> links;  ///< empty: there is none
};
Detour find_detour(const Strips& strips, std::size_t net);

}  // namespace elkit
