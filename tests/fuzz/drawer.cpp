// Any bytes as a drawer: an error, or items that check() accepts.
#include "drawer/drawer.hpp"

#include <unistd.h>

#include <filesystem>

#include "fuzz.hpp"

using namespace elkit;

int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const std::filesystem::path file =
        std::filesystem::temp_directory_path() / ("elkit-fuzz-" + std::to_string(::getpid()) + ".sqlite");
    std::filesystem::remove(file);
    if (!write_file(file, fuzz::text_of(data, size))) return 0;
    {
        auto drawer = Drawer::open(file);
        if (!drawer) {
            fuzz::require_good_error(drawer.error());
        } else if (auto items = drawer.value().items()) {
            for (const DrawerItem& item : items.value())
                fuzz::require(check(item).has_value(), "items of a drawer are sound");
        }
    }
    std::filesystem::remove(file);
    return 0;
}
