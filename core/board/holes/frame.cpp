#include "board/holes/frame.hpp"

#include <algorithm>

namespace elkit {

LyingPart lying(const BoardFrame& frame, const HolePart& part, const Placement& placement) {
    const GridFootprint& shape = part.shapes[static_cast<std::size_t>(placement.shape)];
    const Box b = placed_body(shape, placement);
    LyingPart at{part.part, shape.picture, {}, {}};
    for (const PinHole& pin : placed_pins(part, placement))
        at.pins.push_back({pin.pin, frame.x(pin.hole.column), frame.y(pin.hole.row)});
    at.body = {std::min(frame.x(b.x0), frame.x(b.x1)), frame.y(b.y0), std::max(frame.x(b.x0), frame.x(b.x1)),
               frame.y(b.y1)};
    return at;
}

}  // namespace elkit
