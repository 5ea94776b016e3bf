#pragma once
#include <string>

namespace elkit {

/// docs/parts.md: every kind of part with its pins and parameters, and the catalogue's types with the source
/// of their values.
std::string parts_markdown();

}  // namespace elkit
