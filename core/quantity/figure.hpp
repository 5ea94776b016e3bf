#pragma once
#include <optional>
#include <string>
#include <vector>

#include "quantity/format.hpp"
#include "quantity/unit.hpp"

namespace elkit {

/// A computed number for people: value, unit, spread and the arithmetic behind it.
/// The window, the leaflet and the command line all show numbers through this.
struct Figure {
    std::string id;     ///< stable, e.g. "light.resistor.R1"
    std::string label;  ///< "series resistor R1"
    double value = 0;   ///< in SI base units (°C, h, g, mm², % as they are)
    Unit unit = Unit::none;
    std::optional<double> low, high;   ///< spread over a batch, if known
    std::vector<std::string> working;  ///< formula, numbers put in, result; one line each

    std::string text(int digits = 3) const { return format_quantity(value, unit, digits); }
    /// "13.1–17.0", or empty without a spread.
    std::string spread_text(int digits = 3) const {
        return low && high ? format_range(*low, *high, value, unit, digits) : std::string();
    }
    bool operator==(const Figure&) const = default;
};

}  // namespace elkit
