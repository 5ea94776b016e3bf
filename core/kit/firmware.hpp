#pragma once
#include <filesystem>
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// The controllers of a circuit, in its order.
std::vector<const Part*> controllers_of(const Circuit& circuit);

/// Writes what a controller does as portable C99 into a folder, which is made if it is not there: the files
/// that it wrote. Errors as program_of(); file error.
Result<std::vector<std::filesystem::path>> write_firmware(const Part& controller, const std::string& title,
                                                          const std::filesystem::path& folder);

}  // namespace elkit
