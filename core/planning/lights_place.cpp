#include "planning/lights_place.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "circuit/part_kind.hpp"
#include "light/strings.hpp"

namespace elkit {
namespace {

using Names = std::set<std::string>;

/// Designators of the strings whose LEDs are all like the first one, and of their resistors.
Names alike_lights(const std::vector<LedString>& strings) {
    const std::string type = strings.front().leds.front()->text("type");
    Names names;
    for (const LedString& s : strings) {
        if (std::any_of(s.leds.begin(), s.leds.end(),
                        [&](const Part* led) { return led->text("type") != type; }))
            continue;
        for (const Part* led : s.leds) names.insert(led->designator);
        for (const Part* resistor : {s.resistor, s.shared})
            if (resistor) names.insert(resistor->designator);
    }
    return names;
}

/// Whether a net is reached from another one through resistors of these parts.
bool reached(const Circuit& circuit, const Names& parts, const std::string& from, const std::string& to) {
    Names seen{from};
    for (bool grown = true; grown && !seen.contains(to);) {
        grown = false;
        for (const Part& part : circuit.parts) {
            if (!parts.contains(part.designator) || !is(part, Role::resistor)) continue;
            for (const Pin& pin : part.pins)
                if (seen.contains(pin.net))
                    for (const Pin& other : part.pins) grown |= seen.insert(other.net).second;
        }
    }
    return seen.contains(to);
}

}  // namespace

Result<LightsPlace> without_lights(const Circuit& circuit) {
    const Part* source = circuit.source();
    if (!source)
        return Error{Fault::design, "circuit", "it has no source",
                     "cells or a supply, such as battery 3 x LR6"};
    const auto strings = led_strings(circuit);
    if (strings.empty()) return LightsPlace{circuit, source->net("+"), source->net("-")};
    const Names taken = alike_lights(strings);
    LightsPlace place;
    place.circuit.extra = circuit.extra;
    Names inside, outside;
    for (const Part& part : circuit.parts) {
        const bool out = taken.contains(part.designator);
        for (const Pin& pin : part.pins) (out ? inside : outside).insert(pin.net);
        if (!out) place.circuit.parts.push_back(part);
    }
    Names ends;
    std::set_intersection(inside.begin(), inside.end(), outside.begin(), outside.end(),
                          std::inserter(ends, ends.end()));
    const LedString& first = strings.front();
    if (ends.size() != 2)
        return Error{Fault::design, first.leds.front()->designator,
                     fmt::format("its kind hangs between {}", fmt::join(ends, ", ")),
                     "lights between one pair of nets, to be put there anew"};
    place.plus = *ends.begin(), place.minus = *ends.rbegin();
    const bool by_rails = ends.contains(source->net("+")) || ends.contains(source->net("-"));
    const bool turned = by_rails ? place.plus == source->net("-") || place.minus == source->net("+")
                                 : reached(circuit, taken, first.leds.front()->net("a"), place.minus) ||
                                       reached(circuit, taken, first.leds.back()->net("k"), place.plus);
    if (turned) std::swap(place.plus, place.minus);
    return place;
}

Circuit with_lights(LightsPlace place, const Circuit& lights, const Circuit& taken) {
    const Part* source = lights.source();
    std::map<std::string, std::string> nets{{source->net("+"), place.plus}, {source->net("-"), place.minus}};
    Names used;
    for (const Circuit* c : std::initializer_list<const Circuit*>{&taken, &place.circuit})
        for (const std::string& net : c->nets()) used.insert(net);
    Circuit names = taken;  // that new designators must differ from
    for (const Part& part : lights.parts) {
        if (&part == source) continue;
        Part placed = part;
        placed.designator = names.free_designator(part_kind(part.kind)->prefix);
        for (Pin& pin : placed.pins) {
            auto& net = nets[pin.net];
            if (net.empty()) {
                net = pin.net;
                for (int k = 1; !used.insert(net).second; ++k) net = fmt::format("{}_{}", pin.net, k);
            }
            pin.net = net;
        }
        names.parts.push_back(placed);
        place.circuit.parts.push_back(std::move(placed));
    }
    return std::move(place.circuit);
}

}  // namespace elkit
