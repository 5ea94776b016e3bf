#pragma once
#include <string>

#include "support/process.hpp"

namespace elkit::test {

/// Runs elkit-cli with these arguments, as a shell takes them apart.
inline Output cli(const std::string& arguments) { return run(std::string(ELKIT_CLI) + " " + arguments); }

}  // namespace elkit::test
