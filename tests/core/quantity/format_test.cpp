#include "quantity/format.hpp"

#include <gtest/gtest.h>

#include <cmath>

#include "quantity/parse.hpp"

namespace elkit {
namespace {

std::string plain(double v, Unit u) {
    std::string s = format_quantity(v, u);
    for (std::size_t at; (at = s.find("\u00a0")) != std::string::npos;) s.replace(at, 2, " ");
    return s;
}

TEST(Format, UsesEngineeringPrefixesAndThreeDigits) {
    EXPECT_EQ(plain(0.0152, Unit::ampere), "15.2 mA");
    EXPECT_EQ(plain(0.00046, Unit::ampere), "460 µA");
    EXPECT_EQ(plain(4700, Unit::ohm), "4.7 kΩ");
    EXPECT_EQ(plain(75, Unit::ohm), "75 Ω");
    EXPECT_EQ(plain(100e-9, Unit::farad), "100 nF");
    EXPECT_EQ(plain(4.789, Unit::volt), "4.79 V");
    EXPECT_EQ(plain(0.45, Unit::volt), "0.450 V");
    EXPECT_EQ(plain(62.4, Unit::hour), "62.4 h");
    EXPECT_EQ(plain(162.4, Unit::hour), "6.77 days");
    EXPECT_EQ(plain(0.25, Unit::hour), "15.0 min");
    EXPECT_EQ(plain(1500, Unit::hour), "8.93 weeks");
    EXPECT_EQ(plain(6000, Unit::hour), "8.21 months");
    EXPECT_EQ(plain(40000, Unit::hour), "4.56 years");
    EXPECT_EQ(plain(0.25, Unit::year), "3.00 months");
    EXPECT_EQ(plain(73.2, Unit::percent), "73 %");
    EXPECT_EQ(plain(2.784, Unit::money), "2.78");
    EXPECT_EQ(plain(40, Unit::count), "40");
}

TEST(Format, RoundsBeforeChoosingThePrefix) {
    EXPECT_EQ(plain(999.7e-6, Unit::ampere), "1.00 mA");
    EXPECT_EQ(plain(999.6, Unit::ohm), "1 kΩ");
}

TEST(Format, SaysZeroBelowWhatContactsLeak) { EXPECT_EQ(plain(3e-12, Unit::ampere), "0.00 A"); }

TEST(Format, ShowsTheSpreadInTheUnitOfTheValue) {
    EXPECT_EQ(format_range(0.0131, 0.0170, 0.0152, Unit::ampere), "13.1–17.0");
    EXPECT_EQ(format_range(57.2, 110, 62, Unit::hour), "57.2–110");
}

TEST(Format, WritesInfinityAsASign) {
    EXPECT_EQ(plain(std::numeric_limits<double>::infinity(), Unit::hour), "∞ h");
}

TEST(Format, ReadsBackToTheSameNumberWithinItsDigits) {
    for (const Unit unit : {Unit::ohm, Unit::ampere, Unit::volt, Unit::farad, Unit::watt})
        for (double v = 1.234e-9; v < 1e8; v *= 7.7) {
            if (unit == Unit::ampere && v < 1e-9) continue;
            const auto back = parse_quantity(format_quantity(v, unit), unit);
            ASSERT_TRUE(back) << format_quantity(v, unit);
            EXPECT_NEAR(back.value() / v, 1, unit == Unit::ohm && v < 1e-3 ? 1 : 0.006)
                << format_quantity(v, unit);
        }
}

}  // namespace
}  // namespace elkit
