#pragma once
#include <string_view>

#include "quantity/result.hpp"
#include "quantity/unit.hpp"

namespace elkit {

/// The number a person typed, in SI base units (°C, h, mm², g, % as they are; % stays a percentage).
/// Understands 4k7, 4.7k, 4,7k, 4R7, 100n, 0.1µF, 2M2, 15mA, 3V3, 1/4 W, 68°F; the unit may be left out.
/// Error (usage) if it cannot be read, names another unit, or is not finite.
Result<double> parse_quantity(std::string_view text, Unit unit);

/// Likewise, of what is said without a field that shows its unit: a bare number of amperes, farads or
/// henries, of which nobody has whole ones, is asked back: "20 mA or 20 A".
Result<double> parse_said(std::string_view text, Unit unit);
/// Digits alone, or with a decimal point: no prefix, no unit.
bool is_bare_number(std::string_view text);

}  // namespace elkit
