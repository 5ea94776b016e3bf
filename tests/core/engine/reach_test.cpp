#include "engine/reach.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>

namespace elkit {
namespace {

struct Function {
    std::function<double(double)> f, slope;
};

/// Where Newton's method ends from `x` after `rounds`, with or without shortened steps.
double newton(const Function& curve, double x, int rounds, bool shortened) {
    Reach reach;
    for (int k = 0; k < rounds; ++k) {
        const std::vector<double> step{-curve.f(x) / curve.slope(x)};
        x += step[0] * (shortened ? reach.share(step, {1}, std::abs(step[0])) : 1);
    }
    return x;
}

TEST(Reach, ClosesInWhereNewtonGoesToAndFroForEver) {
    const Function saturating{[](double x) { return std::tanh(x) + 0.01 * x; },
                              [](double x) { return 0.01 + 1 / std::pow(std::cosh(x), 2); }};
    EXPECT_GT(std::abs(newton(saturating, 20, 60, false)), 1) << "the plain method does not settle here";
    EXPECT_NEAR(newton(saturating, 20, 60, true), 0, 1e-9);
    // flat on both sides of a steep piece of 10 mV
    const auto side = [](double x) { return x < 1 ? -1.0 : x > 1.01 ? 1.0 : 0.0; };
    const Function corner{
        [&](double x) { return side(x) != 0 ? 0.04 * side(x) + 1e-3 * (x - 1.005) : 8.001 * (x - 1.005); },
        [&](double x) { return side(x) != 0 ? 1e-3 : 8.001; }};
    EXPECT_GT(std::abs(newton(corner, 30, 60, false) - 1.005), 1);
    EXPECT_NEAR(newton(corner, 30, 60, true), 1.005, 1e-9);
}

TEST(Reach, LeavesStepsAloneThatGrowSmallerByThemselves) {
    Reach reach;
    double size = 1;
    for (int k = 0; k < 5; ++k, size /= 3) EXPECT_EQ(reach.share({size, -size}, {1, 1}, size), 1);
}

}  // namespace
}  // namespace elkit
