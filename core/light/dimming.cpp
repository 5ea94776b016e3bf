#include "light/dimming.hpp"

#include <fmt/format.h>

#include <cmath>
#include <map>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/models.hpp"
#include "light/strings.hpp"
#include "quantity/preferred.hpp"
#include "situations/propose.hpp"

namespace elkit {
Digest ScaledLightQuery::key() const {
    Digester d;
    d << Situated::key() << share;
    return d.digest();
}

Result<Circuit> ScaledLightQuery::compute(const Ask& ask) const {
    if (!(share >= 1e-3 && share <= 1e3))
        return Error{Fault::usage, "share of the light", fmt::format("{:.3g}", share), "0.001 to 1,000"};
    const auto run = ask(RunQuery(circuit, conditions));
    if (!run) return run.error();
    std::map<std::string, double> wanted;  // resistor → Ω; of a shared one by its first string
    for (const LedString& s : led_strings(*circuit)) {
        const Part* resistor = s.resistor ? s.resistor : s.shared;
        if (!resistor || wanted.count(resistor->designator)) continue;
        const OperatingPoint op = run->while_on(*circuit, s.leds.front()->designator);
        const double now = op.part(s.leds.front()->designator).current,
                     through = std::abs(op.part(resistor->designator).current);
        if (!(now > gives_light) || !(through > gives_light)) continue;
        double eased = 0;  // V that the LEDs take less
        for (const Part* led : s.leds) {
            auto law = junction_model(*led, known_catalogue(), conditions.celsius, 0);
            if (!law) return law.error();
            eased += law.value().voltage_at(now) - law.value().voltage_at(share * now);
        }
        const double ohms = (through * resistor->number("value") + eased) / (share * through);
        if (!(ohms > 0))
            return Error{Fault::design, "part " + resistor->designator,
                         "the supply has too few volts for so much light", "a smaller share, or more cells"};
        wanted[resistor->designator] =
            share < 1 ? preferred_at_least(0.999 * ohms, Series::e24) : nearest_preferred(ohms, Series::e24);
    }
    if (wanted.empty())
        return Error{Fault::design, "circuit", "no lit string has a resistor",
                     "a resistor in each string, or shared by them"};
    Circuit next = *circuit;
    for (const auto& [designator, ohms] : wanted) {
        Part& resistor = *next.find(designator);
        const double amps = share * run->rms(designator, "a");
        const double rating = resistor_rating_at_least(2 * amps * amps * ohms);
        resistor.params["value"] = ohms;
        if (std::isfinite(rating) && rating > resistor.number("rating")) resistor.params["rating"] = rating;
    }
    return next;
}

}  // namespace elkit
