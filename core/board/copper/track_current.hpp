#pragma once

namespace elkit {

/// A that a track on the outside of a board carries at so much warmth above its surroundings: I = 0.048 ·
/// ΔT^0.44 · A^0.725, A in square mils (IPC-2221B, 6.2, external conductors). Width in mm, thickness in µm,
/// rise in K.
double track_current(double width, double thickness, double rise);
/// mm that a track must be wide for this current, by the same formula.
double track_width(double current, double thickness, double rise);

}  // namespace elkit
