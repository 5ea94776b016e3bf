#pragma once
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "circuit/part.hpp"
#include "quantity/unit.hpp"

namespace elkit {

struct ParamInfo {
    std::string key, label;
    Unit unit = Unit::none;
    ParamValue standard;       ///< used when a part does not set it
    double low = 0, high = 0;  ///< allowed range of a number
    std::string meaning;
};

/// What there is to know about a kind of part before any is placed.
struct PartKind {
    std::string id, name, prefix;
    std::vector<std::string> pins;
    std::vector<ParamInfo> params;
    std::string value_key;  ///< the parameter that is printed on the drawing
    bool polarised = false;
    const ParamInfo* param(std::string_view key) const;
};

const std::vector<PartKind>& part_kinds();
const PartKind* part_kind(std::string_view id);  ///< nullptr if unknown
std::string known_kinds();                       ///< "battery, supply, …" for messages

/// The text printed beside a part: "75 Ω", "3 × LR6", "amber-5mm", "on/off".
std::string value_text(const Part& part);

}  // namespace elkit
