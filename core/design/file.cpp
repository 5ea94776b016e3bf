#include "design/file.hpp"

#include <fcntl.h>
#include <sys/stat.h>
#include <sys/xattr.h>
#include <unistd.h>

#include <array>
#include <cerrno>
#include <cstring>
#include <random>

namespace elkit {
namespace fs = std::filesystem;
namespace {
Error file_error(const fs::path& path, std::string found, std::string expected = "") {
    return {Fault::file, path.string(), std::move(found), std::move(expected)};
}

/// "a pipe", "a device", … of what is no plain file.
const char* kind_of(mode_t mode) {
    if (S_ISDIR(mode)) return "a folder";
    if (S_ISFIFO(mode)) return "a pipe";
    if (S_ISSOCK(mode)) return "a socket";
    return "a device";
}

/// A file descriptor that closes itself.
class Handle {
  public:
    explicit Handle(int fd) : fd_(fd) {}
    ~Handle() {
        if (fd_ >= 0) ::close(fd_);
    }
    Handle(const Handle&) = delete;
    Handle& operator=(const Handle&) = delete;
    explicit operator bool() const { return fd_ >= 0; }
    int get() const { return fd_; }

  private:
    int fd_;
};

bool write_all(int fd, std::string_view text) {
    for (std::size_t done = 0; done < text.size();) {
        const ssize_t n = ::write(fd, text.data() + done, text.size() - done);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        done += static_cast<std::size_t>(n);
    }
    return true;
}

/// The names of a folder's files are on the disk only when the folder is.
void sync_folder(const fs::path& file) {
    const fs::path folder = file.parent_path();
    const Handle fd(::open(folder.empty() ? "." : folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC));
    if (fd) ::fsync(fd.get());
}

/// A new file beside `target`, opened for writing; its name goes to `made`.
int make_beside(const fs::path& target, fs::path& made) {
    std::random_device random;
    for (int tries = 0; tries < 100; ++tries) {
        made = target.parent_path() / (".elkit-" + std::to_string(random()));
        const int fd = ::open(made.c_str(), O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
        if (fd >= 0 || errno != EEXIST) return fd;
    }
    return -1;
}

/// Where writing to `path` ends up: the file that a link names, there or not, and not the link.
fs::path behind_links(fs::path path) {
    std::error_code code;
    for (int links = 0; links < 40 && fs::is_symlink(path, code); ++links)
        path = path.parent_path() / fs::read_symlink(path, code);  // an absolute one replaces it
    return path;
}

/// A file of several names is written in place, so that all of them go on naming it; a copy of what it will
/// hold stands beside it meanwhile.
Result<void> write_in_place(const fs::path& target, const fs::path& copy, std::string_view text) {
    const Handle out(::open(target.c_str(), O_WRONLY | O_CLOEXEC));
    if (!out || ::ftruncate(out.get(), 0) != 0 || !write_all(out.get(), text) || ::fsync(out.get()) != 0)
        return file_error(target, std::string("writing failed (") + std::strerror(errno) + ")",
                          "room on the disk; what was to be written is in " + copy.string());
    ::unlink(copy.c_str());
    return success();
}

}  // namespace

Result<std::string> read_file(const fs::path& path, std::uintmax_t most) {
    const char* const expected = "a design file *.elkit.json";
    if (path.empty()) return file_error("file", "the name is empty", expected);
    const Handle in(::open(path.c_str(), O_RDONLY | O_NONBLOCK | O_CLOEXEC));
    struct stat about {};
    if (!in && errno == ENOENT) return file_error(path, "there is no such file", expected);
    if (!in || ::fstat(in.get(), &about) != 0)
        return file_error(path, std::string("cannot be read (") + std::strerror(errno) + ")",
                          "a file you may read");
    if (!S_ISREG(about.st_mode))
        return file_error(path, std::string("this is ") + kind_of(about.st_mode), expected);
    std::string text;
    std::array<char, 1 << 16> part{};
    for (;;) {
        const ssize_t n = ::read(in.get(), part.data(), part.size());
        if (n < 0 && errno == EINTR) continue;
        if (n < 0)
            return file_error(path, std::string("reading stopped half way (") + std::strerror(errno) + ")",
                              "a file that reads to its end");
        if (n == 0) return text;
        text.append(part.data(), static_cast<std::size_t>(n));
        if (text.size() > most)
            return file_error(path, "the file is larger than " + std::to_string(most >> 20) + " MB",
                              "a design below that");
    }
}

/// Gives a new file what the old one had beside its text: access lists and whatever others noted there. False
/// if the access list could not be kept.
static bool keep_attributes(int to, const fs::path& from) {
    std::string names(1 << 16, '\0');
    const ssize_t size = ::listxattr(from.c_str(), names.data(), names.size());
    bool kept = true;
    std::string value(1 << 16, '\0');
    for (ssize_t at = 0; at < size; at += static_cast<ssize_t>(std::strlen(names.data() + at)) + 1) {
        const char* name = names.data() + at;
        const ssize_t length = ::getxattr(from.c_str(), name, value.data(), value.size());
        const bool copied =
            length >= 0 && ::fsetxattr(to, name, value.data(), static_cast<std::size_t>(length), 0) == 0;
        kept = kept && (copied || std::string_view(name) != "system.posix_acl_access");
    }
    return kept;
}

Result<void> write_file(const fs::path& path, std::string_view text, Sync sync) {
    if (path.empty()) return file_error("file", "the name is empty", "a file to write to");
    const fs::path target = behind_links(path);
    struct stat before {};
    const bool there = ::stat(target.c_str(), &before) == 0;
    if (there && !S_ISREG(before.st_mode))
        return file_error(path, std::string("this is ") + kind_of(before.st_mode), "a file");
    if (there && ::access(target.c_str(), W_OK) != 0)
        return file_error(path, std::string("cannot be written (") + std::strerror(errno) + ")",
                          "a file you may write; it is untouched");
    fs::path temporary;
    const Handle out(make_beside(target, temporary));
    if (!out)
        return file_error(path, std::string("cannot be written (") + std::strerror(errno) + ")",
                          "a folder you may write to");
    const auto fail = [&](const char* what) {
        const std::string reason = std::strerror(errno);
        ::unlink(temporary.c_str());
        return file_error(path, std::string(what) + " (" + reason + ")",
                          "room on the disk; the old file is untouched");
    };
    if (there) {  // private stays private: where the owner cannot stay, nobody else reads it
        const bool owned = ::fchown(out.get(), before.st_uid, before.st_gid) == 0;
        if (::fchmod(out.get(), before.st_mode & (owned ? 07777 : 0700)) != 0)
            return fail("cannot keep its permissions");
        if (!keep_attributes(out.get(), target) && ::fchmod(out.get(), before.st_mode & 0700) != 0)
            return fail("cannot keep its access list");
    }
    const bool wait = sync == Sync::now;
    if (!write_all(out.get(), text) || (wait && ::fsync(out.get()) != 0)) return fail("writing failed");
    if (there && before.st_nlink > 1) return write_in_place(target, temporary, text);
    if (::rename(temporary.c_str(), target.c_str()) != 0) return fail("cannot be replaced");
    if (wait) sync_folder(target);
    return success();
}

Result<void> sync_file(const fs::path& path) {
    const Handle file(::open(path.c_str(), O_WRONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC));
    if (!file || ::fsync(file.get()) != 0)
        return file_error(path, std::string("writing failed (") + std::strerror(errno) + ")",
                          "room on the disk");
    sync_folder(path);
    return success();
}

Result<void> append_file(const fs::path& path, std::size_t size, std::string_view text) {
    const Handle out(::open(path.c_str(), O_WRONLY | O_NOFOLLOW | O_NONBLOCK | O_CLOEXEC));
    struct stat about {};
    if (!out || ::fstat(out.get(), &about) != 0)
        return file_error(path, std::string("cannot be written (") + std::strerror(errno) + ")",
                          "a file you may write to");
    if (!S_ISREG(about.st_mode) || about.st_size < static_cast<off_t>(size))
        return file_error(path, "was changed by something else", "the file as it was written");
    if (::ftruncate(out.get(), static_cast<off_t>(size)) != 0 || ::lseek(out.get(), 0, SEEK_END) < 0 ||
        !write_all(out.get(), text))
        return file_error(path, std::string("writing failed (") + std::strerror(errno) + ")",
                          "room on the disk");
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
