#include "circuit/part_kind.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <limits>
#include <nlohmann/json.hpp>
#include <utility>

#include "catalogue/catalogue.hpp"
#include "embedded.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {
using nlohmann::json;

Unit unit_of(const std::string& sign) {
    static constexpr std::array<std::pair<std::string_view, Unit>, 12> units{{{"Ω", Unit::ohm},
                                                                              {"F", Unit::farad},
                                                                              {"H", Unit::henry},
                                                                              {"V", Unit::volt},
                                                                              {"A", Unit::ampere},
                                                                              {"W", Unit::watt},
                                                                              {"s", Unit::second},
                                                                              {"Hz", Unit::hertz},
                                                                              {"m", Unit::metre},
                                                                              {"mm²", Unit::square_metre},
                                                                              {"count", Unit::count},
                                                                              {"°C", Unit::celsius}}};
    for (const auto& [text, unit] : units)
        if (text == sign) return unit;
    return Unit::none;  // T, K and the like stand in the label's meaning
}

ParamInfo read_param(const json& j) {
    ParamInfo p;
    p.key = j.at("key"), p.label = j.at("label"), p.meaning = j.at("meaning");
    p.unit = unit_of(j.value("unit", ""));
    const json& standard = j.at("standard");
    if (standard.is_string()) p.standard = standard.get<std::string>();
    if (standard.is_array()) p.standard = PointList{};
    if (standard.is_null()) p.standard = std::numeric_limits<double>::quiet_NaN();
    if (standard.is_number()) p.standard = standard.get<double>();
    if (j.contains("axes")) p.axes = {unit_of(j.at("axes").at(0)), unit_of(j.at("axes").at(1))};
    if (j.contains("range")) p.low = j.at("range").at(0), p.high = j.at("range").at(1);
    return p;
}

PartKind read_kind(const json& j) {
    PartKind k;
    k.id = j.at("id"), k.name = j.at("name"), k.prefix = j.at("prefix");
    k.pins = j.at("pins").get<std::vector<std::string>>();
    k.optional_pins = j.value("optional_pins", std::vector<std::string>{});
    k.value_key = j.value("value", "");
    k.polarised = j.value("polarised", false);
    for (const auto& p : j.at("params")) k.params.push_back(read_param(p));
    return k;
}

}  // namespace

const ParamInfo* PartKind::param(std::string_view key) const {
    for (const auto& p : params)
        if (p.key == key) return &p;
    return nullptr;
}

bool PartKind::optional(std::string_view pin) const {
    return std::find(optional_pins.begin(), optional_pins.end(), pin) != optional_pins.end();
}

Result<std::vector<PartKind>> read_kinds(std::string_view text) {
    try {
        std::vector<PartKind> kinds;
        for (const auto& j : json::parse(text)) kinds.push_back(read_kind(j));
        return kinds;
    } catch (const json::exception& e) {
        return Error{Fault::file, "part kinds", e.what(), "a table as in data/catalogue/kinds.json"};
    }
}

const std::vector<PartKind>& part_kinds() {
    static const std::vector<PartKind> kinds = read_kinds(embedded::kinds).value();
    return kinds;
}

const PartKind* part_kind(std::string_view id) {
    for (const auto& kind : part_kinds())
        if (kind.id == id) return &kind;
    return nullptr;
}

const PartKind* part_kind_from_word(std::string_view typed) {
    static constexpr std::array<std::pair<std::string_view, std::string_view>, 22> words{
        {{"r", "resistor"},       {"c", "capacitor"},       {"cap", "capacitor"},
         {"d", "diode"},          {"zener", "diode"},       {"elco", "electrolytic"},
         {"rv", "potentiometer"}, {"pot", "potentiometer"}, {"trimmer", "potentiometer"},
         {"coil", "inductor"},    {"choke", "inductor"},    {"transformer", "core"},
         {"ntc", "thermistor"},   {"pushbutton", "button"}, {"ptc", "fuse"},
         {"source", "vsource"},   {"cell", "battery"},      {"bz", "buzzer"},
         {"header", "connector"}, {"tp", "testpoint"},      {"mosfet", "nmos"},
         {"transistor", "npn"}}};
    const auto lower = [](std::string_view text) {
        std::string out(text);
        for (char& c : out) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
        return out;
    };
    const std::string word = lower(typed);
    for (const auto& [name, id] : words)
        if (name == word) return part_kind(id);
    for (const PartKind& kind : part_kinds())
        if (kind.id == word || lower(kind.name) == word) return &kind;
    return nullptr;
}

std::string known_kinds() {
    std::string list;
    for (const auto& kind : part_kinds()) list += (list.empty() ? "" : ", ") + kind.id;
    return list;
}

std::vector<std::string> text_choices(std::string_view kind, std::string_view key) {
    const Catalogue& catalogue = built_in_catalogue();
    std::vector<std::string> ids;
    const auto all = [&](const auto& list) {
        for (const auto& entry : list) ids.push_back(entry.id);
    };
    const bool lights = kind == "led" || kind == "prewired_led" || kind == "strip" || kind == "rgb";
    if (key == "bin") return {"low", "typical", "high"};
    if (key == "wave") return {"dc", "pulse", "sine", "table"};
    if (key == "normally") return {"open", "closed"};
    if (key == "common") return {"cathode", "anode"};
    if (key == "cell")
        all(catalogue.cells);
    else if (lights)
        all(catalogue.leds);
    else if (kind == "diode")
        all(catalogue.diodes);
    else
        for (const auto& t : catalogue.types)
            if (t.kind == kind) ids.push_back(t.id);
    return ids;
}

std::string value_text(const Part& part) {
    if (part.kind == "battery") return fmt::format("{:.0f} × {}", part.number("count"), part.text("cell"));
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return part.kind;
    if ((part.kind == "vsource" || part.kind == "isource") && part.text("wave") != "dc")
        return part.text("wave");
    const ParamInfo* info = kind->param(kind->value_key);
    if (!info) return kind->name;
    if (std::holds_alternative<double>(info->standard))
        return format_quantity(part.number(info->key), info->unit);
    std::string text = part.text(info->key);
    if (text.ends_with("-5mm")) text = text.substr(0, text.size() - 4);
    return text;
}

bool is_contact(const Part& part) {
    return part.kind == "switch" || part.kind == "button" || part.kind == "double_switch" ||
           part.kind == "changeover" || part.kind == "jumper";
}

bool closed_as_drawn(const Part& part) {
    return part.kind == "button" ? part.text("normally") == "closed" : part.number("on") > 0.5;
}

bool is_source(const Part& part) {
    return part.kind == "battery" || part.kind == "supply" || part.kind == "vsource";
}

}  // namespace elkit
