// Files cut short or with bytes changed: an error that names a place, or a design that can be computed or
// says why not; never a crash.
#include <gtest/gtest.h>

#include <random>

#include "catalogue/catalogue.hpp"
#include "command/parts_table.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "engine/operating_point.hpp"

namespace elkit::test {
namespace {

void expect_survives(const std::string& text) {
    const auto design = read_design(text);
    if (!design) {
        EXPECT_FALSE(design.error().place.empty()) << design.error().text();
        EXPECT_FALSE(design.error().expected.empty()) << design.error().text();
        return;
    }
    const auto op = operating_point(design.value().circuit, known_catalogue(), {});
    if (!op) {
        EXPECT_FALSE(op.error().text().empty());
    }
}

TEST(Damage, CutShortAnywhere) {
    for (const Demo& demo : demos())
        for (std::size_t length = 0; length < demo.text.size(); length += 37)
            expect_survives(std::string(demo.text.substr(0, length)));
}

TEST(Damage, BytesChanged) {
    std::mt19937 random(11);
    constexpr std::string_view bytes = "\"{}[]:,.-0e9aZ \n\\\xff";
    for (const Demo& demo : demos())
        for (int k = 0; k < 150; ++k) {
            std::string text(demo.text);
            for (int change = 0; change <= k % 3; ++change)
                text[random() % text.size()] = bytes[random() % bytes.size()];
            expect_survives(text);
        }
}

TEST(Damage, ValuesOutOfEveryRange) {
    for (const char* value : {"-1", "0", "1e300", "1e-300", "null", "\"\"", "[]", "[[1]]", "{}", "true"})
        for (const char* key : {"value", "tolerance", "rating", "points", "type", "nonsense"})
            expect_survives(R"({"elkit": 1, "name": "x", "circuit": {"parts": [
                {"designator": "B1", "kind": "battery", "pins": {"+": "V", "-": "0"}},
                {"designator": "Q1", "kind": "nmos", "params": {")" +
                            std::string(key) + "\": " + value + R"(}, "pins": {"d": "V", "g": "V", "s": "0"}},
                {"designator": "TH1", "kind": "thermistor", "params": {")" +
                            std::string(key) + "\": " + value + R"(}, "pins": {"a": "V", "b": "0"}}]}})");
}

TEST(Damage, PartsTables) {
    std::mt19937 random(5);
    const std::string whole = parts_as_csv(read_design(demos().front().text).value().circuit.parts);
    for (int k = 0; k < 300; ++k) {
        std::string text = whole;
        text[random() % text.size()] = "\",;\t\n x9"[random() % 8];
        const auto d = with_parts_from_table({}, text, Merge::replace);
        if (!d) {
            EXPECT_FALSE(d.error().place.empty());
        }
    }
}

}  // namespace
}  // namespace elkit::test
