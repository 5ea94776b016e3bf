#include "quantity/preferred.hpp"

#include <gtest/gtest.h>

#include <cmath>

namespace elkit {
namespace {

TEST(Preferred, SeriesHaveTheMembersOfIec60063) {
    EXPECT_EQ(decade(Series::e3), (std::vector<double>{1.0, 2.2, 4.7}));
    EXPECT_EQ(decade(Series::e6), (std::vector<double>{1.0, 1.5, 2.2, 3.3, 4.7, 6.8}));
    EXPECT_EQ(decade(Series::e12),
              (std::vector<double>{1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2}));
    for (const Series s : {Series::e3, Series::e24, Series::e48, Series::e96, Series::e192})
        EXPECT_EQ(decade(s).size(), static_cast<std::size_t>(s));
    const auto& e96 = decade(Series::e96);
    for (const double v : {1.02, 3.16, 4.99, 9.76})
        EXPECT_NE(std::find_if(e96.begin(), e96.end(), [v](double m) { return std::abs(m - v) < 1e-9; }),
                  e96.end())
            << v;
    const auto& e192 = decade(Series::e192);
    EXPECT_NE(std::find(e192.begin(), e192.end(), 9.20), e192.end());
}

TEST(Preferred, RoundsByBothSchools) {
    EXPECT_DOUBLE_EQ(nearest_preferred(73.3, Series::e24), 75);
    EXPECT_DOUBLE_EQ(nearest_preferred(71, Series::e24), 68);
    EXPECT_DOUBLE_EQ(preferred_at_least(73.3, Series::e12), 82);
    EXPECT_DOUBLE_EQ(preferred_at_most(73.3, Series::e12), 68);
    EXPECT_DOUBLE_EQ(preferred_at_least(9.5, Series::e24), 10);
    EXPECT_DOUBLE_EQ(preferred_at_least(75, Series::e24), 75);
}

TEST(Preferred, NeighboursEncloseEveryValue) {
    for (double v = 0.11; v < 9e6; v *= 1.137)
        for (const Series s : {Series::e3, Series::e12, Series::e96}) {
            const double low = preferred_at_most(v, s), high = preferred_at_least(v, s),
                         near = nearest_preferred(v, s);
            EXPECT_LE(low, v * (1 + 1e-9));
            EXPECT_GE(high, v * (1 - 1e-9));
            EXPECT_TRUE(std::abs(near / low - 1) < 1e-9 || std::abs(near / high - 1) < 1e-9);
        }
}

std::string bands(double ohms, double tolerance) {
    const auto b = colour_bands(ohms, tolerance);
    std::string text;
    if (b)
        for (const auto& n : b.value().names) text += (text.empty() ? "" : " ") + n;
    return text;
}

TEST(ColourBands, FollowIec60062) {
    EXPECT_EQ(bands(4700, 0.05), "yellow violet red gold");
    EXPECT_EQ(bands(62, 0.05), "blue red black gold");
    EXPECT_EQ(bands(4.7, 0.05), "yellow violet gold gold");
    EXPECT_EQ(bands(0.47, 0.1), "yellow violet silver silver");
    EXPECT_EQ(bands(4990, 0.01), "yellow white white brown brown");
    EXPECT_EQ(bands(10e6, 0.05), "brown black blue gold");
    EXPECT_EQ(bands(1000, 0.02), "brown black red red");
}

TEST(ColourBands, RefuseWhatNoBandCanSay) {
    EXPECT_FALSE(colour_bands(0.01, 0.05));
    EXPECT_FALSE(colour_bands(1e12, 0.05));
    EXPECT_FALSE(colour_bands(std::nan(""), 0.05));
}

TEST(CapacitorCode, CountsInPicofarad) {
    EXPECT_EQ(capacitor_code(100e-9), "104");
    EXPECT_EQ(capacitor_code(4.7e-9), "472");
    EXPECT_EQ(capacitor_code(22e-12), "220");
    EXPECT_EQ(capacitor_code(10e-6), "106");
}

TEST(Rating, IsTheNextCommonOne) {
    EXPECT_DOUBLE_EQ(resistor_rating_at_least(0.02), 0.125);
    EXPECT_DOUBLE_EQ(resistor_rating_at_least(0.26), 0.5);
    EXPECT_TRUE(std::isinf(resistor_rating_at_least(6)));
}

}  // namespace
}  // namespace elkit
