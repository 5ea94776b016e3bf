#pragma once
#include <nlohmann/json_fwd.hpp>

namespace elkit {

/// Brings an older document up to the current version, step by step; leaves what it does not understand.
void migrate(nlohmann::ordered_json& document);

}  // namespace elkit
