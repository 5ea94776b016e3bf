#pragma once
#include <array>
#include <optional>
#include <string>
#include <vector>

#include "board/copper/layout.hpp"

namespace elkit {

/// A chip and the capacitor across its supply that belongs at it: indices of parts; the two nets, and the
/// pins of the chip and the capacitor on each.
struct SupplyPair {
    std::size_t chip, capacitor;
    std::array<std::string, 2> nets, chip_pins, capacitor_pins;
};
/// That of one chip and one capacitor; none if the capacitor is not across the chip's supply.
std::optional<SupplyPair> supply_pair(const std::vector<CopperPart>& parts, std::size_t chip,
                                      std::size_t capacitor);
/// Each chip takes the first capacitor that is free, one that is not polarised before others.
std::vector<SupplyPair> supply_pairs(const std::vector<CopperPart>& parts);

/// Where the capacitor lies best beside its chip, which lies unturned at 0, 0: place of its first pad and its
/// turn. `room`: mm around each part's lands.
struct Beside {
    Point at;
    double turn = 0;
};
Beside beside_chip(const std::vector<CopperPart>& parts, const SupplyPair& pair, double room);

}  // namespace elkit
