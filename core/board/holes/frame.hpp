#pragma once
#include "board/holes/layout.hpp"
#include "board/part_painter.hpp"

namespace elkit {

/// From holes to places in a picture [mm]; the solder side is seen from behind.
struct BoardFrame {
    double margin, width, height;  ///< around the board; of the picture
    bool mirrored = false;

    BoardFrame(const Substrate& board, double around, bool from_behind)
        : margin(around),
          width(board.width() + 2 * around),
          height(board.height() + 2 * around),
          mirrored(from_behind) {}
    double x(double column) const {
        const double at = margin + (column + 0.5) * hole_pitch;
        return mirrored ? width - at : at;
    }
    double y(double row) const { return margin + (row + 0.5) * hole_pitch; }
};

/// A part as it lies in such a picture.
LyingPart lying(const BoardFrame& frame, const HolePart& part, const Placement& placement);

}  // namespace elkit
