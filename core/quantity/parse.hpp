#pragma once
#include <string_view>

#include "quantity/result.hpp"
#include "quantity/unit.hpp"

namespace elkit {

/// The number a person typed, in SI base units (°C, h, mm², g, % as they are; % stays a percentage).
/// Understands 4k7, 4.7k, 4,7k, 4R7, 100n, 0.1µF, 2M2, 15mA, 3V3, 1/4 W, 68°F; the unit may be left out.
/// Error (usage) if it cannot be read, names another unit, or is not finite.
Result<double> parse_quantity(std::string_view text, Unit unit);

}  // namespace elkit
