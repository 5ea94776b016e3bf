#pragma once
#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "board/holes/clusters.hpp"
#include "board/holes/substrate.hpp"
#include "quantity/random.hpp"

namespace elkit {

/// Lays clusters of parts on a board of holes by simulated annealing (Kirkpatrick et al., Science 220, 1983);
/// the same seed gives the same board. Its cost, in holes: what it takes to join the nets on this board, the
/// outline of all, parts over each other, what belongs at the edge and is not there, lights that stand in
/// many lines or look different ways.
class Placer {
  public:
    /// `airy`: 1 lays the parts as close as they go, 3 with room for much between.
    Placer(const HoleParts& parts, std::vector<Cluster> clusters, Substrate board, double airy,
           std::uint64_t seed);
    Placer(const Placer&) = delete;
    Placer& operator=(const Placer&) = delete;
    virtual ~Placer() = default;

    /// From where parts were put by hand: what stays is left, and what it lies over moves to the nearest
    /// place that is free; others move a little where all cannot be joined then. False where there is none,
    /// or what stays lies over each other or beside the board.
    bool make_room();
    /// From anywhere, or failing that from parts laid beside each other; true if none overlap at the end and
    /// it is sound.
    bool run(int moves);

    /// Where each cluster lies, to come back to.
    using Spot = Pose;
    std::vector<Spot> spots() const;
    void put(const std::vector<Spot>& spots);
    Box outline(std::size_t cluster) const { return pieces_[cluster].outline; }  ///< where it lies now
    /// From these spots, at so little heat that most of them stay; true if none overlap at the end.
    bool vary(const std::vector<Spot>& from, int moves);

    std::vector<Placement> placements() const;  ///< in the circuit's order; without a name: not placed
    /// What lies so that it cannot be joined, whatever wires there are.
    virtual int faults() const { return 0; }
    bool sound() const { return faults() == 0; }

  protected:
    /// What is moved as one: where its pins and bodies are now.
    struct Piece {
        Cluster cluster;
        std::vector<std::size_t> parts;  // in the circuit
        Pose pose;
        std::vector<Hole> holes;
        std::vector<int> nets;  // index of each hole's net, −1 without one
        Box body{};
        Box outline{};  // of body and holes
        bool stays = false;
        const HolePart& first() const { return *cluster.members.front().part; }
        bool single() const { return cluster.members.size() == 1; }
        int shapes() const { return single() ? static_cast<int>(first().shapes.size()) : 1; }
    };
    /// A hole of the board.
    struct Ground {
        int legs = 0, nets = 0;  // how many there are; the sum of their nets
        bool rail = false;
    };
    using NetPins = std::vector<std::pair<std::size_t, std::size_t>>;  // piece, its hole

    /// What it takes to join all nets, in holes.
    virtual double joining() const = 0;
    /// What of it changes when this piece is moved.
    virtual double joining_of(std::size_t piece) const = 0;
    /// Legs came to this hole of the ground, or went.
    virtual void touch(std::size_t) {}
    /// A piece with these nets was moved.
    virtual void touch_nets(const std::vector<int>&) {}

    std::size_t ground_at(Hole h) const {
        return static_cast<std::size_t>(h.row * board_.columns + h.column);
    }
    Hole hole_of(std::size_t net, std::size_t k) const {
        const auto& [piece, hole] = members_[net][k];
        return pieces_[piece].holes[hole];
    }

    Substrate board_;
    double airy_;
    double overlap_price_ = 40;  // holes, for each two that lie over each other
    std::vector<std::string> nets_;
    std::vector<Piece> pieces_;
    std::vector<Ground> ground_;
    std::vector<NetPins> members_;  // of each net

  private:
    bool anneal(int moves, double hottest);
    /// Lays the largest first, each in the first place that is free; false if one finds none.
    bool pack();
    void scatter(Piece& p);
    bool lies_free(const Piece& p) const;
    /// Areas that stay free and that it lies in.
    int in_free_areas(const Piece& p) const;
    /// To the nearest place where it is, so many holes away at most, rather where there are no more faults.
    bool step_aside(std::size_t piece, int furthest, int most_faults);
    /// The first that can move a little so that there are fewer faults; false if none can.
    bool one_makes_way();
    void propose(Piece& p, double heat);
    void settle(Piece& p, const Spot& spot);
    /// Its legs come, or go.
    void note(const Piece& p, int times);
    bool inside(const Piece& p) const;

    double cost() const;
    /// What a piece costs where it stands, but for the joining of its nets.
    double standing(std::size_t piece) const;
    struct Costs {
        bool known = false;
        double standing = 0, joining = 0;  // of a piece, the former with the outline of all
    };
    /// Leads and switches stand within two holes of the edge, long side along it.
    double edge_cost(const Piece& p) const;
    /// Legs bent further apart than they are sold: work for whoever bends them.
    double bend_cost(const Piece& p) const;
    /// Lights are seen: few rows and columns hold them all, and they are turned the same way.
    double lights_cost() const;
    /// Half the outline of everything placed: the board should be small.
    double spread() const;
    double overlap_total() const;
    static bool overlap(const Piece& a, const Piece& b);
    /// In parts: what moves more of them at once could gain more by it.
    static double overlapping(const Piece& a, const Piece& b);

    std::size_t count_;
    std::vector<Box> free_;  // areas where nothing lies
    Random random_;
    std::vector<const Piece*> lights_;
};

}  // namespace elkit
