// Files that nobody would write: an error with its place on one line, at once, or a design like others.
#include <gtest/gtest.h>

#include <chrono>

#include "circuit/names.hpp"
#include "design/clean.hpp"
#include "design/file.hpp"
#include "quantity/plain_text.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

std::string repeated(const std::string& text, int times) {
    std::string all;
    for (int k = 0; k < times; ++k) all += text;
    return all;
}

std::string of_parts(const std::string& parts) {
    return R"({"elkit": 2, "circuit": {"parts": [)" + parts + "]}}";
}

std::string one_part(const std::string& designator, const std::string& net) {
    return R"({"designator": )" + designator + R"(, "kind": "resistor", "pins": {"a": )" + net +
           R"(, "b": "B"}})";
}

/// A file, and what its error must say.
struct Hostile {
    const char* name;
    std::string text;
    const char* place;
};

const std::vector<Hostile>& hostile() {
    static const std::vector<Hostile> all{
        {"number beyond a double", R"({"elkit": 2, "brief": {"kits": 1e999}})", "line 1"},
        {"number of a thousand digits", R"({"elkit": 2, "brief": {"kits": )" + std::string(1000, '9') + "}}",
         "line 1"},
        {"not a number", R"({"elkit": 2, "brief": {"kits": NaN}})", "line 1"},
        {"version beyond", R"({"elkit": 1e999})", "line 1"},
        {"deep lists", R"({"elkit": 2, "x": )" + std::string(2000000, '['), "/x/0/0"},
        {"deep objects", R"({"elkit": 2, "x": )" + repeated(R"({"a":)", 500000), "/x/a/a"},
        {"closed deep lists", R"({"elkit": 2, "x": )" + std::string(100, '[') + std::string(100, ']') + "}",
         "/x"},
        {"a key twice", R"({"elkit": 2, "name": "a", "name": "b"})", "/name"},
        {"long name", R"({"elkit": 2, "name": ")" + std::string(7000000, 'n') + "\"}", "/name"},
        {"long net", of_parts(one_part("\"R1\"", "\"" + std::string(7000000, 'n') + "\"")),
         "/circuit/parts/0/pins/a"},
        {"escape in a name", R"({"elkit": 2, "name": "\u001b[2J"})", "/name"},
        {"turned name", R"({"elkit": 2, "name": "a\u202Eb"})", "/name"},
        {"space in a net", of_parts(one_part("\"R1\"", "\"A B\"")), "/circuit/parts/0/pins/a"},
        {"markup in a designator", of_parts(one_part("\"<img>\"", "\"A\"")), "/circuit/parts/0/designator"},
        {"bytes that are no text", std::string("{\"elkit\": 2, \"name\": \"\xff\xfe\"}"), "line 1"},
        {"a raw control character", std::string("{\"elkit\": 2, \"name\": \"\x1b\"}"), "line 1"},
        {"a zero", std::string("{\"elkit\": 2}\0", 13), "line 1"},
        {"binary", std::string(100000, '\0'), "line 1"},
        {"a list", "[1, 2]", "/"},
        {"a number", "3", "/"},
        {"old recipe of the wrong type",
         R"({"elkit": 1, "recipe": {"name": 5}, "circuit": {"parts": [{"designator": 5, "kind": []}]}})",
         "/circuit/parts/0"},
        {"points without end",
         of_parts(R"({"designator": "L1", "kind": "led", "params": {"points": [[1e300, 1]]},
            "pins": {"a": "A", "k": "B"}})"),
         "/circuit/parts/0/params/points"},
        {"hostile key", of_parts(R"({"designator": "R1", "kind": "resistor", "params": {"\u001b[31m": 1},
            "pins": {"a": "A", "b": "B"}})"),
         "/circuit/parts/0/params"},
    };
    return all;
}

TEST(Hostile, IsAnErrorWithItsPlaceOnOneLineAtOnce) {
    for (const Hostile& h : hostile()) {
        const auto design = read_design(h.text);
        ASSERT_FALSE(design) << h.name;
        EXPECT_NE(design.error().place.find(h.place), std::string::npos)
            << h.name << ": " << design.error().text();
        EXPECT_LT(design.error().text().size(), 3000u) << h.name;
        EXPECT_EQ(one_line(design.error().text(), 3000), design.error().text()) << h.name;
    }
}

/// Seconds to read, write and read again a design with so many keys that nobody knows.
double seconds_for_keys(int count) {
    std::string keys;
    for (int k = 0; k < count; ++k) keys += ", \"k" + std::to_string(k) + "\": 1";
    const auto since = std::chrono::steady_clock::now();
    const auto design = read_design(R"({"elkit": 2)" + keys + "}");
    EXPECT_TRUE(design.has_value());
    const std::string back = write_design(design.value());
    EXPECT_NE(back.find("\"k" + std::to_string(count - 1) + "\": 1"), std::string::npos);
    EXPECT_TRUE(read_design(back).value() == design.value());
    return std::chrono::duration<double>(std::chrono::steady_clock::now() - since).count();
}

