// The table of changes to the core that tests should see: each still fits the code, or nobody would notice
// that it is no longer tried.
#include <gtest/gtest.h>

#include <filesystem>
#include <fstream>
#include <set>
#include <sstream>
#include <string>
#include <vector>

namespace elkit::test {
namespace {

std::string text_of(const std::filesystem::path& path) {
    std::ostringstream text;
    text << std::ifstream(path).rdbuf();
    return text.str();
}

TEST(Mutants, StandInTheCodeOnceEach) {
    const std::filesystem::path source{ELKIT_SOURCE};
    std::ifstream table(source / "tests/mutants/table.tsv");
    std::set<std::string> rooms;
    int rows = 0;
    for (std::string line; std::getline(table, line);) {
        if (line.empty() || line.front() == '#') continue;
        std::vector<std::string> fields;
        std::istringstream row(line);
        for (std::string field; std::getline(row, field, '\t');) fields.push_back(field);
        ASSERT_EQ(fields.size(), 4u) << line;
        const std::string code = text_of(source / fields[0]);
        const auto at = code.find(fields[1]);
        EXPECT_NE(at, std::string::npos) << line;
        EXPECT_EQ(code.find(fields[1], at + 1), std::string::npos) << "twice: " << line;
        EXPECT_NE(fields[1], fields[2]) << line;
        rooms.insert(fields[0].substr(0, fields[0].rfind('/')));
        ++rows;
    }
    EXPECT_GT(rows, 60);
    EXPECT_GT(rooms.size(), 10u);
}

}  // namespace
}  // namespace elkit::test
