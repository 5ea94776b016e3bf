#include "quantity/duration.hpp"

#include <array>
#include <charconv>
#include <cmath>
#include <utility>

#include "quantity/format.hpp"

namespace elkit {

std::optional<double> plain_seconds(std::string_view text) {
    constexpr std::array<std::pair<std::string_view, double>, 4> units{
        {{"ms", 1e-3}, {"min", 60}, {"h", 3600}, {"s", 1}}};
    for (const auto& [unit, factor] : units) {
        if (!text.ends_with(unit)) continue;
        const std::string_view digits = text.substr(0, text.size() - unit.size());
        double value = 0;
        const auto [end, trouble] = std::from_chars(digits.data(), digits.data() + digits.size(), value);
        if (trouble == std::errc() && end == digits.data() + digits.size() && std::isfinite(value))
            return value * factor;
    }
    return std::nullopt;
}

std::string plain_seconds(double seconds) {
    return seconds < 1 ? format_plain(std::round(seconds * 1e6) / 1e3) + "ms" : format_plain(seconds) + "s";
}

}  // namespace elkit
