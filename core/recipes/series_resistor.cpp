#include "recipes/series_resistor.hpp"

#include <fmt/format.h>

#include <cmath>

namespace elkit {
namespace {

double among_owned(const std::vector<double>& owned, double exact, Rounding rounding) {
    double best = 0;
    for (const double r : owned) {
        if (rounding == Rounding::under && r < exact * (1 - 1e-9)) continue;
        const bool better = best == 0 || std::abs(std::log(r / exact)) < std::abs(std::log(best / exact));
        if (better) best = r;
    }
    return best;
}

std::string school(Rounding rounding) {
    return rounding == Rounding::under ? "never above target" : "nearest";
}

}  // namespace

Result<ResistorAnswer> choose_resistor(const ResistorQuestion& q, double tolerance) {
    if (!(q.current > 0))
        return Error{Fault::usage, "current", format_quantity(q.current, Unit::ampere),
                     "a current above zero"};
    ResistorAnswer a;
    a.headroom = q.supply - q.leds_voltage - q.drops;
    const std::string volts = [&] {
        std::string t =
            format_quantity(q.supply, Unit::volt) + " − " + format_quantity(q.leds_voltage, Unit::volt);
        return q.drops > 0 ? t + " − " + format_quantity(q.drops, Unit::volt) : t;
    }();
    if (a.headroom <= 0)
        return Error{Fault::design, "series resistor",
                     fmt::format("{} feeds, {} needed before it", format_quantity(q.supply, Unit::volt),
                                 format_quantity(q.leds_voltage + q.drops, Unit::volt)),
                     "a higher supply or fewer LEDs in series"};
    a.exact = a.headroom / q.current;
    std::string from = series_name(q.series);
    a.value = q.rounding == Rounding::under ? preferred_at_least(a.exact, q.series)
                                            : nearest_preferred(a.exact, q.series);
    if (!q.owned.empty()) {
        from = "the drawer";
        a.value = among_owned(q.owned, a.exact, q.rounding);
        if (a.value == 0)
            return Error{
                Fault::design, "series resistor",
                fmt::format("the drawer has none of {} or more", format_quantity(a.exact, Unit::ohm)),
                "another value or the other rounding"};
    }
    a.current = a.headroom / a.value;
    a.power = a.headroom * a.current;
    a.rating = std::max(0.25, resistor_rating_at_least(2 * a.power));
    if (auto bands = colour_bands(a.value, tolerance)) a.bands = bands.value();
    a.working = {std::string("R = (V supply − V LEDs") + (q.drops > 0 ? " − V drops" : "") + ") / I",
                 fmt::format("  = ({}) / {}", volts, format_quantity(q.current, Unit::ampere)),
                 fmt::format("  = {} / {} = {}   →   {}, {}: {}", format_quantity(a.headroom, Unit::volt),
                             format_quantity(q.current, Unit::ampere), format_quantity(a.exact, Unit::ohm),
                             from, school(q.rounding), format_quantity(a.value, Unit::ohm)),
                 fmt::format("P = {} × {} = {}; {}", format_quantity(a.headroom, Unit::volt),
                             format_quantity(a.current, Unit::ampere), format_quantity(a.power, Unit::watt),
                             std::isfinite(a.rating)
                                 ? "twice that asks for " + rating_text(a.rating)
                                 : "no resistor of the list stands twice that: share it among several, or "
                                   "take more LEDs in series")};
    return a;
}

}  // namespace elkit
