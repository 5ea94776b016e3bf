#pragma once
#include <optional>
#include <string>
#include <vector>

#include "board/holes/hole.hpp"
#include "design/design.hpp"
#include "drawing/drawing.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Where a joint or link of a net shall pass.
struct HolePull {
    std::string net;
    Hole hole;
    bool operator==(const HolePull&) const = default;
};

/// What is wished of a board of holes besides places for parts.
struct HoleWishes {
    std::vector<Box> free{};  ///< areas where nothing lies, in hole units
    std::vector<HolePull> pulls{};

    bool none() const { return free.empty() && pulls.empty(); }
    bool keeps_free(Hole hole) const;  ///< true if an area that stays free has this hole
    void move(int columns, int rows);
    Hole extent() const;  ///< columns and rows from the corner to the last that they need
};

/// Those of a design. Design error: a pull of no net, or what lies beyond any board.
Result<HoleWishes> hole_wishes(const Circuit& circuit, const BoardChoices& choices);

}  // namespace elkit
