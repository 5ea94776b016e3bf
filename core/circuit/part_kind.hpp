#pragma once
#include <array>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "circuit/part.hpp"
#include "quantity/result.hpp"
#include "quantity/unit.hpp"

namespace elkit {

struct ParamInfo {
    std::string key, label;
    Unit unit = Unit::none;
    ParamValue standard;  ///< used when a part does not set it; NaN: the catalogue entry of its type says
    double low = 0, high = 0;  ///< allowed range of a number
    std::string meaning;
    std::array<Unit, 2> axes{Unit::none, Unit::none};  ///< of a list of points
};

/// What there is to know about a kind of part before any is placed.
struct PartKind {
    std::string id, name, prefix;
    std::vector<std::string> pins;
    std::vector<std::string> optional_pins;  ///< may be left without a net
    std::vector<ParamInfo> params;
    std::string value_key;  ///< the parameter that is printed on the drawing
    bool polarised = false;
    const ParamInfo* param(std::string_view key) const;
    bool optional(std::string_view pin) const;
};

/// All kinds, from data/catalogue/kinds.json.
const std::vector<PartKind>& part_kinds();
const PartKind* part_kind(std::string_view id);  ///< nullptr if unknown
/// A kind by its id, its name or what people call it: "r", "cap", "pot"; nullptr if unknown.
const PartKind* part_kind_from_word(std::string_view typed);
std::string known_kinds();  ///< "battery, supply, …" for messages
/// Reads a table of kinds; file error with what is missing where.
Result<std::vector<PartKind>> read_kinds(std::string_view json);

/// The texts that a text parameter may hold, e.g. the ids of the catalogue for "type".
std::vector<std::string> text_choices(std::string_view kind, std::string_view key);

/// The text printed beside a part: "75 Ω", "3 × LR6", "amber-5mm", "on/off".
std::string value_text(const Part& part);

/// True for the contacts that a hand moves: switches, buttons and jumpers.
bool is_contact(const Part& part);
/// True if the contact conducts before anyone touches it (of a changeover: joins b).
bool closed_as_drawn(const Part& contact);
/// True for what feeds a circuit: cells, supplies and voltage sources.
bool is_source(const Part& part);

}  // namespace elkit
