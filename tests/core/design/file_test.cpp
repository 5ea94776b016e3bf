#include "design/file.hpp"

#include <gtest/gtest.h>

#include <fstream>
#include <random>
#include <regex>

#include "design/demo.hpp"
#include "embedded.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {

std::string demo() { return std::string(embedded::demo_pier_lantern); }

std::string with(const std::string& from, const std::string& to) {
    std::string text = demo();
    const auto at = text.find(from);
    EXPECT_NE(at, std::string::npos) << from;
    return text.replace(at, from.size(), to);
}

TEST(DesignFile, SavingAnUnchangedDesignChangesNoByte) {
    for (const auto text : {embedded::demo_pier_lantern, embedded::demo_coat_badge}) {
        const auto design = read_design(text);
        ASSERT_TRUE(design);
        EXPECT_EQ(write_design(design.value()), text);
    }
}

TEST(DesignFile, RoundTripsEveryField) {
    Design d = test::pier_lantern();
    d.brief.for_children = true;
    d.circuit.find("L1")->params["points"] = PointList{{0.005, 1.97}, {0.02, 2.08}};
    d.circuit.find("L2")->params["bin"] = std::string("high");
    d.records.push_back({.step = "solder.R1",
                         .done = true,
                         .note = "a note, with \"quotes\"",
                         .measured = 61.7,
                         .unit = 3,
                         .time = "2026-11-25T12:00:00Z",
                         .extra = {}});
    d.blocks[0].by_hand = {"R1.value"};
    d.decisions.push_back({"sag:current", "it may fade", {}});
    d.board.columns = 12;
    const auto back = read_design(write_design(d));
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_TRUE(back.value() == d);
}

TEST(DesignFile, RoundTripsUseThatSaysHalf) {
    for (const char* use :
         {R"("seconds": 20)", R"("times_a_day": 30)", R"("hours_a_day": 0, "seconds": 5)", ""}) {
        const auto design =
            read_design(with("\"records\": [", std::string(R"("use": [{"situation": "lit")") +
                                                   (*use ? ", " : "") + use + "}],\n  \"records\": ["));
        ASSERT_TRUE(design) << use << design.error().text();
        const auto back = read_design(write_design(design.value()));
        EXPECT_TRUE(back && back.value() == design.value()) << use;
    }
}

TEST(DesignFile, DemosHoldNumbersAsAPersonWritesThem) {
    const std::regex long_number("(\": |[.])[0-9]{8}");  // rows of a picture are no number
    for (const Demo& demo : demos())
        EXPECT_FALSE(std::regex_search(demo.text.begin(), demo.text.end(), long_number)) << demo.id;
}

TEST(DesignFile, KeepsKeysOfNewerVersions) {
    std::string text = with("\"run_time_h\"", "\"mood\": [1, {\"a\": null}],\n    \"run_time_h\"");
    text.replace(text.find("\"elkit\": 2"), 10, "\"elkit\": 7, \"zebra\": {\"x\": 1.5}");
    text.replace(text.find("\"kind\": \"switch\""), 16, "\"colour\": \"red\", \"kind\": \"switch\"");
    const auto design = read_design(text);
    ASSERT_TRUE(design) << design.error().text();
    const std::string out = write_design(design.value());
    for (const char* kept : {"\"mood\"", "\"zebra\"", "\"colour\": \"red\"", "\"elkit\": 7"})
        EXPECT_NE(out.find(kept), std::string::npos) << kept;
}

struct Damage {
    const char *from, *to, *place, *expected;
};
class Damaged : public ::testing::TestWithParam<Damage> {};

TEST_P(Damaged, NamesThePlaceAndWhatWasExpected) {
    const auto& d = GetParam();
    const auto design = read_design(with(d.from, d.to));
    ASSERT_FALSE(design);
    EXPECT_EQ(design.error().fault, Fault::design);
    EXPECT_EQ(design.error().place, d.place);
    EXPECT_NE(design.error().expected.find(d.expected), std::string::npos) << design.error().text();
}

