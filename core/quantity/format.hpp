#pragma once
#include <string>

#include "quantity/unit.hpp"

namespace elkit {

/// Text with an engineering prefix and `digits` significant digits: 0.0152 A → "15.2 mA", 4700 Ω → "4.7 kΩ".
/// Trailing zeros are kept for measured units and dropped for ohm and farad, as printed on parts.
std::string format_quantity(double value, Unit unit, int digits = 3);

/// The same in two pieces for large type: number "15.2" and unit "mA".
struct NumberAndUnit {
    std::string number, unit;
};
NumberAndUnit split_quantity(double value, Unit unit, int digits = 3);

/// What an instrument shows on a range of 0.2, 2, 20 … whose last digit is a two-thousandth of it: 1.42 V on
/// the range of 2 V → "1.420 V", on that of 20 V → "1.42 V".
std::string format_on_range(double value, Unit unit, double range);

/// "13.1–17.0" in the prefix of `value`, for a spread behind a number.
std::string format_range(double low, double high, double value, Unit unit, int digits = 3);

/// Shortest text that reads back to the same double, with a point: "0.012", "4700".
std::string format_plain(double value);

}  // namespace elkit
