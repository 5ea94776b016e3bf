#pragma once
#include <string>
#include <utility>
#include <vector>

#include "behaviour/program.hpp"

namespace elkit {

/// The program as portable C99, by file name: behaviour.c, behaviour.h, hardware.h with the six functions
/// that a board has to give, and README.md. `title` goes into their first lines.
std::vector<std::pair<std::string, std::string>> c99_of(const Program& program, const std::string& title);

}  // namespace elkit
