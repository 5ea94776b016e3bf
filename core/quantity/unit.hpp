#pragma once
#include <string_view>

namespace elkit {

enum class Unit {
    none,
    ohm,
    farad,
    henry,
    volt,
    ampere,
    watt,
    celsius,
    second,
    hour,
    year,
    percent,
    hertz,
    candela,
    metre,
    square_metre,
    gram,
    ampere_hour,
    coulomb,
    joule,
    money,
    count,
    lux,
    lumen,
    luminance
};

/// Symbol printed behind a number, e.g. "Ω"; empty for none, money and count.
std::string_view symbol(Unit unit);
/// Plain word for messages, e.g. "a resistance such as 4k7".
std::string_view example(Unit unit);
/// True if the unit is shown with engineering prefixes (mA, kΩ); false for °C, %, h, years, money.
bool takes_prefix(Unit unit);

}  // namespace elkit
