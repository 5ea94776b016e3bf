#include "support/process.hpp"

#include <sys/wait.h>
#include <unistd.h>

#include <cstdio>
#include <cstdlib>
#include <fstream>
#include <sstream>

namespace elkit::test {

std::string pdf_text(const std::string& path) {
    std::string text = run("pdftotext -layout " + path + " -").out;
    for (std::size_t at; (at = text.find("\u00a0")) != std::string::npos;) text.replace(at, 2, " ");
    return text;
}

Output run(const std::string& command) {
    std::string name = "/tmp/elkit-stderr-XXXXXX";
    const int fd = ::mkstemp(name.data());
    Output output;
    FILE* pipe = ::popen(("{ " + command + " ; } 2>" + name).c_str(), "r");
    char buffer[4096];
    for (std::size_t n; (n = ::fread(buffer, 1, sizeof buffer, pipe)) > 0;) output.out.append(buffer, n);
    const int status = ::pclose(pipe);
    output.exit_code = WIFEXITED(status) ? WEXITSTATUS(status) : -1;
    std::ostringstream text;
    text << std::ifstream(name).rdbuf();
    output.err = text.str();
    ::close(fd);
    ::unlink(name.c_str());
    return output;
}

}  // namespace elkit::test
