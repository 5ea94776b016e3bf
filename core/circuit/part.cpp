#include "circuit/part.hpp"

#include <algorithm>
#include <cmath>
#include <unordered_set>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"

namespace elkit {
namespace {

const ParamValue* lookup(const Part& part, std::string_view key) {
    const auto own = part.params.find(std::string(key));
    if (own != part.params.end()) return &own->second;
    const PartKind* kind = part_kind(part.kind);
    const ParamInfo* info = kind ? kind->param(key) : nullptr;
    return info ? &info->standard : nullptr;
}

/// A parameter that neither the part nor its kind sets: the catalogue's entry for its type.
double of_type(const Part& part, std::string_view key) {
    return known_catalogue().type_value(part.kind, part.text("type"), key);
}

}  // namespace

double Part::number(std::string_view key) const {
    const ParamValue* value = lookup(*this, key);
    const double* number = value ? std::get_if<double>(value) : nullptr;
    if (!number) return 0;
    return std::isnan(*number) ? of_type(*this, key) : *number;
}

std::string Part::text(std::string_view key) const {
    const ParamValue* value = lookup(*this, key);
    const std::string* text = value ? std::get_if<std::string>(value) : nullptr;
    return text ? *text : std::string();
}

const PointList* Part::points(std::string_view key) const {
    const auto own = params.find(std::string(key));
    return own == params.end() ? nullptr : std::get_if<PointList>(&own->second);
}

const std::string& Part::net(std::string_view pin) const {
    static const std::string none;
    for (const Pin& p : pins)
        if (p.name == pin) return p.net;
    return none;
}

const Part* Circuit::find(std::string_view designator) const {
    for (const Part& part : parts)
        if (part.designator == designator) return &part;
    return nullptr;
}

Part* Circuit::find(std::string_view designator) {
    return const_cast<Part*>(static_cast<const Circuit*>(this)->find(designator));
}

std::vector<std::string> Circuit::nets() const {
    std::vector<std::string> names;
    std::unordered_set<std::string_view> seen;
    for (const Part& part : parts)
        for (const Pin& pin : part.pins)
            if (seen.insert(pin.net).second) names.push_back(pin.net);
    return names;
}

const Part* Circuit::source() const {
    for (const Part& part : parts)
        if (is(part, Role::source)) return &part;
    return nullptr;
}

std::string Circuit::negative_rail() const {
    const Part* s = source();
    return s ? s->net("-") : std::string();
}

std::string Circuit::free_designator(std::string_view prefix) const {
    std::unordered_set<std::string_view> taken;
    for (const Part& part : parts)
        if (part.designator.starts_with(prefix)) taken.insert(part.designator);
    for (int n = 1;; ++n)
        if (std::string name = std::string(prefix) + std::to_string(n); !taken.contains(name)) return name;
}

}  // namespace elkit
