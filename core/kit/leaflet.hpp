#pragma once
#include <vector>

#include "batch/parts_list.hpp"
#include "build/steps.hpp"
#include "design/design.hpp"
#include "drawing/drawing.hpp"

namespace elkit {

/// The kit leaflet as A4 pages [mm]: the circuit lit and fresh, how long it lasts, the bag, the board, the
/// steps. Errors are those of engine and board.
struct LeafletQuery {
    Design design;
    Keyed<std::vector<DrawerItem>> drawer;
    using Value = std::vector<Drawing>;
    static constexpr std::string_view name = "leaflet";
    static constexpr std::size_t weight = 100;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
