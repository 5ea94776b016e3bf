#include "quantity/format.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <string_view>

namespace elkit {
namespace {

struct Prefix {
    int exponent;
    std::string_view sign;
};

Prefix prefix_for(double magnitude, Unit unit) {
    static constexpr std::array<std::string_view, 8> signs{"p", "n", "µ", "m", "", "k", "M", "G"};
    if (!takes_prefix(unit) || magnitude < 1e-15) return {0, ""};
    if (unit == Unit::metre) return magnitude < 1 ? Prefix{-3, "m"} : Prefix{0, ""};
    if (unit == Unit::ohm && magnitude < 1) return {0, ""};
    if (unit == Unit::volt && magnitude >= 0.0995) return {0, ""};  // people say 0.45 V, not 450 mV
    const int group = static_cast<int>(std::floor(std::log10(magnitude) / 3 + 1e-12));
    const int clamped = std::clamp(group, -4, 3);
    return {clamped * 3, signs[static_cast<std::size_t>(clamped + 4)]};
}

/// Rounds to significant digits, so that 999.7 µA becomes 1.00 mA and not 1000 µA.
double rounded(double value, int digits) {
    if (value == 0 || !std::isfinite(value)) return value;
    const double scale = std::pow(10.0, digits - 1 - std::floor(std::log10(std::abs(value))));
    return std::round(value * scale) / scale;
}

std::string digits_text(double scaled, Unit unit, int digits) {
    if (!std::isfinite(scaled)) return scaled > 0 ? "∞" : (scaled < 0 ? "−∞" : "–");
    if (std::abs(scaled) >= 1e15)
        return fmt::format("{:.3g}", scaled);  // no number of the bench: not 300 digits
    if (unit == Unit::money)
        return fmt::format("{:.{}f}", scaled, std::abs(scaled) < 0.1 && scaled != 0 ? 4 : 2);
    if (unit == Unit::count) return fmt::format("{:.0f}", scaled);
    const double magnitude = std::abs(scaled);
    int decimals =
        digits - 1 - (magnitude > 0 ? static_cast<int>(std::floor(std::log10(magnitude) + 1e-9)) : 0);
    if (unit == Unit::percent || unit == Unit::celsius)
        decimals = magnitude < 10 && unit == Unit::percent ? 1 : 0;
    decimals = std::clamp(decimals, 0, 6);
    std::string text = fmt::format("{:.{}f}", scaled, decimals);
    if ((unit == Unit::ohm || unit == Unit::farad || unit == Unit::henry || unit == Unit::none ||
         unit == Unit::metre || unit == Unit::square_metre || unit == Unit::percent ||
         unit == Unit::celsius) &&
        text.find('.') != std::string::npos) {
        text.erase(text.find_last_not_of('0') + 1);
        if (text.back() == '.') text.pop_back();
    }
    if (text == "-0" || text == "-0.00") text.erase(0, 1);
    if (text.front() == '-') text.replace(0, 1, "−");
    return text;
}

}  // namespace

NumberAndUnit split_quantity(double value, Unit unit, int digits) {
    // below what open contacts leak, and what that makes of volts and watts: nothing
    if (unit == Unit::ampere && std::abs(value) < 1e-10) value = 0;
    if ((unit == Unit::volt && std::abs(value) < 1e-9) || (unit == Unit::watt && std::abs(value) < 1e-10))
        value = 0;
    const double tidy = unit == Unit::money || unit == Unit::count ? value : rounded(value, digits);
    const Prefix prefix = prefix_for(std::abs(tidy), unit);
    return {digits_text(tidy / std::pow(10.0, prefix.exponent), unit, digits),
            std::string(prefix.sign) + std::string(symbol(unit))};
}

std::string format_quantity(double value, Unit unit, int digits) {
    const auto [number, suffix] = split_quantity(value, unit, digits);
    return suffix.empty() ? number : number + "\u00a0" + suffix;
}

std::string format_range(double low, double high, double value, Unit unit, int digits) {
    const Prefix prefix = prefix_for(std::abs(rounded(value, digits)), unit);
    const double scale = std::pow(10.0, prefix.exponent);
    const std::string a = digits_text(rounded(low, digits) / scale, unit, digits);
    const std::string b = digits_text(rounded(high, digits) / scale, unit, digits);
    return a == b ? a : a + "–" + b;
}

std::string format_plain(double value) { return fmt::format("{}", value); }

}  // namespace elkit
