#include "catalogue/catalogue.hpp"

#include <gtest/gtest.h>

#include "embedded.hpp"

namespace elkit {
namespace {

TEST(Catalogue, IsConsistent) {
    const Catalogue& c = known_catalogue();
    EXPECT_GE(c.cells.size(), 10u);
    for (const auto& cell : c.cells) {
        EXPECT_FALSE(cell.source.empty()) << cell.id << ": every stored number names its source";
        for (std::size_t i = 1; i < cell.open_circuit.points.size(); ++i) {
            EXPECT_GT(cell.open_circuit.points[i].x, cell.open_circuit.points[i - 1].x) << cell.id;
            EXPECT_GE(cell.open_circuit.points[i].y, cell.open_circuit.points[i - 1].y)
                << cell.id << ": voltage falls as it empties";
        }
        EXPECT_GE(cell.resistance.at(0), cell.resistance.at(1)) << cell.id;
        EXPECT_NEAR(cell.resistance_factor.at(21), 1, 1e-9) << cell.id;
        EXPECT_LT(cell.cutoff, cell.open_circuit.at(1)) << cell.id;
    }
    for (const auto& led : c.leds) {
        EXPECT_LT(led.vf_low, led.vf_typical) << led.id;
        EXPECT_LT(led.vf_typical, led.vf_high) << led.id;
        EXPECT_EQ(led.rgb.size(), 7u) << led.id;
    }
}

TEST(Catalogue, LosesCapacityAtHighRate) {
    const CellType& lr6 = *known_catalogue().cell("LR6");
    EXPECT_NEAR(lr6.usable_charge(0.02, 21), 2.5, 1e-9);
    EXPECT_NEAR(lr6.usable_charge(0.5, 21), 1.5, 1e-9);
    EXPECT_LT(lr6.usable_charge(0.15, 21), 2.5);
    EXPECT_LT(lr6.usable_charge(0.02, -20), 1.0);
}

TEST(Catalogue, NamesWhatIsMissing) {
    std::string text(embedded::catalogue);
    text.replace(text.find("\"cutoff\""), 8, "\"kutoff\"");
    const auto broken = read_catalogue(text);
    ASSERT_FALSE(broken);
    EXPECT_NE(broken.error().found.find("cutoff"), std::string::npos);
}

TEST(Curve, IsStraightBetweenPointsAndFlatOutside) {
    const Curve c{{{0, 1}, {2, 5}}};
    EXPECT_DOUBLE_EQ(c.at(1), 3);
    EXPECT_DOUBLE_EQ(c.at(-9), 1);
    EXPECT_DOUBLE_EQ(c.at(9), 5);
    const Curve decades{{{0.01, 10}, {1, 30}}};
    EXPECT_NEAR(decades.at_log(0.1), 20, 1e-12);
}

}  // namespace
}  // namespace elkit
