#pragma once
#include <string>
#include <vector>

#include "drawing/drawing.hpp"

namespace elkit {

/// A designator in a picture of a board, with the places where it may stand.
struct BoardName {
    struct Spot {
        double x, y;          ///< its middle [mm]
        double size;          ///< [mm]
        bool upward = false;  ///< reads from below, along a part that stands upright
    };
    std::string text, ref;
    Ink ink = Ink::ink;
    bool ground = false;      ///< on a patch of the board's colour
    std::vector<Spot> spots;  ///< the best first
};

/// What a name should not cover: a pad, the body of another part.
struct BoardObstacle {
    Box box;
    std::string ref;  ///< of the part that may be written on; empty: nobody's
};

/// Writes each name at its first free spot, or where it covers least; never over a name that is written
/// already as long as one of its spots is free of them. Words that are in the drawing are kept clear of.
void write_names(Drawing& drawing, const std::vector<BoardName>& names,
                 const std::vector<BoardObstacle>& obstacles);

/// Spots around a box of a part, close to it: to its right, left, above, below and at its corners.
std::vector<BoardName::Spot> around(const Box& box, const std::string& text, double size);

}  // namespace elkit
