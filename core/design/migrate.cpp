#include "design/migrate.hpp"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <string>

namespace elkit {
namespace {
using Json = nlohmann::ordered_json;

double number_or(const Json& j, const char* key, double standard) {
    return j.contains(key) && j[key].is_number() ? j[key].get<double>() : standard;
}
bool truth_or(const Json& j, const char* key, bool standard) {
    return j.contains(key) && j[key].is_boolean() ? j[key].get<bool>() : standard;
}

bool says(const Json& j, const char* key, std::string_view word) {
    return j.contains(key) && j[key].is_string() && j[key].get_ref<const std::string&>() == word;
}

/// The part of a circuit with this designator and kind; null if there is none.
const Json* part_of(const Json& document, const std::string& designator, const char* kind) {
    if (!document.contains("circuit") || !document["circuit"].is_object()) return nullptr;
    const Json& circuit = document["circuit"];
    if (!circuit.contains("parts") || !circuit["parts"].is_array()) return nullptr;
    for (const Json& part : circuit["parts"])
        if (part.is_object() && says(part, "designator", designator) && says(part, "kind", kind))
            return &part;
    return nullptr;
}

/// Version 1 knew one recipe, the steady light, whose parts and nets had fixed names; what it owned was not
/// written down. Version 2 has a list of blocks.
void blocks_from_recipe(Json& document) {
    if (!document.contains("recipe") || !document["recipe"].is_object()) return;
    Json old = document["recipe"];
    if (old.contains("name") && !says(old, "name", "steady-light")) return;
    const double count = number_or(old, "count", 4), per = std::max(1.0, number_or(old, "per_string", 2));
    const bool shared = truth_or(old, "one_resistor", false), resistor = truth_or(old, "resistor", true);
    Json goals = Json::object(), parts = Json::object(), nets = Json::object();
    for (const char* key : {"count", "per_string", "current", "rounding", "series"})
        if (old.contains(key)) goals[key] = old[key];
    goals["limiter"] = !resistor ? "none" : shared ? "shared" : "string";
    goals["switch"] = truth_or(old, "switch", true) ? "yes" : "no";
    const auto own = [&](const std::string& name, const char* kind) {
        const Json* part = part_of(document, name, kind);
        if (!part) return;
        parts[name] = name;
        if (part->contains("pins") && (*part)["pins"].is_object())
            for (const auto& [pin, net] : (*part)["pins"].items())
                if (net.is_string()) nets[net.get<std::string>()] = net;
    };
    own("B1", "battery");
    own("S1", "switch");
    const int most = static_cast<int>(std::clamp(count, 1.0, 1000.0));
    const int strings = static_cast<int>((most + per - 1) / per);
    for (int k = 1; resistor && k <= (shared ? 1 : strings); ++k) own("R" + std::to_string(k), "resistor");
    for (int k = 1; k <= most; ++k) own("L" + std::to_string(k), "led");
    Json block = {{"recipe", "steady-light"}, {"goals", goals}, {"parts", parts}, {"nets", nets}};
    for (const auto& [key, value] : old.items()) {
        static const std::string known[] = {"name",   "cell",         "cells",    "led",
                                            "count",  "per_string",   "current",  "rounding",
                                            "series", "one_resistor", "resistor", "switch"};
        if (std::find(std::begin(known), std::end(known), key) == std::end(known)) block[key] = value;
    }
    document["blocks"] = Json::array({block});
    document.erase("recipe");
}

}  // namespace

void migrate(Json& document) {
    if (!document.is_object() || !document.contains("elkit") || !document["elkit"].is_number()) return;
    if (document["elkit"].get<double>() < 2) {
        blocks_from_recipe(document);
        document["elkit"] = 2;
    }
}

}  // namespace elkit
