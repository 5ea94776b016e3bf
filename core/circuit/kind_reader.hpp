#pragma once
#include <nlohmann/json_fwd.hpp>

#include "circuit/part_kind.hpp"

namespace elkit {

/// One parameter as declared in data: of a part kind, or a goal of a recipe. Throws what the JSON library
/// throws where something is missing.
ParamInfo read_param(const nlohmann::json& json);

/// One kind as declared in data. Throws likewise.
PartKind read_kind(const nlohmann::json& json);

}  // namespace elkit