TEST(Hostile, ManyUnknownKeysAreKeptInTimeThatGrowsWithTheirNumber) {
    const double few = seconds_for_keys(10000), many = seconds_for_keys(200000);
    EXPECT_LT(many, 100 * (few + 0.001))
        << "twenty times as many take 400 times as long where each is looked for";
}

TEST(Hostile, UnknownKeysAreKeptEverywhere) {
    const std::string newer = R"("newer": {"deep": [1, null, "text"]})";
    const std::string text =
        R"({"elkit": 2, )" + newer + R"(, "brief": {)" + newer + R"(}, "blocks": [{"recipe": "r", )" + newer +
        R"(}], "circuit": {)" + newer + R"(, "parts": [{"designator": "R1", "kind": "resistor",
        "pins": {"a": "A", "b": "B"}, )" +
        newer + R"(}]}, "board": {)" + newer + R"(}, "batch": {)" + newer +
        R"(}, "records": [{"step": "s", )" + newer + R"(}], "decisions": [{"finding": "f", )" + newer + "}]}";
    const auto design = read_design(text);
    ASSERT_TRUE(design) << design.error().text();
    const std::string back = write_design(design.value());
    std::size_t count = 0;
    for (auto at = back.find("\"newer\""); at != std::string::npos; at = back.find("\"newer\"", at + 1))
        ++count;
    EXPECT_EQ(count, 9u) << back;
}

TEST(Clean, PutsNamesRightAndKeepsThemApart) {
    const std::string text =
        R"({"elkit": 2, "name": "bell\u0007 jar", "blocks": [{"recipe": "r", "parts": {"R": "R 1"}, "nets": {"V+": "A B"},
        "by_hand": ["R 1.value"]}], "circuit": {"parts": [)" +
        one_part("\"R 1\"", "\"A B\"") + "," + one_part("\"R<1\"", "\"A_B\"") + "," +
        one_part("\"R2\"", "\"A&B\"") + "]}}";
    ASSERT_FALSE(read_design(text));
    const auto cleaned = cleaned_design(text);
    ASSERT_TRUE(cleaned) << cleaned.error().text();
    const Design& d = cleaned.value().design;
    EXPECT_EQ(d.name, "bell jar");
    EXPECT_EQ(d.circuit.parts[0].designator, "R_1");
    EXPECT_EQ(d.circuit.parts[1].designator, "R_1_2");
    EXPECT_EQ(d.circuit.parts[1].net("a"), "A_B");
    EXPECT_EQ(d.circuit.parts[0].net("a"), "A_B_2") << "a net that was another stays another";
    EXPECT_EQ(d.circuit.parts[2].net("a"), "A_B_3");
    EXPECT_EQ(d.blocks[0].parts.at("R"), "R_1");
    EXPECT_EQ(d.blocks[0].nets.at("V+"), "A_B_2");
    EXPECT_TRUE(d.blocks[0].by_hand.contains("R_1.value"));
    EXPECT_EQ(cleaned.value().changes.size(), 5u);
    EXPECT_TRUE(cleaned_design(write_design(test::pier_lantern())).value().changes.empty());
}

TEST(Clean, TakesOutBytesThatAreNoText) {
    const auto cleaned = cleaned_design("{\"elkit\": 2, \"name\": \"a\xff\x1b\x62\"}");
    ASSERT_TRUE(cleaned) << cleaned.error().text();
    EXPECT_EQ(cleaned.value().design.name, "a b");
    EXPECT_FALSE(cleaned_design("{\"elkit\": 2, \"brief\": {\"kits\": \"x\"}}"))
        << "only names and texts are put right";
}

TEST(Names, AreWordsOfVisibleCharacters) {
    for (const char* good : {"R1", "V+", "0", "N$1", "Bühne", "-5V", "灯", "LAMP_2", "/Q", "3V3"})
        EXPECT_TRUE(trouble_of_name(good).empty()) << good;
    for (const char* bad :
         {"", " ", "A B", "a\tb", "<b>", "a=b", "\x7f", "\xff", "a\u00a0b", "a\u200bb", "x,y", "R1;"})
        EXPECT_FALSE(trouble_of_name(bad).empty()) << bad;
    EXPECT_TRUE(trouble_of_name(std::string(32, 'x')).empty());
    EXPECT_FALSE(trouble_of_name(std::string(33, 'x')).empty());
}

TEST(PlainText, ShowsAnythingOnOneLine) {
    EXPECT_EQ(one_line("a\nb\tc"), "a b c");
    EXPECT_EQ(one_line("\x1b[2Jx\xff"), "·[2Jx·");
    EXPECT_EQ(one_line("abcdef", 3), "abc…");
    EXPECT_EQ(one_line("µΩ°"), "µΩ°");
    EXPECT_EQ(one_line("\xf0\x9f\x92\xa1"), "\xf0\x9f\x92\xa1");
    EXPECT_EQ(one_line("\xed\xa0\x80"), "···") << "a surrogate is no character";
}

}  // namespace
}  // namespace elkit
