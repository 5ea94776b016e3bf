#include "light/strings.hpp"

#include <algorithm>

#include "circuit/part_kind.hpp"

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

std::vector<LightDie> dies(const Part& part, const Catalogue& catalogue) {
    std::vector<LightDie> all;
    const PartKind* kind = part_kind(part.kind);
    if (!kind || !kind->is(Role::light)) return all;
    if (kind->dies.empty()) all.push_back({catalogue.led(part.text("type")), ""});
    for (const auto& [pin, param] : kind->dies)
        if (!part.net(pin).empty()) all.push_back({catalogue.led(part.text(param)), pin});
    std::erase_if(all, [](const LightDie& die) { return !die.type; });
    return all;
}

double die_current(const Part& part, const LightDie& die, const OperatingPoint& op) {
    const PartState& state = op.part(part.designator);
    if (die.pin.empty()) return std::max(0.0, state.current);
    for (std::size_t k = 0; k < part.pins.size() && k < state.pins.size(); ++k)
        if (part.pins[k].name == die.pin) return std::abs(state.pins[k]);
    return 0;
}

double total_intensity(const Circuit& circuit, const Catalogue& catalogue, const OperatingPoint& op) {
    double sum = 0;
    for (const Part& part : circuit.parts)
        for (const LightDie& die : dies(part, catalogue))
            sum += std::max(die.type->intensity, 1e-3) * die_current(part, die, op) / die.type->test_current;
    return sum;
}

}  // namespace elkit
