// Parts of one's own. What is taken up stays for the whole test program, so each test uses ids of its own.
#include "command/own_parts.hpp"

#include <gtest/gtest.h>

#include <fstream>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "engine/operating_point.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "words/described_part.hpp"

namespace elkit::test {
namespace {

std::string led(const std::string& id, const std::string& vf) {
    return R"({"leds": [{"id": ")" + id +
           R"(", "name": "lilac 8 mm LED", "rgb": "#b090ff", "vf_low": 2.8, "vf_typical": )" + vf +
           R"(, "vf_high": 3.6, "test_current": 0.01, "emission": 3, "series_resistance": 8, "intensity_mcd": 900,
            "max_current": 0.02, "reverse_voltage": 5, "diameter_mm": 8, "tempco": -0.002, "visible": true,
            "caution": "", "source": "measured"}]})";
}

TEST(OwnParts, AreUsedLikeTheOthersAndShownAsOwn) {
    const auto taken = take_up_own_parts(std::string_view(led("lilac-8mm", "3.1")));
    ASSERT_TRUE(taken) << taken.error().text();
    EXPECT_EQ(taken.value().types, 1u);
    EXPECT_EQ(known_catalogue().name_of("led", "lilac-8mm"), "lilac 8 mm LED (own)");
    const Circuit c = circuit({"supply PS1 +=V+ -=GND voltage=5 resistance=0",
                               "resistor R1 a=V+ b=A value=190", "led L1 a=A k=GND type=lilac-8mm"});
    const auto op = operating_point(c, known_catalogue(), {});
    ASSERT_TRUE(op) << op.error().text();
    EXPECT_NEAR(op.value().voltage("A"), 3.1, 0.03);
    const auto said = described_part("lilac led from v+ to x", c);
    ASSERT_TRUE(said && said.value()) << said.error().text();
    EXPECT_EQ(said.value()->text("type"), "lilac-8mm");
    EXPECT_FALSE(take_up_own_parts(std::string_view(led("lilac-8mm", "3.1")))) << "an id is taken once";
    EXPECT_FALSE(take_up_own_parts(std::string_view(led("red-5mm", "2"))));
}

TEST(OwnParts, HoldModulesAndWords) {
    const auto taken = take_up_own_parts(std::string_view(R"({
        "modules": [{"id": "shed-lamp", "name": "lamp of the shed", "pins": ["plus", "minus"], "goes_on": "always",
                     "supply": {"plus": "plus", "minus": "minus"}, "values": {"active_current": 0.05, "lowest_supply": 3},
                     "source": "measured"}],
        "words": [{"say": "glow box", "means": "shed-lamp"}]})"));
    ASSERT_TRUE(taken) << taken.error().text();
    const PartKind* kind = part_kind("shed-lamp");
    ASSERT_NE(kind, nullptr);
    EXPECT_TRUE(kind->own);
    const auto said = described_part("glow box plus V+ minus GND", Circuit{});
    ASSERT_TRUE(said && said.value()) << said.error().text();
    EXPECT_EQ(said.value()->kind, "shed-lamp");
}

struct Bad {
    const char *json, *told;
};
class BadOwnParts : public ::testing::TestWithParam<Bad> {};
TEST_P(BadOwnParts, AreToldAndNothingIsTakenUp) {
    const std::size_t kinds = part_kinds().size(), leds = known_catalogue().leds.size();
    const auto taken = take_up_own_parts(std::string_view(GetParam().json));
    ASSERT_FALSE(taken) << GetParam().json;
    EXPECT_NE(taken.error().text().find(GetParam().told), std::string::npos) << taken.error().text();
    EXPECT_EQ(part_kinds().size(), kinds);
    EXPECT_EQ(known_catalogue().leds.size(), leds);
}
INSTANTIATE_TEST_SUITE_P(
    Files, BadOwnParts,
    ::testing::Values(
        Bad{R"({"types": [{"kind": "npn", "id": "q", "name": "q", "source": "", "values": {"gain": -5}}]})",
            "gain is -5"},
        Bad{R"({"types": [{"kind": "npn", "id": "q", "name": "q", "source": "", "values": {"wings": 2}}]})",
            "wings"},
        Bad{R"({"modules": [{"id": "glow", "name": "x", "pins": ["p", "q"], "goes_on": "always", "light": "pink",
               "supply": {"plus": "p", "minus": "q"}, "source": ""}]})",
            "pink"},
        Bad{R"({"cells": [{"id": "odd", "name": "odd", "chemistry": "alkaline", "open_circuit": [[0, 1], [1, 1.5]],
               "resistance": [[0, 1], [1, 2]], "capacity": [[0.1, 2], [0.05, 3]], "max_current": 0.1,
               "self_discharge_per_year": 0.03, "mass_g": 1, "price": 0, "cutoff": 0.8, "limits_itself": false,
               "size_mm": [1, 1], "source": ""}]})",
            "falls back"},
        Bad{R"({"cells": [{"id": "odd", "name": "odd", "chemistry": "alkaline", "open_circuit": [[0, 1], [1, 1.5]],
               "resistance": [[0, 1], [1, 2]], "capacity": [], "max_current": 0.1, "sag": [[-3, 10]],
               "self_discharge_per_year": 0.03, "mass_g": 1, "price": 0, "cutoff": 0.8, "limits_itself": false,
               "size_mm": [1, 1], "source": ""}]})",
            "sag is -3"},
        Bad{R"({"modules": [{"id": "a b", "name": "x", "pins": ["p", "q"], "goes_on": "always",
                "supply": {"plus": "p", "minus": "q"}}]})",
            "no plain word"},
        Bad{R"({"modules": [{"id": "ab", "name": "x", "pins": ["p", "p"], "goes_on": "always",
                "supply": {"plus": "p", "minus": "p"}}]})",
            "there twice"},
        Bad{R"({"modules": [{"id": "ab", "name": "x", "pins": ["p", "q"], "goes_on": "always",
                "supply": {"plus": "p", "minus": "q"}, "outputs": [{"pin": "p", "gives": "both"}]}]})",
            "two things at once"},

        Bad{"", "no JSON object"}, Bad{"[]", "no JSON object"}, Bad{R"({"lamps": []})", "lamps"},
        Bad{R"({"leds": [{"id": "x"}]})", "leds, entry 1 (x)"}, Bad{R"({"leds": 3})", "leds"},
        Bad{R"({"types": [{"kind": "wing", "id": "w", "name": "w", "source": "", "values": {}}]})", "wing"},
        Bad{R"({"words": [{"say": "x"}]})", "means"},
        Bad{R"({"modules": [{"id": "led"}]})", "modules, entry 1"}));

TEST(OwnParts, OfImpossibleNumbersAreTold) {
    const auto taken = take_up_own_parts(std::string_view(led("x-1", "-3")));
    ASSERT_FALSE(taken);
    EXPECT_NE(taken.error().text().find("vf_typical is -3"), std::string::npos) << taken.error().text();
}

TEST(OwnParts, OfAFileNameIt) {
    const TemporaryFolder folder;
    EXPECT_TRUE(take_up_own_parts_of(folder.path() / "none.json")) << "no file, no own parts";
    std::ofstream(folder.path() / "own-parts.json") << "{\"leds\": 1}";
    const auto taken = take_up_own_parts_of(folder.path() / "own-parts.json");
    ASSERT_FALSE(taken);
    EXPECT_NE(taken.error().place.find("own-parts.json: leds"), std::string::npos);
}

}  // namespace
}  // namespace elkit::test
