// The one-cell booster against the engine and against its closed forms.
#include <gtest/gtest.h>

#include <cmath>

#include "review/findings.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::made;
using test::Said;
using test::sweep;

TEST(CellBooster, GivesTheLightAskedForOrSaysThatItCannot) {
    std::vector<Said> all;
    for (const auto& [led, count] :
         {std::pair("white-5mm", 1.0), std::pair("red-5mm", 1.0), std::pair("green-5mm", 3.0)})
        for (Said said : combined(
                 {{"current", {0.002, 0.008, 0.025, 0.2}}, {"core", {"ring-10"s, "ring-6"s, "bobbin-8"s}}})) {
            said["led"] = std::string(led), said["count"] = said["per_string"] = count;
            all.push_back(said);
        }
    const auto swept = sweep("cell-booster", all);
    EXPECT_GT(swept.met, 18);
    EXPECT_GT(swept.refused.size(), 6u) << "no such core gives 200 mA";
}

TEST(CellBooster, PeakAndWireAreThoseOfTheClosedForms) {
    const Design d = made("cell-booster", {{"current", 0.008}, {"turns", 16.0}}).value();
    const auto sized = sized_block(d, 0).value();
    const Part& core = *d.circuit.find(d.blocks[0].parts.at("Tboost"));
    EXPECT_EQ(core.number("turns2"), 16);
    // by hand: I = ½ Ip V/Vl, a white LED of some 3 V at 1.6 V, 15 % lost: 2 × 8 mA × 3/1.6/0.85
    EXPECT_NEAR(sized.results[0].value, 0.0353, 0.002);
    EXPECT_NEAR(sized.results[1].value, 16 * 0.014 + 0.1, 1e-9);
    EXPECT_NEAR(core.number("wire_resistance"), 1.75e-8 * 0.014 / (M_PI * 0.00015 * 0.00015), 2e-5);
}

TEST(CellBooster, OfTwoCellsOrTwoStringsIsRefusedWithTheReason) {
    EXPECT_FALSE(made("cell-booster", {{"cells", 2.0}, {"led", "red-5mm"s}})) << "they light it without";
    const auto two = made("cell-booster", {{"count", 2.0}, {"per_string", 1.0}});
    ASSERT_FALSE(two);
    EXPECT_NE(two.error().found.find("unequally"), std::string::npos);
    const auto many = made("cell-booster", {{"turns", 100.0}, {"current", 0.01}, {"core", "ring-10"s}});
    ASSERT_FALSE(many);
    EXPECT_NE(many.error().found.find("saturates"), std::string::npos);
}

}  // namespace
}  // namespace elkit
