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

constexpr std::array<std::string_view, 8> signs{"p", "n", "µ", "m", "", "k", "M", "G"};  // of 1000^(k − 4)

Prefix prefix_for(double magnitude, Unit unit) {
    if (!takes_prefix(unit) || !std::isfinite(magnitude) || magnitude < 1e-15) return {0, ""};
    if (unit == Unit::hertz && magnitude < 1) return {0, ""};  // nobody speaks of millihertz
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

namespace {

struct Span {
    double hours;  // of one
    double up_to;  // h: the next longer one is said from here on
    const char* name;
};
constexpr double day = 24, week = 7 * day, month = 365.25 / 12 * day, year = 365.25 * day;
constexpr Span spans[] = {{1.0 / 60, 1, "min"},          {1, 4 * day, "h"},
                          {day, 4 * week, "days"},       {week, 13 * week, "weeks"},
                          {month, 24 * month, "months"}, {year, 1e99, "years"}};

bool is_long(Unit unit) { return unit == Unit::hour || unit == Unit::year; }

/// What people would give a time of so many hours in.
const Span& span_for(double hours) {
    for (const Span& span : spans)
        if (!(std::abs(hours) >= span.up_to)) return span;
    return spans[5];
}
const Span& span_of(double value, Unit unit) {
    const double hours = unit == Unit::year ? value * year : value;
    return hours == 0 || !std::isfinite(hours) ? (unit == Unit::year ? spans[5] : spans[1]) : span_for(hours);
}

}  // namespace

namespace {

/// Below what open contacts leak, and what that makes of volts and watts: nothing.
double without_leaks(double value, Unit unit) {
    const double least = unit == Unit::volt ? 1e-9 : unit == Unit::ampere || unit == Unit::watt ? 1e-10 : 0;
    return std::abs(value) < least ? 0 : value;
}

}  // namespace

NumberAndUnit split_quantity(double value, Unit unit, int digits) {
    if (is_long(unit)) {
        const Span& span = span_of(value, unit);
        const double scaled = value * (unit == Unit::year ? year : 1) / span.hours;
        return {digits_text(rounded(scaled, digits), Unit::second, digits), span.name};
    }
    value = without_leaks(value, unit);
    const double tidy = unit == Unit::money || unit == Unit::count ? value : rounded(value, digits);
    const Prefix prefix = prefix_for(std::abs(tidy), unit);
    return {digits_text(tidy / std::pow(10.0, prefix.exponent), unit, digits),
            std::string(prefix.sign) + std::string(symbol(unit))};
}

std::string format_quantity(double value, Unit unit, int digits) {
    const auto [number, suffix] = split_quantity(value, unit, digits);
    return suffix.empty() ? number : number + "\u00a0" + suffix;
}

std::string format_on_range(double value, Unit unit, double range) {
    const int power = static_cast<int>(std::lround(std::log10(range / 2)));
    const int group = static_cast<int>(std::floor(power / 3.0));
    const int exponent = 3 * std::clamp(group, -4, 3);
    std::string number =
        fmt::format("{:.{}f}", value / std::pow(10.0, exponent), std::clamp(3 - (power - exponent), 0, 9));
    if (number.find_first_not_of("-0.") == std::string::npos && number.front() == '-') number.erase(0, 1);
    if (number.front() == '-') number.replace(0, 1, "−");
    return number + "\u00a0" + std::string(signs[static_cast<std::size_t>(exponent / 3 + 4)]) +
           std::string(symbol(unit));
}

std::string format_range(double low, double high, double value, Unit unit, int digits) {
    low = without_leaks(low, unit), high = without_leaks(high, unit), value = without_leaks(value, unit);
    const Prefix prefix = prefix_for(std::abs(rounded(value, digits)), unit);
    const double own = unit == Unit::year ? year : 1;
    const double scale = is_long(unit) ? span_of(value, unit).hours / own : std::pow(10.0, prefix.exponent);
    if (is_long(unit)) unit = Unit::second;
    const std::string a = digits_text(rounded(low / scale, digits), unit, digits);
    const std::string b = digits_text(rounded(high / scale, digits), unit, digits);
    return a == b ? a : a + "–" + b;
}

std::string format_plain(double value) { return fmt::format("{}", value); }

}  // namespace elkit
