#pragma once
#include <string>

namespace elkit::test {

struct Output {
    int exit_code = -1;
    std::string out, err;
};

/// Runs a shell command and collects what it prints.
Output run(const std::string& command);

}  // namespace elkit::test
