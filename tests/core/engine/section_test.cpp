// Where a cycle begins, and how far it is from closing.
#include "engine/section.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "support/circuits.hpp"

namespace elkit::test {
namespace {

System blinker() { return System::build(astable(5, 10e3, 47e3, 1e-7), known_catalogue(), {}).value(); }

Window swinging(const System& s, double period, double swing, int cycles) {
    Window w(s);
    for (int k = 0; k <= 200 * cycles; ++k) {
        const double t = period * k / 200.0;
        std::vector<double> x(static_cast<std::size_t>(s.unknowns()) + 1, 1.0);
        x[2] = 2 + swing / 2 * std::sin(2 * std::numbers::pi * t / period);
        w.note(t, x);
    }
    return w;
}

TEST(Section, IsTheNetWithTheWidestSwing) {
    const System s = blinker();
    Section section;
    ASSERT_TRUE(find_section(swinging(s, 1e-3, 2, 8), s, section));
    EXPECT_EQ(section.unknown, 2);
    EXPECT_EQ(section.monitor, s.monitors());
    EXPECT_NEAR(section.level, 2, 0.02);
    EXPECT_NEAR(section.period, 1e-3, 1e-5);
}

TEST(Section, IsNotFoundInWhatStandsOrHardlyMoves) {
    const System s = blinker();
    Section section;
    EXPECT_FALSE(find_section(swinging(s, 1e-3, 0, 8), s, section));
    EXPECT_FALSE(find_section(swinging(s, 1e-3, 1e-3, 8), s, section)) << "a millivolt is no cycle";
    EXPECT_FALSE(find_section(swinging(s, 1e-3, 2, 1), s, section)) << "once is not again";
}

TEST(Section, PrefersALatchThatFiresInAnEvenBeat) {
    const System s = blinker();
    Window w = swinging(s, 1e-3, 2, 8);
    for (int k = 0; k < 12; ++k) w.events.emplace_back(0.25e-3 + 0.5e-3 * k, 0);
    Section section;
    ASSERT_TRUE(find_section(w, s, section));
    EXPECT_EQ(section.monitor, 0);
    EXPECT_NEAR(section.period, 1e-3, 1e-4) << "set and reset make one cycle";
}

TEST(Closure, IsTheLargestDriftAgainstWhatEachRowHasCarried) {
    std::vector<double> scale;
    EXPECT_EQ(closure({0, 1e-6, 2e-6}, {0, 1e-6, 2e-6}, scale), 0);
    EXPECT_NEAR(closure({0, 1e-6, 2e-6}, {0, 1.1e-6, 2e-6}, scale), 0.1 / 1.1, 1e-9);
    EXPECT_NEAR(closure({0, 0, 2e-6}, {0, 1e-8, 2e-6}, scale), 1e-8 / 1.1e-6, 1e-9)
        << "it remembers the largest";
    std::vector<double> fresh;
    EXPECT_EQ(closure({0, 1e-25, 1}, {0, 2e-25, 1}, fresh), 0)
        << "what carries next to nothing does not count";
}

}  // namespace
}  // namespace elkit::test
