#include "circuit/part_kind.hpp"
#include "light/strings.hpp"

#include <algorithm>

namespace elkit {

std::vector<LedString> led_strings(const Circuit& circuit) {
    std::vector<LedString> strings;
    const auto all = chains(circuit);
    for (const Chain& chain : all) {
        if (chain.count(Role::diode_light) == 0) continue;
        LedString s{{}, nullptr, nullptr, chain.from, chain.to};
        for (const Part* part : chain.parts) {
            if (is(*part, Role::diode_light)) s.leds.push_back(part);
            if (is(*part, Role::resistor) && !s.resistor) s.resistor = part;
        }
        strings.push_back(std::move(s));
    }
    for (LedString& s : strings) {
        if (s.resistor) continue;
        const bool parallel =
            std::count_if(strings.begin(), strings.end(), [&](const LedString& o) {
                return (o.from == s.from && o.to == s.to) || (o.from == s.to && o.to == s.from);
            }) > 1;
        if (!parallel) continue;
        for (const Chain& chain : all)
            if (chain.count(Role::diode_light) == 0 && chain.count(Role::resistor) > 0 &&
                (chain.to == s.from || chain.from == s.from || chain.to == s.to || chain.from == s.to))
                s.shared = *std::find_if(chain.parts.begin(), chain.parts.end(),
                                         [](const Part* p) { return is(*p, Role::resistor); });
    }
    return strings;
}

double total_intensity(const Circuit& circuit, const Catalogue& catalogue, const OperatingPoint& op) {
    double sum = 0;
    for (const Part& part : circuit.parts) {
        if (!is(part, Role::light)) continue;
        const LedType* type = catalogue.led(part.text("type"));
        if (type)
            sum += std::max(type->intensity, 1e-3) * std::max(0.0, op.part(part.designator).current) /
                   type->test_current;
    }
    return sum;
}

}  // namespace elkit
