#include "circuit/part_kind.hpp"

#include <fmt/format.h>

#include "quantity/format.hpp"

namespace elkit {
namespace {

std::vector<PartKind> make_kinds() {
    const ParamInfo lead_area{"lead_area",
                              "lead cross-section",
                              Unit::square_metre,
                              0.14,
                              0.01,
                              10,
                              "copper cross-section of each lead, mm²"};
    const ParamInfo lead_length{
        "lead_length", "lead length", Unit::metre, 0.12, 0, 20, "length of each of the two leads, m"};
    return {
        {"battery",
         "battery",
         "B",
         {"+", "-"},
         {{"cell", "cell", Unit::none, std::string("LR6"), 0, 0, "cell type, an id of the catalogue"},
          {"count", "cells in series", Unit::count, 1.0, 1, 40, "number of cells in series"},
          lead_area,
          lead_length},
         "cell",
         true},
        {"supply",
         "DC supply",
         "PS",
         {"+", "-"},
         {{"voltage", "voltage", Unit::volt, 5.0, 0, 1000, "open-circuit voltage"},
          {"resistance", "source resistance", Unit::ohm, 0.1, 0, 1e6, "source resistance"},
          {"max_current", "current limit", Unit::ampere, 0.5, 0, 100, "rated current"},
          lead_area,
          lead_length},
         "voltage",
         true},
        {"switch",
         "slide switch",
         "S",
         {"a", "b"},
         {{"on", "closed at rest", Unit::none, 1.0, 0, 1, "1 closed, 0 open, before anyone touches it"},
          {"rating", "current rating", Unit::ampere, 0.3, 0, 100, "contact rating"},
          {"on_resistance", "contact resistance", Unit::ohm, 0.05, 0, 1000, "resistance when closed"}},
         "",
         false},
        {"resistor",
         "resistor",
         "R",
         {"a", "b"},
         {{"value", "resistance", Unit::ohm, 1000.0, 0.001, 1e9, "resistance"},
          {"tolerance", "tolerance", Unit::none, 0.05, 0, 0.5, "fraction, 0.05 for 5 %"},
          {"rating", "power rating", Unit::watt, 0.25, 0.01, 100, "power rating at 70 °C"}},
         "value",
         false},
        {"led",
         "LED",
         "L",
         {"a", "k"},
         {{"type", "LED", Unit::none, std::string("red-5mm"), 0, 0, "LED type, an id of the catalogue"},
          {"bin", "bin", Unit::none, std::string("typical"), 0, 0, "low, typical or high forward voltage"},
          {"points", "measured points", Unit::none, PointList{}, 0, 0,
           "[[current A, forward voltage V], …] in place of the catalogue's curve"}},
         "type",
         true},
        {"diode",
         "diode",
         "D",
         {"a", "k"},
         {{"type", "diode", Unit::none, std::string("signal"), 0, 0, "diode type, an id of the catalogue"}},
         "type",
         true},
    };
}

}  // namespace

const ParamInfo* PartKind::param(std::string_view key) const {
    for (const auto& p : params)
        if (p.key == key) return &p;
    return nullptr;
}

const std::vector<PartKind>& part_kinds() {
    static const std::vector<PartKind> kinds = make_kinds();
    return kinds;
}

const PartKind* part_kind(std::string_view id) {
    for (const auto& kind : part_kinds())
        if (kind.id == id) return &kind;
    return nullptr;
}

std::string known_kinds() {
    std::string list;
    for (const auto& kind : part_kinds()) list += (list.empty() ? "" : ", ") + kind.id;
    return list;
}

std::string value_text(const Part& part) {
    if (part.kind == "battery") return fmt::format("{:.0f} × {}", part.number("count"), part.text("cell"));
    if (part.kind == "switch") return "slide switch";
    const PartKind* kind = part_kind(part.kind);
    if (!kind) return part.kind;
    const ParamInfo* info = kind->param(kind->value_key);
    if (!info) return kind->name;
    if (std::holds_alternative<double>(info->standard))
        return format_quantity(part.number(info->key), info->unit);
    std::string text = part.text(info->key);
    if (text.ends_with("-5mm")) text = text.substr(0, text.size() - 4);
    return text;
}

}  // namespace elkit
