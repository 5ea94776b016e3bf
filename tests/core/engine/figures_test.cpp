#include "engine/figures.hpp"

#include <gtest/gtest.h>

#include "support/designs.hpp"

namespace elkit {
namespace {

TEST(Figures, PowerIsVoltageTimesCurrent) {
    const Design d = test::pier_lantern();
    const auto op = test::solve(d.circuit);
    const Figure f = power_figure(d.circuit, op, "R1");
    EXPECT_DOUBLE_EQ(f.value, op.part("R1").voltage * op.part("R1").current);
    ASSERT_EQ(f.working.size(), 2u);
    EXPECT_NE(f.working[1].find(f.text()), std::string::npos);
    EXPECT_LT(power_figure(d.circuit, op, "B1").value, 0) << "a battery gives";
}

TEST(Figures, ANetNamesEveryCurrentThatMeetsThere) {
    const Design d = test::pier_lantern();
    const auto op = test::solve(d.circuit);
    const Figure f = voltage_figure(d.circuit, op, "LAMP");
    EXPECT_DOUBLE_EQ(f.value, op.voltage("LAMP"));
    ASSERT_EQ(f.working.size(), 4u) << "the switch and two resistors";
    EXPECT_NE(f.working[1].find("S1 b: −"), std::string::npos)
        << "the switch brings what the strings take: " << f.working[1];
    EXPECT_NE(f.working[2].find("R1 a: 1"), std::string::npos);
}

}  // namespace
}  // namespace elkit
