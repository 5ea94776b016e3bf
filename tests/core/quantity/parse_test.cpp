#include "quantity/parse.hpp"

#include <gtest/gtest.h>

namespace elkit {
namespace {

struct Case {
    const char* text;
    Unit unit;
    double value;
};

class Parse : public ::testing::TestWithParam<Case> {};

TEST_P(Parse, UnderstandsWhatPeopleType) {
    const Case& c = GetParam();
    const auto parsed = parse_quantity(c.text, c.unit);
    ASSERT_TRUE(parsed) << c.text << ": " << parsed.error().text();
    EXPECT_NEAR(parsed.value(), c.value,
                1e-9 * std::max(1.0, std::abs(c.value)) * (c.value < 1e-3 ? 1e-6 : 1))
        << c.text;
}

INSTANTIATE_TEST_SUITE_P(
    Bench, Parse,
    ::testing::Values(
        Case{"4k7", Unit::ohm, 4700}, Case{"4.7k", Unit::ohm, 4700}, Case{"4,7k", Unit::ohm, 4700},
        Case{"4700", Unit::ohm, 4700}, Case{"4R7", Unit::ohm, 4.7}, Case{"2M2", Unit::ohm, 2.2e6},
        Case{"470R", Unit::ohm, 470}, Case{"75 Ω", Unit::ohm, 75}, Case{"1k ohm", Unit::ohm, 1000},
        Case{"100n", Unit::farad, 100e-9}, Case{"0.1u", Unit::farad, 1e-7}, Case{"0.1µF", Unit::farad, 1e-7},
        Case{"0.1 μF", Unit::farad, 1e-7}, Case{"15mA", Unit::ampere, 0.015},
        Case{"15 m", Unit::ampere, 0.015}, Case{"3V3", Unit::volt, 3.3}, Case{"-1V5", Unit::volt, -1.5},
        Case{"1/4 W", Unit::watt, 0.25}, Case{"250mW", Unit::watt, 0.25}, Case{"68°F", Unit::celsius, 20},
        Case{"68F", Unit::celsius, 20}, Case{"21", Unit::celsius, 21}, Case{"−5 °C", Unit::celsius, -5},
        Case{"300K", Unit::celsius, 26.85}, Case{"62 %", Unit::percent, 62}, Case{"60 h", Unit::hour, 60},
        Case{"120mm", Unit::metre, 0.12}, Case{"0,14 mm²", Unit::square_metre, 0.14},
        Case{"1e3", Unit::ohm, 1000}, Case{"40", Unit::count, 40}, Case{"2500mAh", Unit::ampere_hour, 2.5},
        Case{"4K7", Unit::ohm, 4700}));

class ParseRefuses : public ::testing::TestWithParam<Case> {};

TEST_P(ParseRefuses, SaysWhatWasExpected) {
    const auto parsed = parse_quantity(GetParam().text, GetParam().unit);
    ASSERT_FALSE(parsed) << GetParam().text << " read as " << parsed.value();
    EXPECT_EQ(parsed.error().fault, Fault::usage);
    EXPECT_NE(parsed.error().expected.find("such as"), std::string::npos);
    EXPECT_NE(parsed.error().found.find(GetParam().text), std::string::npos);
}

INSTANTIATE_TEST_SUITE_P(Bench, ParseRefuses,
                         ::testing::Values(Case{"", Unit::ohm, 0}, Case{"abc", Unit::ohm, 0},
                                           Case{"4k7k", Unit::ohm, 0}, Case{"12 V", Unit::ohm, 0},
                                           Case{"15mA", Unit::volt, 0}, Case{"1/0", Unit::watt, 0},
                                           Case{"--3", Unit::volt, 0}, Case{"5k", Unit::celsius, 0},
                                           Case{"1e999", Unit::ohm, 0}, Case{"nan", Unit::ohm, 0},
                                           Case{"4..7", Unit::ohm, 0}));

}  // namespace
}  // namespace elkit
