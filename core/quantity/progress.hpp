#pragma once
#include <functional>
#include <string_view>

namespace elkit {

/// How far long work has come: what it is at, in words, and the fraction done, 0…1.
/// Returns false when the work should stop. An empty one never stops it.
using Progress = std::function<bool(std::string_view stage, double fraction)>;

}  // namespace elkit
