#include "quantity/unit.hpp"

#include <array>

namespace elkit {
namespace {
struct Row {
    std::string_view symbol, example;
    bool prefix;
};
constexpr std::array<Row, 25> unit_rows{{
    {"", "a number such as 12", false},
    {"Ω", "a resistance such as 4k7 or 470", true},
    {"F", "a capacitance such as 100n", true},
    {"H", "an inductance such as 100u", true},
    {"V", "a voltage such as 4.5 or 3V3", true},
    {"A", "a current such as 15mA", true},
    {"W", "a power such as 1/4 W", true},
    {"°C", "a temperature such as 21 or 68°F", false},
    {"s", "a time such as 20ms", true},
    {"h", "a number of hours such as 60", false},
    {"years", "a number of years such as 2", false},
    {"%", "a percentage such as 50", false},
    {"Hz", "a frequency such as 1.5k", true},
    {"cd", "an intensity such as 800m", true},
    {"m", "a length such as 120mm", true},
    {"mm²", "a cross-section such as 0.14", false},
    {"g", "a mass such as 23", false},
    {"Ah", "a charge such as 2500m", true},
    {"C", "a charge such as 20u", true},
    {"J", "an energy such as 5m", true},
    {"", "an amount such as 2.50", false},
    {"", "a whole number such as 40", false},
    {"lx", "an illuminance such as 200", true},
    {"lm", "a luminous flux such as 80", true},
    {"cd/m²", "a luminance such as 10k", true},
}};
}  // namespace

std::string_view symbol(Unit unit) { return unit_rows.at(static_cast<std::size_t>(unit)).symbol; }
std::string_view example(Unit unit) { return unit_rows.at(static_cast<std::size_t>(unit)).example; }
bool takes_prefix(Unit unit) { return unit_rows.at(static_cast<std::size_t>(unit)).prefix; }

}  // namespace elkit
