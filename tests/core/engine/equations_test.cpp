#include "engine/equations.hpp"

#include <gtest/gtest.h>

#include <random>

namespace elkit {
namespace {

/// A ladder of `n` nodes, each to the next with 1 S and to ground with 0.1 S, 1 A into the first.
void fill_ladder(Equations& eq, int n) {
    eq.clear();
    for (int k = 0; k < n; ++k) {
        eq.conductance(k, -1, 0.1);
        if (k + 1 < n) eq.conductance(k, k + 1, 1);
    }
    eq.current(-1, 0, 1);
}

TEST(Equations, DenseAndSparseAgreeOnALadder) {
    // both sizes are long enough for the far end to be alike: the infinite ladder
    Eigen::VectorXd small, large;
    Equations dense(40), sparse(400);
    fill_ladder(dense, 40);
    fill_ladder(sparse, 400);
    ASSERT_TRUE(dense.solve(small));
    ASSERT_TRUE(sparse.solve(large));
    for (int k = 0; k < 10; ++k) EXPECT_NEAR(small[k], large[k], 1e-6) << k;
    EXPECT_NEAR(large.sum() * 0.1, 1, 1e-9) << "all the current reaches ground";
}

TEST(Equations, SolveAgainAfterClearing) {
    Equations eq(60);
    Eigen::VectorXd first, second;
    fill_ladder(eq, 60);
    ASSERT_TRUE(eq.solve(first));
    fill_ladder(eq, 60);
    ASSERT_TRUE(eq.solve(second));
    EXPECT_LT((first - second).cwiseAbs().maxCoeff(), 1e-15);
}

TEST(Equations, SayThatASingularMatrixHasNoSolution) {
    for (const int n : {3, 80}) {
        Equations eq(n);
        eq.clear();
        eq.conductance(0, 1, 1);  // floats against ground
        eq.current(-1, 0, 1);
        Eigen::VectorXd x;
        EXPECT_FALSE(eq.solve(x)) << n;
    }
}

TEST(Equations, MatchARandomDenseSystem) {
    std::mt19937 random(3);
    std::uniform_real_distribution<double> g(0.01, 2);
    for (const int n : {5, 47, 48, 120}) {
        Equations eq(n);
        Eigen::MatrixXd a = Eigen::MatrixXd::Zero(n, n);
        Eigen::VectorXd b = Eigen::VectorXd::Zero(n), x;
        eq.clear();
        const auto put = [&](int i, int k, double value) {
            eq.conductance(i, k, value);
            for (const int m : {i, k})
                if (m >= 0) a(m, m) += value;
            if (i >= 0 && k >= 0) a(i, k) -= value, a(k, i) -= value;
        };
        for (int i = 0; i < n; ++i)
            put(i, i ? static_cast<int>(random() % static_cast<unsigned>(i)) : -1, g(random));
        for (int e = 0; e < 2 * n; ++e) {
            const int i = static_cast<int>(random() % static_cast<unsigned>(n)),
                      k = static_cast<int>(random() % static_cast<unsigned>(n));
            if (i != k) put(i, k, g(random));
        }
        eq.current(-1, n - 1, 0.5);
        b[n - 1] = 0.5;
        ASSERT_TRUE(eq.solve(x));
        EXPECT_LT((a * x - b).cwiseAbs().maxCoeff(), 1e-10) << n;
        EXPECT_GT(eq.largest(), 0);
    }
}

}  // namespace
}  // namespace elkit
