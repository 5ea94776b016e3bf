#include "light/flicker.hpp"

#include <fmt/format.h>

#include "quantity/format.hpp"

namespace elkit {

Flicker judge_flicker(double hertz, double modulation) {
    if (!(hertz > 0) || !(modulation > 0)) return Flicker::steady;
    if (modulation <= modulation_without_effect(hertz)) return Flicker::no_effect;
    if (modulation <= modulation_of_low_risk(hertz)) return Flicker::low_risk;
    return hertz < pulses_seen_below ? Flicker::seen : Flicker::noticed;
}

std::string flicker_text(double hertz, double modulation) {
    const Flicker verdict = judge_flicker(hertz, modulation);
    if (verdict == Flicker::steady) return "steady";
    const std::string at = format_quantity(hertz, Unit::hertz);
    switch (verdict) {
        case Flicker::seen:
            return hertz < 3 ? at + ": seen as flashes" : at + ": seen to flicker";
        case Flicker::noticed:
            return fmt::format("{}: not seen at rest, but when it or the eye moves, and by cameras", at);
        case Flicker::low_risk:
            return at + ": low risk (IEEE 1789)";
        default:
            return at + ": no observable effect (IEEE 1789)";
    }
}

}  // namespace elkit
