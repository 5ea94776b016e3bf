#include "recipes/recipe.hpp"

#include <algorithm>
#include <nlohmann/json.hpp>

#include "circuit/kind_reader.hpp"
#include "embedded.hpp"
#include "recipes/battery_bar.hpp"
#include "recipes/cell_booster.hpp"
#include "recipes/dark_wake.hpp"
#include "recipes/lamp_switcher.hpp"
#include "recipes/load_switch.hpp"
#include "recipes/low_battery.hpp"
#include "recipes/pattern_lights.hpp"
#include "recipes/picture_board.hpp"
#include "recipes/press_fade.hpp"
#include "recipes/pulse_latch.hpp"
#include "recipes/sensor_flasher.hpp"
#include "recipes/steady_light.hpp"
#include "recipes/timer_dimmer.hpp"
#include "recipes/timer_flasher.hpp"
#include "recipes/timer_once.hpp"
#include "recipes/touch_light.hpp"
#include "recipes/warmth_watch.hpp"
#include "recipes/ways_out.hpp"

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
    g.when = j.value("when", Texts{}), g.yields = j.value("yields", false);
    g.station = j.value("station", ""), g.wide = j.value("wide", false),
    g.follows = j.value("follows", false);
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

RecipeNet read_net(const json& j) {
    return {j.at("net"), j.at("label"), j.value("goal", ""), j.value("value", "")};
}

/// The goals of a recipe; {"use": "lights"} stands for a group that several recipes share, and may say when
/// it matters.
std::vector<GoalInfo> read_goals(const json& list, const json& shared) {
    std::vector<GoalInfo> goals;
    for (const auto& g : list)
        if (g.contains("use"))
            for (const auto& each : shared.at(g.at("use").get<std::string>())) {
                goals.push_back(read_goal(each));
                if (g.contains("when")) goals.back().when = g.at("when").get<std::vector<std::string>>();
            }
        else
            goals.push_back(read_goal(g));
    return goals;
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

PointList Goals::points(const std::string& key) const {
    const auto found = values.find(key);
    const PointList* points = found == values.end() ? nullptr : std::get_if<PointList>(&found->second);
    return points ? *points : PointList();
}

std::string GoalInfo::label_of(const std::string& choice) const {
    const auto at = std::find(info.choices.begin(), info.choices.end(), choice);
    const auto k = static_cast<std::size_t>(at - info.choices.begin());
    return k < labels.size() ? labels[k] : choice;
}

bool GoalInfo::matters(const Goals& goals) const {
    return when.empty() || std::find(when.begin() + 1, when.end(), goals.text(when.front())) != when.end();
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
        const json table = json::parse(embedded::recipes);
        for (const auto& j : table.at("recipes")) {
            if (j.at("id") != id) continue;
            Recipe r;
            r.id = j.at("id"), r.name = j.at("name"), r.intent = j.at("intent"), r.about = j.at("about"),
            r.station = j.at("station"), r.group = j.at("group");
            r.effort = j.value("effort", ""), r.watches_cells = j.value("watches_cells", false);
            r.behind_switch = j.value("behind_switch", false);
            r.says = j.value("says", Texts{}), r.examples = j.value("examples", Texts{});
            r.goals = read_goals(j.at("goals"), table.at("shared"));
            for (const auto& m : j.at("remedies")) r.remedies.push_back(read_remedy(m));
            for (const auto& o : j.value("offers", json::array())) r.offers.push_back(read_net(o));
            for (const auto& t : j.value("takes", json::array())) r.takes.push_back(read_net(t));
            return r;
        }
    } catch (const json::exception& e) {
        return Error{Fault::file, "recipes", e.what(), "a table as in data/catalogue/recipes.json"};
    }
    return Error{Fault::file, "recipes", "there is no recipe " + std::string(id), "one of the table"};
}

Goals planned(const Recipe& recipe, const std::map<std::string, ParamValue>& said,
              const Environment& environment) {
    Goals goals = recipe.standard();
    std::set<std::string> keys;
    for (const auto& [key, value] : said) goals.values[key] = value, keys.insert(key);
    if (recipe.complete) goals = recipe.complete(std::move(goals), keys, environment);
    // what is made of it may change, and what feeds it; what it should do may not
    constexpr std::size_t all = 8;
    for (const WayOut& way : ways_out(recipe, goals, environment, all)) {
        const GoalInfo& goal = *recipe.goal(way.key);
        const bool means =
            goal.follows || goal.yields || goal.of_source() || std::holds_alternative<std::string>(way.value);
        if (!keys.contains(way.key) && means) {
            goals.values[way.key] = way.value, keys.insert(way.key);
            // another way of making it: what follows from that is chosen anew
            if (!recipe.complete || !std::holds_alternative<std::string>(way.value)) break;
            if (Goals anew = recipe.complete(goals, keys, environment); recipe.size(anew, environment))
                goals = std::move(anew);
            break;
        }
    }
    return goals;
}

const std::vector<Recipe>& recipes() {
    static const std::vector<Recipe> all{
        steady_light(),   timer_flasher(),  timer_one_shot(), timer_set_reset(), timer_dimmer(),
        warmth_flasher(), light_flasher(),  dark_wake(),      press_fade(),      pulse_latch(),
        cell_booster(),   load_switch(),    relay_switch(),   battery_bar(),     touch_light(),
        warmth_watch(),   pattern_lights(), picture_board(),  lamp_switcher(),   low_battery()};
    return all;
}

const Recipe* find_recipe(std::string_view id) {
    for (const Recipe& r : recipes())
        if (r.id == id) return &r;
    return nullptr;
}

}  // namespace elkit
