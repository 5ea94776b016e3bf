#include "circuit/connectivity.hpp"

#include <gtest/gtest.h>

#include "circuit/part_kind.hpp"
#include "support/designs.hpp"

namespace elkit {
namespace {
using test::led, test::resistor, test::supply;

Part closed_switch(const std::string& a, const std::string& b) {
    return {"S1", "switch", {}, {{"a", a}, {"b", b}}, {}};
}

TEST(Connectivity, AcceptsTheDemos) {
    EXPECT_TRUE(connectivity_errors(test::pier_lantern().circuit).empty());
    EXPECT_TRUE(connectivity_errors(test::coat_badge().circuit).empty());
}

TEST(Connectivity, NamesWhatIsWrong) {
    EXPECT_EQ(connectivity_errors({}).at(0).place, "circuit");
    EXPECT_EQ(connectivity_errors({{resistor("R1", "A", "B", 1)}}).at(0).found, "nothing feeds it");
    EXPECT_EQ(connectivity_errors(
                  {{supply("V", "0", 5, 1), resistor("R1", "V", "X", 1), resistor("R2", "V", "0", 1)}})
                  .at(0)
                  .place,
              "net X");
    EXPECT_EQ(connectivity_errors(
                  {{supply("V", "0", 5, 1), resistor("R1", "V", "V", 1), resistor("R2", "V", "0", 1)}})
                  .at(0)
                  .place,
              "part R1");
    const auto shorted = connectivity_errors({{supply("V", "0", 5, 1), closed_switch("V", "0")}});
    ASSERT_FALSE(shorted.empty());
    EXPECT_NE(shorted.back().found.find("shorted through S1"), std::string::npos);
    const auto island = connectivity_errors({{supply("V", "0", 5, 1), resistor("R1", "V", "0", 1),
                                              resistor("R2", "P", "Q", 1), resistor("R3", "P", "Q", 1)}});
    ASSERT_EQ(island.size(), 2u);
    EXPECT_NE(island[0].found.find("no path"), std::string::npos);
}

TEST(Chains, FollowPartsInARow) {
    const Design lantern = test::pier_lantern();
    std::size_t strings = 0, parts = 0;
    for (const Chain& chain : chains(lantern.circuit)) {
        parts += chain.parts.size();
        if (chain.count(Role::light) == 2) {
            ++strings;
            EXPECT_EQ(chain.parts.size(), 3u);
            EXPECT_EQ(chain.count(Role::resistor), 1u);
            EXPECT_EQ(chain.to, "GND");
        }
    }
    EXPECT_EQ(strings, 2u);
    EXPECT_EQ(parts, lantern.circuit.parts.size() - 1) << "every part but the battery stands in one chain";
}

TEST(PartKind, GivesDefaultsAndValues) {
    Part r = resistor("R1", "A", "B", 4700);
    EXPECT_EQ(r.number("tolerance"), 0.05);
    EXPECT_EQ(value_text(r), "4.7\u00a0kΩ");
    r.params.clear();
    EXPECT_EQ(r.number("value"), 1000);
    EXPECT_EQ(r.number("no such"), 0);
    EXPECT_EQ(value_text(*test::pier_lantern().circuit.find("B1")), "3 × LR6");
}

TEST(Circuit, FindsFreeDesignators) {
    const Circuit c = test::pier_lantern().circuit;
    EXPECT_EQ(c.free_designator("R"), "R3");
    EXPECT_EQ(c.free_designator("D"), "D1");
    EXPECT_EQ(c.negative_rail(), "GND");
}

}  // namespace
}  // namespace elkit
