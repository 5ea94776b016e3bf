#pragma once
#include "circuit/part.hpp"
#include "drawing/drawing.hpp"

namespace elkit {

/// How a symbol looks at this moment.
struct SymbolState {
    double scale = 1;     ///< size; its letters are never smaller than at 1
    double weight = 1.4;  ///< line width, follows the current
    double glow = 0;      ///< 0…1, perceived brightness of an LED
    bool closed = true;   ///< a switch
    bool lit = false;     ///< emphasised, as under the mouse
    unsigned light_rgb = 0xf0a21e;
};

/// Height the symbol takes on its vertical line at scale 1.
inline constexpr double symbol_height = 36;

/// True if there is a symbol of this name, as kinds.json gives it.
bool has_symbol(std::string_view name);

/// Adds the IEC 60617 symbol of a part between two nets: first pin at (x, top), second at (x, bottom), symbol
/// centred at `middle`; of three pins the last at the bottom and the second at (x − 8 scale, middle).
/// `flipped` if the first pin is the lower one. All items carry the ref "part:<designator>".
void add_symbol(Drawing& drawing, const Part& part, double x, double top, double bottom, double middle,
                bool flipped, const SymbolState& state);

}  // namespace elkit
