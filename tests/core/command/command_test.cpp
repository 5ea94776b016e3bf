#include "command/command.hpp"

#include <gtest/gtest.h>

#include "command/suggestions.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

const std::vector<ActionName> names{{"light", "Light", true},
                                    {"power", "Power", true},
                                    {"undo", "Undo"},
                                    {"leaflet", "Write the kit leaflet (PDF)"}};

Result<Command> parse(const std::string& text) {
    return parse_command(text, test::pier_lantern(), {}, names);
}

TEST(Command, GoesToStationsAndRunsActions) {
    EXPECT_EQ(parse("power").value().id, "power");
    EXPECT_EQ(parse("go light").value().kind, Command::Kind::station);
    EXPECT_EQ(parse("Undo").value().kind, Command::Kind::action);
    EXPECT_EQ(parse("write the kit leaflet (pdf)").value().id, "leaflet");
}

struct Edit {
    const char* text;
    const char* part;
    const char* key;
    double value;
};
class Edits : public ::testing::TestWithParam<Edit> {};

TEST_P(Edits, ChangeOneParameter) {
    const auto& e = GetParam();
    const auto c = parse(e.text);
    ASSERT_TRUE(c) << e.text << ": " << c.error().text();
    ASSERT_TRUE(c.value().design);
    EXPECT_NEAR(c.value().design->circuit.find(e.part)->number(e.key), e.value, 1e-12);
    EXPECT_NE(c.value().preview.find("→"), std::string::npos);
}

INSTANTIATE_TEST_SUITE_P(
    Words, Edits,
    ::testing::Values(Edit{"r1 = 82", "R1", "value", 82}, Edit{"R1 4k7", "R1", "value", 4700},
                      Edit{"r1=82", "R1", "value", 82}, Edit{"r2 tolerance 1%", "R2", "tolerance", 0.01},
                      Edit{"r2 tolerance = 0.02", "R2", "tolerance", 0.02},
                      Edit{"r1 rating 1/2 W", "R1", "rating", 0.5}, Edit{"b1 count 4", "B1", "count", 4},
                      Edit{"b1 lead length 30 cm", "B1", "lead_length", 0.3},
                      Edit{"b1 lead_length 300mm", "B1", "lead_length", 0.3},
                      Edit{"cells = 4", "B1", "count", 4}));

TEST(Command, ChangesTypesAndGoals) {
    EXPECT_EQ(parse("l1 = red").value().design->circuit.find("L1")->text("type"), "red-5mm");
    EXPECT_EQ(parse("b1 = lr03").value().design->circuit.find("B1")->text("cell"), "LR03");
    EXPECT_EQ(parse("led red").value().design->circuit.find("L4")->text("type"), "red-5mm");
    EXPECT_EQ(parse("kits = 60").value().design->brief.kits, 60);
    EXPECT_EQ(parse("run time 100 h").value().design->brief.run_time, 100);
    EXPECT_DOUBLE_EQ(test::goals_of(*parse("current = 8mA").value().design).number("current"), 0.008);
}

TEST(Command, TakesMeasuredPoints) {
    const auto c = parse("l1 points 5mA 1.98V; 20 mA 2.12");
    ASSERT_TRUE(c) << c.error().text();
    const PointList* points = c.value().design->circuit.find("L1")->points("points");
    ASSERT_NE(points, nullptr);
    EXPECT_EQ(points_text(*points), "5mA 1.98V; 20mA 2.12V");
    EXPECT_EQ(c.value().preview, "L1 measured points: none → 5mA 1.98V; 20mA 2.12V");
    for (const char* wrong :
         {"l1 points 5mA", "l1 points 1.98V 5mA", "l1 points -5mA 2V", "l1 points 5mA 2V; 20mA 1.8V"}) {
        const auto refused = parse(wrong);
        ASSERT_FALSE(refused) << wrong;
        EXPECT_FALSE(refused.error().expected.empty());
    }
}

TEST(Command, SetsConditions) {
    EXPECT_NEAR(parse("battery 62 %").value().conditions->battery, 0.62, 1e-12);
    EXPECT_NEAR(parse("temperature 41°F").value().conditions->celsius, 5, 1e-9);
    EXPECT_FALSE(parse("s1 off").value().conditions->switches.at("S1"));
}

TEST(Command, SaysWhatItDoesNotUnderstand) {
    for (const char* text : {"", "r9 = 3", "r1 = blue", "show r9", "battery 300 %", "current = -1",
                             "in series = 4", "l1 = pink", "cell = LR99", "r1 = 0"}) {
        const auto c = parse(text);
        ASSERT_FALSE(c) << text;
        EXPECT_FALSE(c.error().expected.empty()) << text;
    }
}

TEST(Command, CompletesFromTheDesign) {
    const auto lines = test::completed("r", test::pier_lantern(), names);
    ASSERT_FALSE(lines.empty());
    EXPECT_EQ(lines.front(), "R1 = 62\u00a0Ω");
    EXPECT_EQ(test::completed("pow", test::pier_lantern(), names).front(), "Power");
    for (const auto& line : test::completed("", test::pier_lantern(), names))
        EXPECT_TRUE(parse(line)) << line << ": every completion is itself understood";
}

TEST(Command, ShowsAPartOrANet) {
    EXPECT_EQ(parse("r1").value().id, "value:R1");
    EXPECT_EQ(parse("show L2").value().id, "value:L2");
    EXPECT_EQ(parse("show lamp").value().id, "net:LAMP");
    EXPECT_EQ(parse("show lamp").value().kind, Command::Kind::show);
    EXPECT_EQ(parse("r1 = 100").value().kind, Command::Kind::edit);
}

TEST(Suggestions, NearestLinesAreUnderstoodAndNear) {
    const Design d = test::pier_lantern();
    const auto all = sayable(d, names);
    for (const char* wrong :
         {"batery 40", "shw lamp", "pwoer", "temprature", "r11 = 4k7", "qqqqqqqqqqqqqqqq", ""}) {
        const auto near = nearest_lines(wrong, d, all);
        ASSERT_EQ(near.size(), 3u) << wrong;
        for (const auto& line : near) EXPECT_TRUE(parse(line)) << wrong << ": " << line;
    }
    EXPECT_EQ(nearest_lines("pwoer", d, all).front(), "Power");
    EXPECT_TRUE(nearest_lines("batery 40 %", d, all).front().starts_with("battery"));
    EXPECT_EQ(letters_apart("pwoer", "power"), 1u) << "two letters that changed places";
    EXPECT_EQ(letters_apart("", "abc"), 3u);
    EXPECT_EQ(letters_apart("kitten", "sitting"), 3u);
}

}  // namespace
}  // namespace elkit
