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

/// Strings with the parts that they and no others need.
struct Hang {
    std::vector<const LedString*> strings;
    Names parts;
    Names ends;  ///< nets that they share with other parts
    bool alike = true;
};

/// Strings that share a resistor are one.
std::vector<Hang> hangs(const Circuit& circuit, const std::vector<LedString>& strings) {
    std::vector<Hang> all;
    for (const LedString& s : strings) {
        Hang hang{{&s}, {}, {}, true};
        for (const Part* led : s.leds) hang.parts.insert(led->designator);
        for (const Part* resistor : {s.resistor, s.shared})
            if (resistor) hang.parts.insert(resistor->designator);
        const auto known = std::find_if(all.begin(), all.end(), [&](const Hang& h) {
            return s.shared && h.parts.contains(s.shared->designator);
        });
        if (known == all.end()) {
            all.push_back(std::move(hang));
            continue;
        }
        known->strings.push_back(&s);
        known->parts.merge(hang.parts);
    }
    for (Hang& hang : all) {
        Names inside, outside;
        for (const Part& part : circuit.parts)
            for (const Pin& pin : part.pins)
                (hang.parts.contains(part.designator) ? inside : outside).insert(pin.net);
        std::set_intersection(inside.begin(), inside.end(), outside.begin(), outside.end(),
                              std::inserter(hang.ends, hang.ends.end()));
        const std::string type = hang.strings.front()->leds.front()->text("type");
        for (const LedString* s : hang.strings)
            hang.alike = hang.alike && std::all_of(s->leds.begin(), s->leds.end(), [&](const Part* led) {
                             return led->text("type") == type;
                         });
    }
    return all;
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

/// Hangs that are alike, side by side.
struct Group : HungLights {
    Names parts;
    bool has(const std::string& light) const { return parts.contains(light); }
};

Group as_group(const Circuit& circuit, const Hang& hang) {
    Group g;
    const LedString& first = *hang.strings.front();
    const Part* source = circuit.source();
    g.type = first.leds.front()->text("type"), g.parts = hang.parts;
    for (const LedString* s : hang.strings) {
        g.strings.push_back(s->leds.front()->designator);
        g.leds += s->leds.size(), g.longest = std::max(g.longest, s->leds.size());
    }
    g.plus = *hang.ends.begin(), g.minus = *hang.ends.rbegin();
    const bool by_rails =
        source && (hang.ends.contains(source->net("+")) || hang.ends.contains(source->net("-")));
    const bool turned = by_rails ? g.plus == source->net("-") || g.minus == source->net("+")
                                 : reached(circuit, hang.parts, first.leds.front()->net("a"), g.minus) ||
                                       reached(circuit, hang.parts, first.leds.back()->net("k"), g.plus);
    if (turned) std::swap(g.plus, g.minus);
    return g;
}

std::vector<Group> groups(const Circuit& circuit, const std::vector<LedString>& strings) {
    std::vector<Group> all;
    for (const Hang& hang : hangs(circuit, strings)) {
        if (!hang.alike || hang.ends.size() != 2) continue;
        Group g = as_group(circuit, hang);
        const auto known = std::find_if(all.begin(), all.end(), [&](const Group& other) {
            return other.type == g.type && other.plus == g.plus && other.minus == g.minus;
        });
        if (known == all.end()) {
            all.push_back(std::move(g));
            continue;
        }
        known->strings.insert(known->strings.end(), g.strings.begin(), g.strings.end());
        known->parts.merge(g.parts);
        known->leds += g.leds, known->longest = std::max(known->longest, g.longest);
    }
    return all;
}

/// Why a light is in no group.
Error in_none(const Circuit& circuit, const std::vector<LedString>& strings, const std::string& light) {
    for (const Hang& hang : hangs(circuit, strings)) {
        if (!hang.parts.contains(light)) continue;
        if (!hang.alike)
            return {Fault::design, light, "it shares its string or its resistor with lights of another type",
                    "lights of one type"};
        return {Fault::design, light, fmt::format("it hangs between {}", fmt::join(hang.ends, ", ")),
                "lights between one pair of nets, to be put there anew"};
    }
    return {Fault::usage, light, "it is no LED of this circuit", "the designator of one"};
}

}  // namespace

std::string HungLights::name() const {
    return strings.front() + (leds > 1 ? fmt::format(" and {} more", leds - 1) : "");
}

std::vector<HungLights> hung_lights(const Circuit& circuit) {
    const auto strings = led_strings(circuit);
    const auto all = groups(circuit, strings);
    return {all.begin(), all.end()};
}

Result<LightsPlace> without_lights(const Circuit& circuit, const std::string& light) {
    const Part* source = circuit.source();
    if (!source)
        return Error{Fault::design, "circuit", "it has no source",
                     "cells or a supply, such as battery 3 x LR6"};
    LightsPlace place;
    const auto strings = led_strings(circuit);
    if (strings.empty() && light.empty()) {
        place.circuit = circuit, place.plus = source->net("+"), place.minus = source->net("-");
        return place;
    }
    const auto all = groups(circuit, strings);
    const auto found =
        std::find_if(all.begin(), all.end(), [&](const Group& g) { return light.empty() || g.has(light); });
    if (found == all.end())
        return in_none(circuit, strings, light.empty() ? strings.front().leds.front()->designator : light);
    static_cast<HungLights&>(place) = *found;
    place.circuit.extra = circuit.extra;
    for (const Part& part : circuit.parts)
        if (!found->has(part.designator)) place.circuit.parts.push_back(part);
    return place;
}

std::string light_at(const Circuit& now, const Circuit& before, const std::string& light) {
    const auto was = without_lights(before, light);
    if (!was || was.value().strings.empty()) return {};
    for (const HungLights& lights : hung_lights(now))
        if (lights.plus == was.value().plus && lights.minus == was.value().minus)
            return lights.strings.front();
    return {};
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
