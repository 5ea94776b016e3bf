#include "power/standby.hpp"

#include <algorithm>

namespace elkit {
namespace {

constexpr double daylight = 10'000;  // lx, an overcast noon

bool has(const Circuit& circuit, std::initializer_list<const char*> kinds) {
    return std::any_of(circuit.parts.begin(), circuit.parts.end(), [&](const Part& p) {
        return std::any_of(kinds.begin(), kinds.end(), [&](const char* k) { return p.kind == k; });
    });
}
bool has_switch(const Circuit& c) { return has(c, {"switch", "double_switch"}); }
bool has_button(const Circuit& c) { return has(c, {"button"}); }
bool has_sensor(const Circuit& c) { return has(c, {"ldr", "phototransistor"}); }

}  // namespace

bool can_be_off(const Circuit& circuit) {
    return has_switch(circuit) || has_button(circuit) || has_sensor(circuit);
}

Conditions switched_off(const Circuit& circuit, Conditions c) {
    c.battery = 1;
    for (const Part& part : circuit.parts)
        if (part.kind == "switch" || part.kind == "double_switch" || part.kind == "button")
            c.switches[part.designator] = false;
    if (!has_switch(circuit) && has_sensor(circuit)) c.lux = daylight;
    return c;
}

std::string off_text(const Circuit& circuit) {
    if (has_switch(circuit)) return "every switch open";
    if (has_sensor(circuit)) return "in daylight (10 000 lx)";
    return has_button(circuit) ? "no button pressed" : "as it stands";
}

std::vector<std::pair<std::string, double>> takers(const Circuit& circuit, const OperatingPoint& op) {
    std::vector<std::pair<std::string, double>> list;
    const Part* source = circuit.source();
    if (!source) return list;
    for (const Part& part : circuit.parts) {
        if (&part == source) continue;
        const PartState& state = op.part(part.designator);
        double taken = 0;
        for (std::size_t k = 0; k < part.pins.size() && k < state.pins.size(); ++k)
            if (part.pins[k].net == source->net("+")) taken += state.pins[k];
        if (taken > 1e-9) list.emplace_back(part.designator, taken);
    }
    std::stable_sort(list.begin(), list.end(),
                     [](const auto& a, const auto& b) { return a.second > b.second; });
    return list;
}

}  // namespace elkit
