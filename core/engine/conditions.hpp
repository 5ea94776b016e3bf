#pragma once
#include <map>
#include <string>

#include "circuit/part.hpp"

namespace elkit {

/// What the world does to the circuit at this moment.
struct Conditions {
    double battery = 1;   ///< state of charge, 0 empty … 1 fresh
    double celsius = 21;  ///< °C
    std::map<std::string, bool>
        switches;  ///< designator → closed; a switch not named here stands as in the design

    bool closed(const Part& part) const {
        const auto found = switches.find(part.designator);
        return found == switches.end() ? part.number("on") > 0.5 : found->second;
    }
    bool operator==(const Conditions&) const = default;
};

/// One sample out of the batch: −1 … +1 moves a quantity to the low or high end of its spread.
struct Corner {
    double led_vf = 0;      ///< forward-voltage bin of every LED
    double resistance = 0;  ///< every resistor within its tolerance
    double capacity = 0;    ///< cells' capacity, ±10 %
    bool operator==(const Corner&) const = default;
};

}  // namespace elkit
