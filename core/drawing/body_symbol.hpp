#pragma once
#include <string_view>
#include <vector>

#include "circuit/part.hpp"
#include "drawing/drawing.hpp"
#include "drawing/symbol.hpp"

namespace elkit {

/// A part with a leg for each pin, its legs leaving it upwards or downwards.
struct BodySymbol {
    const Part& part;
    double x, y, width, height;
    struct Leg {
        double x;
        bool up;
    };
    std::vector<Leg> legs;  ///< by pin
    SymbolState look;
};

/// True for the symbols that show what is inside a part of many pins: its contacts, windings or lights. Their
/// words stand beside them; a block's words stand in it.
bool has_body_symbol(std::string_view name);
bool is_block(const Part& part);

/// Adds the IEC 60617 symbol of a part with many pins: contacts, coils, windings and lights as what they are,
/// other chips and modules as a block with its pins named and a sign of what it does. Refs: part:D, value:D,
/// pin:D.pin.
void add_body_symbol(Drawing& drawing, const BodySymbol& body);

}  // namespace elkit
