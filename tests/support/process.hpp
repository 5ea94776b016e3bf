#pragma once
#include <string>

namespace elkit::test {

struct Output {
    int exit_code = -1;
    std::string out, err;
};

/// The text of a PDF as poppler reads it, no-break spaces as spaces.
std::string pdf_text(const std::string& path);

/// Runs a shell command and collects what it prints.
Output run(const std::string& command);

}  // namespace elkit::test
