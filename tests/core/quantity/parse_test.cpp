#include "quantity/parse.hpp"

#include <gtest/gtest.h>

#include "quantity/format.hpp"

namespace elkit {
namespace {

struct Spelling {
    const char* text;
    Unit unit;
    double value;
};

class Parse : public ::testing::TestWithParam<Spelling> {};

TEST_P(Parse, UnderstandsWhatPeopleType) {
    const Spelling& c = GetParam();
    const auto parsed = parse_quantity(c.text, c.unit);
    ASSERT_TRUE(parsed) << c.text << ": " << parsed.error().text();
    EXPECT_NEAR(parsed.value(), c.value,
                1e-9 * std::max(1.0, std::abs(c.value)) * (c.value < 1e-3 ? 1e-6 : 1))
        << c.text;
}

INSTANTIATE_TEST_SUITE_P(
    Bench, Parse,
    ::testing::Values(Spelling{"4k7", Unit::ohm, 4700}, Spelling{"4.7k", Unit::ohm, 4700},
                      Spelling{"4,7k", Unit::ohm, 4700}, Spelling{"4700", Unit::ohm, 4700},
                      Spelling{"4R7", Unit::ohm, 4.7}, Spelling{"2M2", Unit::ohm, 2.2e6},
                      Spelling{"470R", Unit::ohm, 470}, Spelling{"75 Ω", Unit::ohm, 75},
                      Spelling{"1k ohm", Unit::ohm, 1000}, Spelling{"100n", Unit::farad, 100e-9},
                      Spelling{"0.1u", Unit::farad, 1e-7}, Spelling{"0.1µF", Unit::farad, 1e-7},
                      Spelling{"0.1 μF", Unit::farad, 1e-7}, Spelling{"15mA", Unit::ampere, 0.015},
                      Spelling{"15 m", Unit::ampere, 0.015}, Spelling{"3V3", Unit::volt, 3.3},
                      Spelling{"-1V5", Unit::volt, -1.5}, Spelling{"1/4 W", Unit::watt, 0.25},
                      Spelling{"250mW", Unit::watt, 0.25}, Spelling{"68°F", Unit::celsius, 20},
                      Spelling{"68F", Unit::celsius, 20}, Spelling{"21", Unit::celsius, 21},
                      Spelling{"−5 °C", Unit::celsius, -5}, Spelling{"300K", Unit::celsius, 26.85},
                      Spelling{"62 %", Unit::percent, 62}, Spelling{"60 h", Unit::hour, 60},
                      Spelling{"120mm", Unit::metre, 0.12}, Spelling{"0,14 mm²", Unit::square_metre, 0.14},
                      Spelling{"1e3", Unit::ohm, 1000}, Spelling{"40", Unit::count, 40},
                      Spelling{"10min", Unit::second, 600}, Spelling{"1.5 h", Unit::second, 5400},
                      Spelling{"20 ms", Unit::second, 0.02}, Spelling{"30 minutes", Unit::hour, 0.5},
                      Spelling{"3 days", Unit::hour, 72}, Spelling{"2 weeks", Unit::hour, 336},
                      Spelling{"90 s", Unit::hour, 0.025}, Spelling{"18 months", Unit::year, 1.5},
                      Spelling{"2500mAh", Unit::ampere_hour, 2.5}, Spelling{"4K7", Unit::ohm, 4700}));

TEST(Parse, ReadsBackTimesAsTheyAreShown) {
    for (const Unit unit : {Unit::hour, Unit::year, Unit::second})
        for (double value = 0.003; value < 5e4; value *= 1.37) {
            const std::string shown = format_quantity(value, unit, 6);
            const auto read = parse_quantity(shown, unit);
            ASSERT_TRUE(read) << shown;
            EXPECT_NEAR(read.value() / value, 1, 1e-4) << shown;
        }
}

class ParseRefuses : public ::testing::TestWithParam<Spelling> {};

TEST_P(ParseRefuses, SaysWhatWasExpected) {
    const auto parsed = parse_quantity(GetParam().text, GetParam().unit);
    ASSERT_FALSE(parsed) << GetParam().text << " read as " << parsed.value();
    EXPECT_EQ(parsed.error().fault, Fault::usage);
    EXPECT_NE(parsed.error().expected.find("such as"), std::string::npos);
    EXPECT_NE(parsed.error().found.find(GetParam().text), std::string::npos);
}

INSTANTIATE_TEST_SUITE_P(Bench, ParseRefuses,
                         ::testing::Values(Spelling{"", Unit::ohm, 0}, Spelling{"abc", Unit::ohm, 0},
                                           Spelling{"4k7k", Unit::ohm, 0}, Spelling{"12 V", Unit::ohm, 0},
                                           Spelling{"15mA", Unit::volt, 0}, Spelling{"1/0", Unit::watt, 0},
                                           Spelling{"--3", Unit::volt, 0}, Spelling{"5k", Unit::celsius, 0},
                                           Spelling{"1e999", Unit::ohm, 0}, Spelling{"nan", Unit::ohm, 0},
                                           Spelling{"4..7", Unit::ohm, 0}, Spelling{"3 moons", Unit::hour, 0},
                                           Spelling{"1e306 years", Unit::hour, 0},
                                           Spelling{"3 days", Unit::volt, 0}));

}  // namespace
}  // namespace elkit
