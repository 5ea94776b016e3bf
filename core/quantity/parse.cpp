#include "quantity/parse.hpp"

#include <fmt/format.h>

#include <array>
#include <charconv>
#include <cmath>
#include <optional>

namespace elkit {
namespace {

Error unreadable(std::string_view text, Unit unit) {
    return {Fault::usage, "", "cannot read \"" + std::string(text) + "\"", std::string(example(unit))};
}

std::string normalised(std::string_view text) {
    std::string out;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const auto rest = text.substr(i);
        if (text[i] == ' ' || text[i] == '\t') continue;
        if (rest.starts_with("µ") || rest.starts_with("μ")) {  // micro sign, Greek mu
            out += 'u';
            ++i;
        } else if (rest.starts_with("\u00a0")) {
            ++i;
        } else if (rest.starts_with("−")) {
            out += '-';
            i += 2;
        } else if (text[i] == ',') {
            out += '.';
        } else {
            out += text[i];
        }
    }
    return out;
}

std::optional<double> prefix_factor(char c) {
    switch (c) {
        case 'p':
            return 1e-12;
        case 'n':
            return 1e-9;
        case 'u':
            return 1e-6;
        case 'm':
            return 1e-3;
        case 'k':
        case 'K':
            return 1e3;
        case 'M':
            return 1e6;
        case 'G':
            return 1e9;
        default:
            return std::nullopt;
    }
}

/// Reads digits with an optional point and exponent from the front; advances `text`.
std::optional<double> take_number(std::string_view& text) {
    double value = 0;
    const char* begin = text.data();
    if (!text.empty() && text.front() == '+') ++begin;
    const auto [end, fault] = std::from_chars(begin, text.data() + text.size(), value);
    if (fault != std::errc{} || end == begin) return std::nullopt;
    text.remove_prefix(static_cast<std::size_t>(end - text.data()));
    return value;
}

std::optional<double> take_digits_after_letter(std::string_view& text) {
    std::size_t digits = 0;
    while (digits < text.size() && text[digits] >= '0' && text[digits] <= '9') ++digits;
    if (digits == 0) return std::nullopt;
    std::string fraction = "0." + std::string(text.substr(0, digits));
    text.remove_prefix(digits);
    std::string_view view = fraction;
    return take_number(view);
}

bool is_symbol(std::string_view rest, Unit unit) {
    if (rest.empty() || rest == symbol(unit)) return true;
    switch (unit) {
        case Unit::lux:
            return rest == "lux";
        case Unit::ohm:
            return rest == "R" || rest == "ohm" || rest == "ohms" || rest == "\u2126";
        case Unit::celsius:
            return rest == "C" || rest == "°";
        case Unit::second:
            return rest == "sec";
        case Unit::square_metre:
            return rest == "mm2";
        default:
            return false;
    }
}

/// s, of the words in which people say a time, and in which format_quantity() says it; nothing of another.
std::optional<double> span_of(std::string_view word) {
    constexpr double hour = 3600, day = 24 * hour, year = 365.25 * day;
    struct Span {
        double seconds;
        std::array<std::string_view, 5> words;
    };
    static constexpr std::array<Span, 7> spans{{{1, {"s", "sec", "second", "seconds"}},
                                                {60, {"min", "minute", "minutes"}},
                                                {hour, {"h", "hour", "hours"}},
                                                {day, {"d", "day", "days"}},
                                                {7 * day, {"week", "weeks"}},
                                                {year / 12, {"month", "months"}},
                                                {year, {"year", "years", "y"}}}};
    for (const Span& span : spans)
        for (const std::string_view known : span.words)
            if (!known.empty() && word == known) return span.seconds;
    return std::nullopt;
}
/// s, of a unit of time.
std::optional<double> span_of(Unit unit) {
    if (unit == Unit::second || unit == Unit::hour || unit == Unit::year) return span_of(symbol(unit));
    return std::nullopt;
}

/// The letter that may stand for the decimal point besides a prefix: 4R7, 3V3.
bool is_point_letter(char c, Unit unit) {
    return (unit == Unit::ohm && c == 'R') || (unit == Unit::volt && c == 'V') ||
           (unit == Unit::ampere && c == 'A') || (unit == Unit::watt && c == 'W');
}

/// The decimal number times a power of ten, rounded once: 100 n is 1e-7 and not 1.0000000000000001e-07.
double scaled(double value, double power_of_ten) {
    const std::string text =
        fmt::format("{}e{}", value, static_cast<int>(std::lround(std::log10(power_of_ten))));
    double exact = value * power_of_ten;
    std::from_chars(text.data(), text.data() + text.size(), exact);
    return exact;
}

}  // namespace

Result<double> parse_quantity(std::string_view text, Unit unit) {
    const std::string clean = normalised(text);
    std::string_view rest = clean;
    auto number = take_number(rest);
    if (!number) return unreadable(text, unit);
    double value = *number;
    if (!rest.empty() && rest.front() == '/') {  // a fraction such as 1/4 W
        rest.remove_prefix(1);
        const auto below = take_number(rest);
        if (!below || *below == 0) return unreadable(text, unit);
        value /= *below;
    }
    if (unit == Unit::celsius && (rest == "°F" || rest == "F")) return (value - 32) / 1.8;
    if (unit == Unit::celsius && rest == "K") return value - 273.15;
    if (const auto own = span_of(unit), said = span_of(rest); own && said) {
        if (*said != *own) value *= *said / *own;
        if (!std::isfinite(value)) return unreadable(text, unit);
        return value;
    }
    if (!is_symbol(rest, unit)) {
        const auto factor = unit == Unit::metre && rest.front() == 'c' ? std::optional<double>(1e-2)
                                                                       : prefix_factor(rest.front());
        const bool point_letter = is_point_letter(rest.front(), unit);
        if (!factor && !point_letter) return unreadable(text, unit);
        if (factor && !takes_prefix(unit) && unit != Unit::none) return unreadable(text, unit);
        rest.remove_prefix(1);
        if (const auto fraction = take_digits_after_letter(rest)) value += std::copysign(*fraction, value);
        if (factor) value = scaled(value, *factor);
        if (!is_symbol(rest, unit)) return unreadable(text, unit);
    }
    if (!std::isfinite(value)) return unreadable(text, unit);
    return value;
}

bool is_bare_number(std::string_view text) {
    return !text.empty() && text.find_first_not_of("0123456789., ") == std::string_view::npos;
}

Result<double> parse_said(std::string_view text, Unit unit) {
    auto value = parse_quantity(text, unit);
    if (!value || value.value() == 0 || !is_bare_number(text)) return value;
    const auto ask = [&](std::string_view ways) {
        return Error{Fault::usage, "", fmt::format("{} what?", text), fmt::format(fmt::runtime(ways), text)};
    };
    if (unit == Unit::ampere) return ask("{0} mA or {0} A");
    if (unit == Unit::farad) return ask("{0} pF, {0} nF or {0} µF");
    if (unit == Unit::henry) return ask("{0} µH or {0} mH");
    return value;
}

}  // namespace elkit
