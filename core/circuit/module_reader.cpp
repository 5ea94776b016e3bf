// Reads data/catalogue/modules.json: each entry becomes a part kind, like those of kinds.json.
#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <nlohmann/json.hpp>

#include "circuit/kind_reader.hpp"
#include "circuit/names.hpp"

namespace elkit {
namespace {
using nlohmann::json;
using By = ModuleSpec::By;
using Gives = ModuleSpec::Gives;

template <class Value, std::size_t count>
Value one_of(const json& j, const char* key, const std::array<std::pair<const char*, Value>, count>& table) {
    const std::string word = j.at(key);
    std::string all;
    for (const auto& [name, value] : table) {
        if (word == name) return value;
        all += (all.empty() ? "" : ", ") + std::string(name);
    }
    throw json::other_error::create(501, fmt::format("{} is \"{}\", not one of {}", key, word, all), nullptr);
}

constexpr std::array<std::pair<const char*, By>, 6> bys{{{"always", By::always},
                                                         {"touch", By::hand},
                                                         {"press", By::hand},
                                                         {"level", By::level},
                                                         {"pattern", By::pattern},
                                                         {"frames", By::frames}}};
constexpr std::array<std::pair<const char*, Gives>, 6> gives{{{"plus", Gives::plus},
                                                              {"minus", Gives::minus},
                                                              {"both", Gives::both},
                                                              {"passes", Gives::passes},
                                                              {"steps up", Gives::steps_up},
                                                              {"steps down", Gives::steps_down}}};

ModuleSpec read_spec(const json& j) {
    ModuleSpec m;
    m.plus = j.at("supply").at("plus"), m.minus = j.at("supply").at("minus");
    m.by = one_of(j, "goes_on", bys);
    m.light = j.value("light", "");
    m.input = j.value("input", ""), m.latching = j.value("latching", false);
    for (const json& o : j.value("outputs", json::array()))
        m.outputs.push_back(
            {o.at("pin"), o.value("other", ""), one_of(o, "gives", gives), o.value("inverted", false)});
    if (const json chain = j.value("chain", json::object()); !chain.empty())
        m.chain_in = chain.at("in"), m.chain_out = chain.at("out");
    m.price = j.value("price", 0.0), m.mass = j.value("mass_g", 0.0);
    const auto refuse = [](const std::string& why) { throw json::other_error::create(501, why, nullptr); };
    const std::vector<std::string> pins = j.at("pins");
    if (trouble_of_name(j.at("id").get<std::string>()) != "") refuse("id is no plain word");
    if (j.at("name").get<std::string>().empty()) refuse("name is empty");
    for (std::size_t k = 0; k < pins.size(); ++k)
        if (trouble_of_name(pins[k]) != "" || std::count(pins.begin(), pins.end(), pins[k]) > 1)
            refuse("pin \"" + pins[k] + "\" is no plain word, or there twice");
    if (m.plus == m.minus) refuse("plus and minus are one pin");
    if (!(m.price >= 0) || !(m.mass >= 0)) refuse("price and mass_g are 0 or more");
    int converters = 0;
    const auto known = [&](const std::string& pin) {
        if (std::find(pins.begin(), pins.end(), pin) == pins.end())
            refuse("pin \"" + pin + "\" is not among its pins");
    };
    known(m.plus), known(m.minus);
    if (m.by == By::level) known(m.input);
    if (!m.chain_in.empty()) known(m.chain_in), known(m.chain_out);
    for (const auto& o : m.outputs) {
        known(o.pin);
        const bool taken =
            o.pin == m.plus || o.pin == m.minus ||
            std::count_if(m.outputs.begin(), m.outputs.end(),
                          [&](const ModuleSpec::Output& other) { return other.pin == o.pin; }) > 1;
        if (taken) refuse("pin \"" + o.pin + "\" is two things at once");
        converters += o.gives == Gives::steps_up || o.gives == Gives::steps_down;
        if (converters > 1) refuse("more than one output converts");
        if (o.gives == Gives::passes) known(o.other);
    }
    return m;
}

struct Number {
    const char *key, *label, *unit;
    double standard, low, high;
    const char* meaning;
};
constexpr std::array numbers{
    Number{"lowest_supply", "lowest supply", "V", 0, 0, 60, "below it it stops"},
    Number{"highest_supply", "highest supply", "V", 60, 0.5, 60, "rating"},
    Number{"idle_current", "own current, off", "A", 0, 0, 10, "at any supply in its range"},
    Number{"active_current", "own current, on", "A", 0, 0, 10, "likewise"}};
constexpr std::array output_numbers{
    Number{"resistance", "output resistance", "Ω", 100, 1e-3, 1e9, "of an output that is on"},
    Number{"max_current", "highest output current", "A", 0.02, 1e-6, 100, "rating"}};
constexpr std::array hand_numbers{
    Number{"on", "on at rest", "", 0, 0, 1, "1 on, 0 off, before anyone touches it"}};
constexpr std::array level_numbers{
    Number{"threshold", "switching level", "V", 1.5, 0.01, 60, "of the input, rising"},
    Number{"hysteresis", "hysteresis", "V", 0.1, 1e-3, 30, "it lets go this much lower"},
    Number{"input_resistance", "input resistance", "Ω", 1e6, 1, 1e12, "to minus"},
    Number{"delay", "delay", "s", 1e-5, 1e-9, 10, "from input to output"}};
constexpr std::array pattern_numbers{Number{"period", "period", "s", 1, 1e-6, 1e5, "of its pattern"},
                                     Number{"on_time", "on time", "s", 0.5, 1e-7, 1e5, "of each period"}};
constexpr std::array frame_numbers{
    Number{"brightness", "brightness", "%", 50, 1, 100, "of the current of a light that is on"}};
constexpr std::array converter_numbers{Number{"voltage", "output voltage", "V", 5, 0.5, 60, "without load"},
                                       Number{"efficiency", "efficiency", "", 0.85, 0.05, 1,
                                              "of what it passes on; its own current comes on top"}};

constexpr std::array light_numbers{
    Number{"intensity", "intensity", "cd", 1, 0, 1e4, "of all of its light, at its current while on"}};

bool converts(const ModuleSpec& spec) {
    return std::any_of(spec.outputs.begin(), spec.outputs.end(), [](const ModuleSpec::Output& o) {
        return o.gives == Gives::steps_up || o.gives == Gives::steps_down;
    });
}

/// The parameters of an entry: its values, of those that mean something for it.
json params_of(const json& entry, const ModuleSpec& spec) {
    json params = json::array();
    json values = entry.value("values", json::object());
    const auto add = [&](const auto& list) {
        for (const Number& n : list) {
            const double standard = values.value(n.key, n.standard);
            if (!(standard >= n.low && standard <= n.high))
                throw json::other_error::create(
                    501, fmt::format("{} is {}, not {} to {}", n.key, standard, n.low, n.high), nullptr);
            params.push_back({{"key", n.key},
                              {"label", n.label},
                              {"unit", n.unit},
                              {"standard", standard},
                              {"range", {n.low, n.high}},
                              {"meaning", n.meaning}});
            values.erase(n.key);
        }
    };
    add(numbers);
    if (!spec.outputs.empty()) add(output_numbers);
    if (spec.by == By::hand) add(hand_numbers);
    if (spec.by == By::level) add(level_numbers);
    if (spec.by == By::pattern) add(pattern_numbers);
    if (spec.by == By::frames) {
        add(frame_numbers);
        params.push_back(
            {{"key", "pattern"},
             {"label", "pattern"},
             {"standard", ""},
             {"written", "frames"},
             {"meaning", "its pictures, each with its time and eight rows; none: all lights on"}});
    }
    if (converts(spec)) add(converter_numbers);
    if (!spec.light.empty()) add(light_numbers);
    if (!values.empty())
        throw json::other_error::create(501, "value \"" + values.begin().key() + "\" means nothing here",
                                        nullptr);
    return params;
}

/// The entry in the words of kinds.json.
json as_kind(const json& entry, const ModuleSpec& spec) {
    json roles = json::array(), limits = json::array(), drives = json::array(), traces = json::array();
    for (const json& role : entry.value("roles", json::array())) roles.push_back(role);
    if (spec.by == By::level) roles.push_back("gain");
    if (!spec.light.empty()) roles.push_back("light");
    if (converts(spec)) roles.push_back("gain"), roles.push_back("swings");
    if (spec.by == By::hand) {
        roles.push_back("contact");
        roles.push_back(spec.latching ? "stays" : "momentary");
    }
    for (const auto& o : spec.outputs) {
        limits.push_back({{"what", "current of pin " + o.pin},
                          {"pins", {o.pin}},
                          {"reading", "rms"},
                          {"param", "max_current"},
                          {"advice", "Ask less of it, or let it drive a transistor."}});
        drives.push_back(o.pin), traces.push_back("net:" + o.pin);
    }
    json kind{
        {"id", entry.at("id")},
        {"name", entry.at("name")},
        {"prefix", "M"},
        {"pins", entry.at("pins")},
        {"optional_pins", entry.value("optional_pins", json::array())},
        {"words", entry.value("words", json::array())},
        {"roles", roles},
        {"polarised", true},
        {"symbol", "box"},
        {"drives", drives},
        {"traces", traces},
        {"limits", limits},
        {"supply",
         {{"plus", spec.plus},
          {"minus", spec.minus},
          {"low", {"lowest_supply"}},
          {"high", "highest_supply"},
          {"stops", true}}},
        {"identity",
         {{"family", "module"},
          {"id", entry.at("id")},
          {"by", json::array()},
          {"name", entry.at("name")},
          {"spare", false}}},
        {"build",
         {{"polarity", "Its pins are printed on the module: check each name before you solder."},
          {"heat", 6}}},
        {"legs",
         {{"view", "above"}, {"marks", {{{"pin", spec.plus}, {"mark", "first"}, {"words", spec.plus}}}}}},
        {"footprints", {{{"id", "header"}}}},
        {"params", params_of(entry, spec)}};
    if (spec.by == By::hand) {
        kind["control"] = spec.latching ? "contact" : "push";
        kind["reads"] = {"switch"};
        kind["contacts"] = {{"open", json::array()}, {"closed", json::array()}};
        kind["states"] = {"off", "on"};
        kind["rest"] = {{"param", "on"}, {"above", 0.5}};
    }
    if (spec.by == By::level) kind["needs"] = {{{"need", "hold"}, {"pin", spec.input}, {"to", spec.minus}}};
    return kind;
}

}  // namespace

Result<std::vector<PartKind>> read_modules(std::string_view text) {
    const json list = json::parse(text, nullptr, false);
    if (!list.is_array())
        return Error{Fault::file, "modules", "it is no list", "a list as in data/catalogue/modules.json"};
    std::vector<PartKind> kinds;
    for (std::size_t k = 0; k < list.size(); ++k) {
        std::string place = fmt::format("modules, entry {}", k + 1);
        try {
            const json& entry = list[k];
            place += " (" + entry.at("id").get<std::string>() + ")";
            ModuleSpec spec = read_spec(entry);
            PartKind kind = read_kind(as_kind(entry, spec));
            kind.module = std::move(spec);
            kinds.push_back(std::move(kind));
        } catch (const json::exception& e) {
            return Error{Fault::file, place, e.what(), "an entry as in data/catalogue/modules.json"};
        }
    }
    return kinds;
}

}  // namespace elkit