INSTANTIATE_TEST_SUITE_P(
    Files, Damaged,
    ::testing::Values(
        Damage{"\"value\": 62", "\"value\": \"62\"", "/circuit/parts/2/params/value", "a number"},
        Damage{"\"value\": 62", "\"value\": -1", "/circuit/parts/2/params/value", "from 0.001"},
        Damage{"\"kind\": \"switch\"", "\"kind\": \"lever\"", "/circuit/parts/1/kind", "one of battery"},
        Damage{"\"designator\": \"R2\"", "\"designator\": \"R1\"", "/circuit/parts/5/designator",
               "each designator once"},
        Damage{"\"run_time_h\": 84", "\"run_time_h\": true", "/brief/run_time_h", "a number"},
        Damage{"\"elkit\": 2", "\"elkit\": \"one\"", "/elkit", "a number"},
        Damage{"\"elkit\": 2,", "", "/elkit", "version"},
        Damage{"\"recipe\": \"steady-light\"", "\"recipe\": 7", "/blocks/0/recipe", "a text"},
        Damage{"\"b\": \"LAMP\"", "\"c\": \"LAMP\"", "/circuit/parts/1/pins/b", "net of pin b"},
        Damage{"\"parts\": [", "\"parts\": 5, \"old\": [", "/circuit/parts", "a list"},
        Damage{"\"type\": \"amber-5mm\"", "\"type\": \"pink\"", "/circuit/parts/3/params/type",
               "one of red-5mm"},
        Damage{"\"records\": [", R"("situations": [{"name": "lit", "events": [{"at_s": 1, "part": "S1",
               "on": true, "how": "hard"}]}], "records": [)",
               "/situations/0/events/0/how", "at_s, part and on"},
        Damage{"\"cell\": \"LR6\"", "\"cell\": \"LR7\"", "/circuit/parts/0/params/cell", "one of LR6"}));

TEST(DesignFile, NamesTheLineOfBrokenJson) {
    const auto cut = read_design(demo().substr(0, demo().size() / 2));
    ASSERT_FALSE(cut);
    EXPECT_NE(cut.error().place.find("line "), std::string::npos);
    EXPECT_EQ(cut.error().found, "the file ends too early");
    const auto broken = read_design("{\n  \"elkit\": 2,\n  \"name\": oops\n}");
    ASSERT_FALSE(broken);
    EXPECT_EQ(broken.error().place.substr(0, 6), "line 3");
    EXPECT_FALSE(read_design(""));
    EXPECT_FALSE(read_design("[1, 2]"));
}

TEST(DesignFile, SurvivesRandomDamage) {
    std::mt19937 random(5);
    for (int i = 0; i < 400; ++i) {
        std::string text = demo();
        for (int k = 0; k < 3; ++k) text[random() % text.size()] = static_cast<char>(32 + random() % 90);
        const auto design = read_design(text);
        if (!design) {
            EXPECT_FALSE(design.error().place.empty());
        }
    }
}

TEST(DesignFile, SaysWhatIsWrongWithAFile) {
    test::TemporaryFolder folder;
    EXPECT_NE(load_design(folder / "none.json").error().found.find("no such file"), std::string::npos);
    EXPECT_NE(load_design(folder.path()).error().found.find("folder"), std::string::npos);
    {
        std::ofstream big(folder / "big.json");
        big.seekp(50 << 20);
        big << ' ';
    }
    const auto big = load_design(folder / "big.json");
    EXPECT_NE(big.error().found.find("MB"), std::string::npos);
    EXPECT_EQ(big.error().fault, Fault::file);
    EXPECT_EQ(save_design(test::pier_lantern(), folder / "no/such/folder.json").error().fault, Fault::file);
}

TEST(DesignFile, WritesAtomicallyAndLeavesNothingBehind) {
    test::TemporaryFolder folder;
    const auto path = folder / "a.elkit.json";
    ASSERT_TRUE(save_design(test::pier_lantern(), path));
    ASSERT_TRUE(save_design(test::coat_badge(), path));
    EXPECT_TRUE(load_design(path).value() == test::coat_badge());
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 1);
    // the target is a folder: the write fails, and no temporary file stays
    std::filesystem::create_directory(folder / "taken");
    EXPECT_FALSE(write_file(folder / "taken", "x"));
    EXPECT_EQ(std::distance(std::filesystem::directory_iterator(folder.path()), {}), 2);
}

TEST(Schema, AgreesWithTheReader) {
    EXPECT_TRUE(schema_errors(embedded::demo_pier_lantern).empty());
    EXPECT_TRUE(schema_errors(write_design(test::coat_badge())).empty());
    EXPECT_FALSE(schema_errors(with("\"value\": 62", "\"value\": \"62\"")).empty());
    EXPECT_FALSE(schema_errors(with("\"kind\": \"switch\"", "\"kind\": \"lever\"")).empty());
    const auto errors = schema_errors(with("\"run_time_h\": 84", "\"run_time_h\": true"));
    ASSERT_FALSE(errors.empty());
    EXPECT_EQ(errors.front().place, "/brief/run_time_h");
}

}  // namespace
}  // namespace elkit
