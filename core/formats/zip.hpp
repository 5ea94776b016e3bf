#pragma once
#include <string>
#include <utility>
#include <vector>

#include "quantity/result.hpp"

namespace elkit {

/// Files by name and content as a ZIP archive. Program error if it cannot be made.
Result<std::string> zip_of(const std::vector<std::pair<std::string, std::string>>& files);

}  // namespace elkit
