// The rooms of the core stand in docs/architecture.md in the order in which they may look at each other.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <map>
#include <regex>
#include <string>

namespace elkit::test {
namespace {

namespace fs = std::filesystem;

const fs::path source{ELKIT_SOURCE};

/// Places of the rooms in the first table of the page.
std::map<std::string, int> rooms_in_order() {
    std::map<std::string, int> rooms;
    std::ifstream page(source / "docs/architecture.md");
    const std::regex row("\\| `(\\w+)` \\|.*");
    std::smatch found;
    for (std::string line; std::getline(page, line);) {
        if (std::regex_match(line, found, row)) rooms.emplace(found[1], static_cast<int>(rooms.size()));
        if (line.empty() && rooms.size() > 1) break;
    }
    return rooms;
}

TEST(Rooms, EachStandsOnThePageThatExplainsThem) {
    const auto rooms = rooms_in_order();
    for (const auto& entry : fs::directory_iterator(source / "core"))
        if (entry.is_directory()) {
            EXPECT_TRUE(rooms.contains(entry.path().filename().string())) << entry.path();
        }
    for (const auto& [room, place] : rooms) EXPECT_TRUE(fs::is_directory(source / "core" / room)) << room;
}

TEST(Rooms, LookOnlyAtThoseAboveThem) {
    const auto rooms = rooms_in_order();
    const std::regex include("#include \"(\\w+)/.*\"");
    std::smatch found;
    int looked_at = 0;
    for (const auto& [room, place] : rooms)
        for (const auto& file : fs::recursive_directory_iterator(source / "core" / room)) {
            std::ifstream text(file.path());
            for (std::string line; std::getline(text, line);) {
                if (!std::regex_match(line, found, include) || !rooms.contains(found[1])) continue;
                ++looked_at;
                EXPECT_LE(rooms.at(found[1]), place) << file.path() << ": " << line;
            }
        }
    EXPECT_GT(looked_at, 1000);
}

}  // namespace
}  // namespace elkit::test
