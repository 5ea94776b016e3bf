#include "design/file.hpp"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>
#include <fstream>
#include <sstream>

#include "quantity/format.hpp"

namespace elkit {
namespace fs = std::filesystem;
namespace {
Error file_error(const fs::path& path, std::string found, std::string expected = "") {
    return {Fault::file, path.string(), std::move(found), std::move(expected)};
}
}  // namespace

Result<std::string> read_file(const fs::path& path) {
    std::error_code code;
    const fs::file_status status = fs::status(path, code);
    if (!fs::exists(status)) return file_error(path, "there is no such file", "a design file *.elkit.json");
    if (fs::is_directory(status)) return file_error(path, "this is a folder", "a design file *.elkit.json");
    const std::uintmax_t size = fs::file_size(path, code);
    if (!code && size > largest_file)
        return file_error(
            path, "the file has " + format_quantity(static_cast<double>(size) / 1e6, Unit::none) + " MB",
            "a design below 8 MB");
    std::ifstream in(path, std::ios::binary);
    if (!in)
        return file_error(path, std::string("cannot be read (") + std::strerror(errno) + ")",
                          "a file you may read");
    std::ostringstream text;
    text << in.rdbuf();
    if (in.bad()) return file_error(path, "reading stopped half way", "a file that reads to its end");
    return text.str();
}

Result<void> write_file(const fs::path& path, std::string_view text) {
    std::string temporary = path.string() + ".XXXXXX";
    const int fd = ::mkstemp(temporary.data());
    if (fd < 0)
        return file_error(path, std::string("cannot be written (") + std::strerror(errno) + ")",
                          "a folder you may write to");
    const auto fail = [&](const char* what) {
        const std::string reason = std::strerror(errno);
        ::close(fd);
        ::unlink(temporary.c_str());
        return file_error(path, std::string(what) + " (" + reason + ")",
                          "room on the disk; the old file is untouched");
    };
    for (std::size_t done = 0; done < text.size();) {
        const ssize_t n = ::write(fd, text.data() + done, text.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return fail("writing failed");
        done += static_cast<std::size_t>(n);
    }
    if (::fchmod(fd, 0644) != 0 || ::fsync(fd) != 0) return fail("writing failed");
    ::close(fd);
    std::error_code code;
    fs::rename(temporary, path, code);
    if (code) {
        ::unlink(temporary.c_str());
        return file_error(path, "cannot be replaced (" + code.message() + ")", "a file you may write");
    }
    return success();
}

Result<Design> load_design(const fs::path& path) {
    auto text = read_file(path);
    if (!text) return text.error();
    auto design = read_design(text.value());
    if (design) return design;
    Error error = design.error();
    error.place = path.string() + ", " + error.place;
    return error;
}

Result<void> save_design(const Design& design, const fs::path& path) {
    return write_file(path, write_design(design));
}

}  // namespace elkit
