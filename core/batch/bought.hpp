#pragma once
#include <string>

#include "board/footprint.hpp"

namespace elkit {

/// What is bought for a part, as the drawer and a shop know it.
struct Bought {
    std::string key, name;
    std::string marking;  ///< how it is told apart
    bool bands = false;   ///< its marking are colour bands
};

/// With legs as the circuit has it, or what is soldered in its place where its footprint lies on the surface:
/// "1 kΩ resistor 1/8 W, surface, 2.0 × 1.25 mm (0805)", marked 102. nullptr: no footprint is known.
Bought bought_as(const Part& part, const Footprint* footprint);

}  // namespace elkit
