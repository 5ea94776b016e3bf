#pragma once
#include <array>
#include <cstdint>
#include <utility>
#include <vector>

#include "board/copper/layout.hpp"

namespace elkit {

/// The grid that tracks run on: nodes 0.635 mm apart, on each layer of copper, and where links are allowed on
/// two more, for links along x and along y. Knows where copper of which net may lie, and who lies where.
class RouteGrid {
  public:
    static constexpr double pitch = 0.635;  // mm: a quarter of the pitch of pins

    enum Width {
        track,
        land
    };  ///< of what lies there: a track (or a link's wire), the land of a via or link
    static constexpr int free_for_all = -1, free_for_none = -2;

    /// What the nets of a layout may use, whose parts are placed. `width` of tracks [mm].
    RouteGrid(const CopperLayout& layout, const std::vector<std::string>& nets, double width);

    int columns() const { return columns_; }
    int rows() const { return rows_; }
    int layers() const { return layers_; }  ///< with those of links
    int copper_layers() const { return copper_; }
    bool is_link(int layer) const { return layer >= copper_; }
    std::size_t nodes() const { return static_cast<std::size_t>(columns_ * rows_); }  ///< of a layer
    int node(int layer, int column, int row) const { return (layer * rows_ + row) * columns_ + column; }
    int layer_of(int node) const { return places_[static_cast<std::size_t>(node)].layer; }
    int column_of(int node) const { return places_[static_cast<std::size_t>(node)].column; }
    int row_of(int node) const { return places_[static_cast<std::size_t>(node)].row; }
    Point point(int node) const { return {x0_ + column_of(node) * pitch, y0_ + row_of(node) * pitch}; }
    double track_width() const { return width_; }
    double land_diameter() const { return land_; }
    double hole_diameter() const { return hole_; }
    int holes_apart() const { return apart_; }  ///< nodes between the holes of two vias or links

    bool may_lie(Width w, int node, int net) const {
        const int allowed = allowed_[w][static_cast<std::size_t>(node)];
        return allowed == free_for_all || allowed == net;
    }
    /// True if a hole here keeps clear of other holes, bodies where that matters, and the rim; on the grid of
    /// 2.54 mm that links are bent to.
    bool may_drill(int node, int link_layer) const;
    /// Nodes within the land of a pad, on the layers where it conducts.
    std::vector<int> nodes_of(const CopperPad& pad) const;

    /// How many nets lie so close here that something of this width is too near to them.
    int crowd(Width w, int node) const { return crowd_[w][static_cast<std::size_t>(node)]; }

    /// What a net takes up.
    struct Claim {
        std::vector<std::pair<Width, int>> nodes;    // where it lies
        std::vector<std::pair<int, int>> diagonals;  // nodes between whose middles it lies
        std::vector<std::vector<int>> near{{}, {}};  // nodes where others of this width are too near
    };
    void enter(Claim& claim);
    void leave(const Claim& claim);

  private:
    struct Place {  // of each node: a division for every look would be slow
        std::int16_t column, row, layer;
    };
    std::vector<bool> inside(const Ring& ring) const;
    std::vector<double> distances(const Ring& ring, double reach) const;
    void block_outline(const CopperLayout& layout);
    void block_pads(const CopperLayout& layout, const std::vector<std::string>& nets);
    void block_bodies(const CopperLayout& layout);
    using Offsets = std::vector<std::pair<int, int>>;  // columns and rows from a node
    /// Offsets to all nodes nearer than `radius` [mm] to a place that lies `beside` [pitch] the node, both
    /// ways.
    static Offsets within(double radius, double beside);
    void find_reaches();
    template <class Do>
    void each_of(const Offsets& offsets, int node, int layer, Do run) const;
    template <class Do>
    void each_within(Point centre, double radius, int layer, Do run);
    template <class Do>
    void each_near(const CopperPad& pad, double around, int layer, Do run);
    void allow_only(Width w, int node, int net);
    double half(Width w, int layer) const;

    double x0_ = 0, y0_ = 0;
    int columns_ = 0, rows_ = 0, copper_ = 1, layers_ = 1;
    double width_, gap_, land_, hole_;
    bool plated_;
    int apart_ = 1;
    std::vector<Place> places_;
    std::array<std::vector<int>, 2> allowed_;
    std::array<std::vector<std::uint16_t>, 2> crowd_;
    // where something of a width [second] is too near to what lies on a node, of a width [first]
    std::array<std::array<Offsets, 2>, 2> near_copper_, near_link_;
    std::array<Offsets, 2> near_diagonal_;
    std::vector<bool> no_hole_;
    std::vector<int> marked_;
    int mark_ = 0;
};

}  // namespace elkit
