#pragma once
#include <algorithm>
#include <array>
#include <cstdint>
#include <utility>
#include <vector>

#include "board/copper/layout.hpp"
#include "quantity/random.hpp"

namespace elkit {

/// Parts that keep their places beside each other: each with its offset and turn from the first.
struct CopperCluster {
    struct Member {
        std::size_t part;  ///< index
        Point offset;
        double turn = 0;
    };
    std::vector<Member> members;
    bool locked = false;  ///< stays where its part is
    bool pinned = false;  ///< turns about the middle of its body, and stays there
    bool placed = false;  ///< begins where its part is
};

/// The way that must look off the board before the part is turned, one step; (0, 0) where none must.
Point way_out(const Footprint& footprint);
/// mm from there to the edge of the board; 0 where no side must look off it.
double behind_edge(const CopperPart& part, const Box& board);

/// Lays parts on a board of any outline by simulated annealing (Kirkpatrick et al., Science 220, 1983), on a
/// grid of 1.27 mm; the same seed gives the same board. Its cost, in mm: the shortest trees that join the
/// nets, their crossings, the outline of all, parts over each other, what belongs at the edge and is not
/// there, lights that stand in many lines or look different ways, supply capacitors away from their chips,
/// light sensors beside lights, what gets warm beside cells, sensors and electrolytic capacitors. An iron
/// comes to every land on the surface.
class CopperPlacer {
  public:
    struct Setting {
        Ring outline;
        std::vector<KeepOut> keep_out;
        std::vector<PlainHole> holes;
        std::vector<double> rims;  ///< mm from the middle of a part's pads to the edge, by part
        double land = 1.9;         ///< mm
        double gap = 0.4;          ///< mm between copper
        double room = 0.5;         ///< mm left around each part for what runs between
        double crossing = 8;       ///< mm that two lines which cross are worth
    };
    CopperPlacer(std::vector<CopperPart>& parts, const Circuit& circuit, std::vector<CopperCluster> clusters,
                 Setting setting, std::uint64_t seed);

    /// From anywhere; true if none overlap at the end and all lie on the board. The parts then are there.
    bool run(int moves);
    /// Moves aside only what lies over something else; true if that did.
    bool settle();

  private:
    struct Spot {
        Point at;
        double turn = 0;
    };
    struct Pin {
        std::size_t net;
        Point offset;  // from the first part's place, before it is turned
        Point at;
        std::size_t part;
        std::string name;
    };
    struct Shape {  // of a piece at (0, 0), turned by quarters
        Box outline = no_box;
        std::vector<Point> pins;
        bool known = false;
    };
    struct Piece {
        CopperCluster cluster;
        Spot spot{};
        std::vector<Pin> pins{};  // those with a net
        Box outline{};            // with its lands and room
        std::array<Shape, 4> shapes{};
        std::vector<std::size_t> nets{};  // each once
        bool edge = false;
        Point opens{};  // the way that must look off the board, before it is turned
        bool single() const { return cluster.members.size() == 1; }
        bool moves() const { return !cluster.locked; }
    };
    struct Line {
        Point a, b;
        Box box;
        Line(Point from, Point to)
            : a(from),
              b(to),
              box{std::min(a.x, b.x), std::min(a.y, b.y), std::max(a.x, b.x), std::max(a.y, b.y)} {}
    };
    struct Tree {
        std::vector<Line> lines;
        Box box = no_box;
        double length = 0;
        std::vector<int> crossed;  // how often, by the tree of each net
    };
    struct Net {
        std::vector<std::pair<std::size_t, std::size_t>> pins;  // piece, its pin
        Tree tree;
    };
    struct Pair {  // of pins that belong close together
        std::size_t piece, pin, other, other_pin;
    };

    struct Apart {  // pieces whose middles belong so many mm apart
        std::size_t a, b;
        double mm;
    };

    void find_pairs();
    std::size_t pin_of(std::size_t part, const std::string& pin) const;
    void find_apart();
    void put(Piece& p, const Spot& spot);
    Shape shape_of(const Piece& p, double turn) const;
    void write_back(const Piece& p);
    static int crossings(const Tree& a, const Tree& b);
    void grow(Net& net);
    void grow(const std::vector<std::size_t>& nets);
    bool on_board(const Piece& p) const;
    bool is_free(const Box& outline, std::size_t but) const;
    bool moved_aside(std::size_t piece);
    static double overlap(const Piece& a, const Piece& b);
    double overlaps(std::size_t piece) const;
    double joining(const std::vector<std::size_t>& nets);
    double own_cost(const Piece& p, std::size_t index) const;
    double spread() const;
    double lights_cost() const;
    Spot proposal(const Piece& p, double heat);
    bool legal() const;
    Point centre_offset(const Piece& p) const;

    std::vector<CopperPart>& parts_;
    Setting set_;
    Random random_;
    Box frame_{};  // of the outline
    std::vector<Piece> pieces_;
    std::vector<Net> nets_;
    std::vector<Pair> pairs_;
    std::vector<std::size_t> lights_;
    std::vector<Apart> apart_;
    std::vector<std::size_t> piece_of_;  // by part
};

}  // namespace elkit
