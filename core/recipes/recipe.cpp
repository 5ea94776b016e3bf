#include "recipes/recipe.hpp"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "circuit/kind_reader.hpp"
#include "embedded.hpp"
#include "recipes/low_battery.hpp"
#include "recipes/steady_light.hpp"

namespace elkit {
namespace {
using nlohmann::json;
using Texts = std::vector<std::string>;

ParamValue value_of(const json& j) {
    return j.is_string() ? ParamValue(j.get<std::string>()) : ParamValue(j.get<double>());
}

GoalInfo read_goal(const json& j) {
    GoalInfo g;
    g.info = read_param(j);
    g.words = j.value("words", Texts{}), g.labels = j.value("labels", Texts{});
    if (j.contains("mirrors"))
        g.mirror_parts = j.at("mirrors").at("parts"), g.mirror_param = j.at("mirrors").at("param");
    g.station = j.value("station", ""), g.wide = j.value("wide", false);
    return g;
}

GoalRemedy read_remedy(const json& j) {
    GoalRemedy r;
    r.rules = j.at("for").get<Texts>(), r.label = j.at("label");
    const auto each = [&](const char* group, auto take) {
        const auto found = j.find(group);
        if (found == j.end()) return;
        for (auto item = found->begin(); item != found->end(); ++item) take(item.key(), item.value());
    };
    each("set", [&](const std::string& key, const json& value) { r.set[key] = value_of(value); });
    each("add", [&](const std::string& key, const json& value) { r.add[key] = value.get<double>(); });
    each("at_most", [&](const std::string& key, const json& value) { r.at_most[key] = value.get<double>(); });
    return r;
}

}  // namespace

double Goals::number(const std::string& key) const {
    const auto found = values.find(key);
    const double* number = found == values.end() ? nullptr : std::get_if<double>(&found->second);
    return number ? *number : 0;
}

std::string Goals::text(const std::string& key) const {
    const auto found = values.find(key);
    const std::string* text = found == values.end() ? nullptr : std::get_if<std::string>(&found->second);
    return text ? *text : std::string();
}

std::string GoalInfo::label_of(const std::string& choice) const {
    const auto at = std::find(info.choices.begin(), info.choices.end(), choice);
    const auto k = static_cast<std::size_t>(at - info.choices.begin());
    return k < labels.size() ? labels[k] : choice;
}

const GoalInfo* Recipe::goal(std::string_view key) const {
    for (const GoalInfo& g : goals)
        if (g.info.key == key) return &g;
    return nullptr;
}

Goals Recipe::standard() const {
    Goals all;
    for (const GoalInfo& g : goals) all.values[g.info.key] = g.info.standard;
    return all;
}

Result<Recipe> declared_recipe(std::string_view id) {
    try {
        for (const auto& j : json::parse(embedded::recipes)) {
            if (j.at("id") != id) continue;
            Recipe r;
            r.id = j.at("id"), r.name = j.at("name"), r.intent = j.at("intent"), r.station = j.at("station");
            r.effort = j.value("effort", ""), r.watches_cells = j.value("watches_cells", false);
            for (const auto& g : j.at("goals")) r.goals.push_back(read_goal(g));
            for (const auto& m : j.at("remedies")) r.remedies.push_back(read_remedy(m));
            return r;
        }
    } catch (const json::exception& e) {
        return Error{Fault::file, "recipes", e.what(), "a table as in data/catalogue/recipes.json"};
    }
    return Error{Fault::file, "recipes", "there is no recipe " + std::string(id), "one of the table"};
}

const std::vector<Recipe>& recipes() {
    static const std::vector<Recipe> all{steady_light(), low_battery()};
    return all;
}

const Recipe* find_recipe(std::string_view id) {
    for (const Recipe& r : recipes())
        if (r.id == id) return &r;
    return nullptr;
}

}  // namespace elkit
