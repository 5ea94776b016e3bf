#pragma once
#include <cstdint>
#include <utility>
#include <vector>

#include "board/pad/clusters.hpp"
#include "quantity/random.hpp"

namespace elkit {

/// Lays clusters of parts on a board of holes by simulated annealing (Kirkpatrick et al., Science 220, 1983);
/// the same seed gives the same board. Its cost, in holes: the nets' trees, the outline of all, parts over
/// each other, legs of different nets side by side, what belongs at the edge and is not there, lights that
/// stand in many lines or look different ways.
class Placer {
  public:
    /// `airy`: 1 lays the parts as close as they go, 3 with room for many ways between.
    Placer(const Circuit& circuit, int columns, int rows, double airy, std::uint64_t seed);
    Placer(const Placer&) = delete;
    Placer& operator=(const Placer&) = delete;

    /// From anywhere, or failing that from parts laid beside each other; true if none overlap at the end.
    bool run(int moves);

    /// Where each cluster lies, to come back to.
    struct Spot {
        Hole at;
        int turn;
    };
    std::vector<Spot> spots() const;
    void put(const std::vector<Spot>& spots);
    /// From these spots, at so little heat that most of them stay; true if none overlap at the end.
    bool vary(const std::vector<Spot>& from, int moves);

    std::vector<Placement> placements() const;  ///< in the circuit's order

  private:
    /// What is moved as one: where its pins and bodies are now.
    struct Piece {
        Cluster cluster;
        std::vector<GridFootprint> footprints;
        std::vector<std::size_t> parts;  // in the circuit
        Placement placement;
        std::vector<Hole> holes;
        std::vector<int> nets;  // index of each hole's net, −1 without one
        Box body{};
        Box outline{};  // of body and holes
        const Part& first() const { return *cluster.members.front().part; }
        bool single() const { return cluster.members.size() == 1; }
    };
    /// A hole of the board.
    struct Ground {
        int legs = 0, nets = 0;  // how many there are; the sum of their nets
    };

    bool anneal(int moves, double hottest);
    /// Lays the largest first, each in the first place that is free; false if one finds none.
    bool pack();
    void scatter(Piece& p);
    void propose(Piece& p, double heat);
    void settle(Piece& p, const Spot& spot);
    /// Its legs come, or go.
    void note(const Piece& p, int times);
    bool on_board(Hole h) const {
        return h.column >= 0 && h.row >= 0 && h.column < columns_ && h.row < rows_;
    }
    std::size_t ground_at(Hole h) const { return static_cast<std::size_t>(h.row * columns_ + h.column); }
    bool inside(const Piece& p) const;

    double cost() const;
    double local_cost(std::size_t piece) const;
    /// Legs of other nets right beside: nothing goes through between, and solder creeps.
    double crowd(const Piece& p) const;
    /// Leads and switches stand within two holes of the edge, long side along it.
    double edge_cost(const Piece& p) const;
    /// Lights are seen: few rows and columns hold them all, and they are turned the same way.
    double lights_cost() const;
    /// Half the outline of everything placed: the board should be small.
    double spread() const;
    double overlap_total() const;
    /// A net of many pins, such as a supply rail: its tree would cost its pins squared in every move.
    bool is_rail(std::size_t net) const { return members_[net].size() > most_in_tree; }
    /// Holes from `here` to the net's nearest pin on another piece.
    double to_nearest(std::size_t net, std::size_t piece, Hole here) const;
    /// Length of a minimum spanning tree over the net's pads (Prim); of a rail, the sum of what each pin has
    /// to its nearest.
    double net_length(std::size_t net) const;
    static bool overlap(const Piece& a, const Piece& b);
    /// In parts: what moves more of them at once could gain more by it.
    static double overlapping(const Piece& a, const Piece& b);

    static constexpr std::size_t most_in_tree = 16;  // pins
    int columns_, rows_;
    std::size_t count_;
    double airy_;
    Random random_;
    mutable std::vector<double> distance_;  // scratch of net_length()
    mutable std::vector<char> joined_;
    std::vector<Piece> pieces_;
    std::vector<const Piece*> lights_;
    std::vector<Ground> ground_;
    std::vector<std::vector<std::pair<std::size_t, std::size_t>>> members_;  // of each net: piece, its hole
};

}  // namespace elkit
