#pragma once
#include <filesystem>
#include <string>
#include <utility>
#include <vector>

#include "circuit/part.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// The controllers of a circuit, in its order.
std::vector<const Part*> controllers_of(const Circuit& circuit);

/// What a controller does as portable C99, by file name, with the pictures that it sends to matrices. Errors
/// as program_of().
Result<std::vector<std::pair<std::string, std::string>>> firmware_of(const Circuit& circuit,
                                                                     const Part& controller,
                                                                     const std::string& title);

/// Writes it into a folder, which is made if it is not there: the files that it wrote. Errors as
/// firmware_of(); file error.
Result<std::vector<std::filesystem::path>> write_firmware(const Circuit& circuit, const Part& controller,
                                                          const std::string& title,
                                                          const std::filesystem::path& folder);

}  // namespace elkit
