#include "formats/folders.hpp"

#include <pwd.h>
#include <unistd.h>

#include <cstdlib>
#include <string>

namespace elkit {
namespace {

namespace fs = std::filesystem;

fs::path home() {
    if (const char* set = std::getenv("HOME"); set && *set == '/') return set;
    const passwd* user = ::getpwuid(::getuid());
    return user && user->pw_dir ? user->pw_dir : "/";
}

fs::path folder_from(const char* variable, const char* fallback) {
    const char* set = std::getenv(variable);
    return (set && *set == '/' ? fs::path(set) : home() / fallback) / "elkit";
}

}  // namespace

fs::path state_folder() { return folder_from("XDG_STATE_HOME", ".local/state"); }
fs::path data_folder() { return folder_from("XDG_DATA_HOME", ".local/share"); }

}  // namespace elkit
