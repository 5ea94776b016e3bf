#pragma once
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "drawer/item.hpp"

namespace elkit {

/// A part of the drawer that could stand in the place of another.
struct OwnedValue {
    Part part;          ///< as the one asked about, with what is other of it
    std::string name;   ///< "68 Ω resistor ¼ W 5 %"
    double value = 0;   ///< SI
    double pieces = 0;  ///< that this batch may take
};

/// Parts of the same kind in the drawer, with a rating no lower and a tolerance no wider, `pieces` of them at
/// least: the nearest in ratio first. Empty for a part whose value is no number.
std::vector<OwnedValue> owned_values(const std::vector<DrawerItem>& items, const Part& part,
                                     const std::string& batch, double pieces = 1);

/// The next owned value above (+1) or below (−1); nullptr if there is none.
const OwnedValue* next_owned(const std::vector<OwnedValue>& owned, double value, int direction);

/// Whether one of a choice of the catalogue ("leds", "red-5mm") is in stock; true for lists of which the
/// drawer holds nothing at all.
bool owns_choice(const std::vector<DrawerItem>& items, std::string_view choices_of, const std::string& id);

/// Cross-sections [mm²] of the wires in stock, thin to thick: of items whose names tell a wire and its gauge,
/// "hookup wire 0.25 mm²", "wire AWG 24".
std::vector<double> owned_wires(const std::vector<DrawerItem>& items);

}  // namespace elkit
