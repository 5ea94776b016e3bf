#include "quantity/preferred.hpp"

#include <fmt/format.h>

#include <array>
#include <cmath>
#include <limits>
#include <map>

namespace elkit {
namespace {

/// E3…E24 are printed in IEC 60063; they do not follow the rounded geometric rule everywhere (2.7, 3.3, 8.2
/// …).
constexpr std::array<double, 24> e24{1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0,
                                     3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1};

std::vector<double> make_decade(int n) {
    std::vector<double> values;
    for (int i = 0; i < n; ++i) {
        if (n <= 24) {
            values.push_back(e24[static_cast<std::size_t>(i * 24 / n)]);
        } else {  // three digits, geometric; 9.20 is the one exception of E192
            const double v = std::round(std::pow(10.0, double(i) / n) * 100) / 100;
            values.push_back(std::abs(v - 9.19) < 1e-9 ? 9.20 : v);
        }
    }
    return values;
}

constexpr std::array<const char*, 10> digit_colours{"black", "brown", "red",    "orange", "yellow",
                                                    "green", "blue",  "violet", "grey",   "white"};

std::string multiplier_colour(int exponent) {
    if (exponent == -1) return "gold";
    if (exponent == -2) return "silver";
    return digit_colours.at(static_cast<std::size_t>(exponent));
}

std::string tolerance_colour(double tolerance) {
    static const std::map<int, const char*> colours{{100, "silver"}, {50, "gold"}, {20, "red"},
                                                    {10, "brown"},   {5, "green"}, {3, "yellow"},
                                                    {2, "blue"},     {1, "violet"}};
    const auto found = colours.lower_bound(static_cast<int>(std::lround(tolerance * 1000)));
    return found == colours.end() ? "silver" : found->second;
}

}  // namespace

Result<Series> parse_series(const std::string& text) {
    for (const Series s :
         {Series::e3, Series::e6, Series::e12, Series::e24, Series::e48, Series::e96, Series::e192})
        if (text == series_name(s)) return s;
    return Error{Fault::usage, "series", "found \"" + text + "\"", "E3, E6, E12, E24, E48, E96 or E192"};
}

std::string series_name(Series series) { return "E" + std::to_string(static_cast<int>(series)); }

const std::vector<double>& decade(Series series) {
    static const std::map<Series, std::vector<double>> decades = [] {
        std::map<Series, std::vector<double>> all;
        for (const Series s :
             {Series::e3, Series::e6, Series::e12, Series::e24, Series::e48, Series::e96, Series::e192})
            all[s] = make_decade(static_cast<int>(s));
        return all;
    }();
    return decades.at(series);
}

std::vector<double> preferred_around(double value, Series series) {
    std::vector<double> out;
    if (!(value > 0) || !std::isfinite(value)) return out;
    const int power = static_cast<int>(std::floor(std::log10(value)));
    for (const int exponent : {power - 3, power - 2, power - 1}) {  // of three whole digits
        const double scale = std::pow(10.0, std::abs(exponent));  // exact, so that 470 is 470 and 4.7e-6 too
        for (const double v : decade(series)) {
            const double digits = std::round(v * 100);
            out.push_back(exponent < 0 ? digits / scale : digits * scale);
        }
    }
    return out;
}

double nearest_preferred(double value, Series series) {
    double best = 0, best_ratio = std::numeric_limits<double>::infinity();
    for (const double v : preferred_around(value, series)) {
        const double ratio = std::abs(std::log(v / value));
        if (ratio < best_ratio) best = v, best_ratio = ratio;
    }
    return best;
}

double preferred_at_least(double value, Series series) {
    for (const double v : preferred_around(value, series))
        if (v >= value * (1 - 1e-9)) return v;
    return value;
}

double preferred_at_most(double value, Series series) {
    double best = value;
    for (const double v : preferred_around(value, series))
        if (v <= value * (1 + 1e-9)) best = v;
    return best;
}

Result<ColourBands> colour_bands(double ohms, double tolerance) {
    if (!(ohms >= 0.0999 && ohms < 99.95e9))
        return Error{Fault::usage, "", fmt::format("no colour bands for {} Ω", ohms), "0.1 Ω to 99 GΩ"};
    int exponent = static_cast<int>(std::floor(std::log10(ohms) + 1e-9));
    long three = std::lround(ohms / std::pow(10.0, exponent - 2));
    if (three >= 1000) three /= 10, ++exponent;
    ColourBands bands;
    if (three % 10 == 0) {
        bands.names = {digit_colours[static_cast<std::size_t>(three / 100)],
                       digit_colours[static_cast<std::size_t>(three / 10 % 10)],
                       multiplier_colour(exponent - 1)};
    } else {
        if (exponent - 2 < -2)
            return Error{Fault::usage, "", fmt::format("no colour bands for {} Ω", ohms),
                         "two digits below 1 Ω"};
        bands.names = {digit_colours[static_cast<std::size_t>(three / 100)],
                       digit_colours[static_cast<std::size_t>(three / 10 % 10)],
                       digit_colours[static_cast<std::size_t>(three % 10)], multiplier_colour(exponent - 2)};
    }
    bands.names.push_back(tolerance_colour(tolerance));
    return bands;
}

unsigned band_rgb(const std::string& name) {
    static const std::map<std::string, unsigned> rgb{
        {"black", 0x1d1d1f},  {"brown", 0x7a4a21}, {"red", 0xc0392b},  {"orange", 0xe67e22},
        {"yellow", 0xf1c40f}, {"green", 0x2e8b57}, {"blue", 0x2a5db0}, {"violet", 0x7d4ba0},
        {"grey", 0x8a8d91},   {"white", 0xf7f7f5}, {"gold", 0xc9a13b}, {"silver", 0xb8bcc2}};
    const auto found = rgb.find(name);
    return found == rgb.end() ? 0x8a8d91U : found->second;
}

std::string capacitor_code(double farad) {
    const double pico = farad * 1e12;
    int zeros = std::max(0, static_cast<int>(std::floor(std::log10(pico) + 1e-9)) - 1);
    long two = std::lround(pico / std::pow(10.0, zeros));
    if (two >= 100) two /= 10, ++zeros;
    return fmt::format("{}{}", two, zeros);
}

std::string resistor_code(double ohm) {
    if (!(ohm > 0)) return "";
    if (ohm < 10) {
        std::string text = fmt::format("{:.1f}", ohm);
        text.replace(text.find('.'), 1, "R");
        return text;
    }
    int zeros = static_cast<int>(std::floor(std::log10(ohm) + 1e-9)) - 1;
    const double two = ohm / std::pow(10.0, zeros);
    if (std::abs(two - std::round(two)) < 1e-6 * two) return fmt::format("{:.0f}{}", two, zeros);
    if (zeros == 0) {
        std::string text = fmt::format("{:.1f}", ohm);
        text.replace(text.find('.'), 1, "R");
        return text;
    }
    return fmt::format("{:.0f}{}", 10 * two, zeros - 1);
}

double resistor_rating_at_least(double watt) {
    for (const double rating : {0.125, 0.25, 0.5, 1.0, 2.0, 3.0, 5.0})
        if (rating >= watt * (1 - 1e-9)) return rating;
    return std::numeric_limits<double>::infinity();
}

std::string rating_text(double watt) {
    if (std::abs(watt - 0.125) < 1e-6) return "⅛ W";
    if (std::abs(watt - 0.25) < 1e-6) return "¼ W";
    if (std::abs(watt - 0.5) < 1e-6) return "½ W";
    return fmt::format("{} W", watt);
}

}  // namespace elkit
