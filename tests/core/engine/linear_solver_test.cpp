#include "engine/linear_solver.hpp"

#include <gtest/gtest.h>

#include <Eigen/Dense>
#include <random>

namespace elkit {
namespace {

/// A sparse random matrix that is far from singular, with some zeros on its diagonal as branch equations
/// have.
struct RandomMatrix {
    std::vector<int> rows, columns;
    std::vector<double> values;
    Eigen::MatrixXd dense;
    RandomMatrix(int n, unsigned seed) : dense(Eigen::MatrixXd::Zero(n, n)) {
        std::mt19937 random(seed);
        std::uniform_real_distribution<double> g(0.1, 2);
        const auto put = [&](int r, int c, double v) {
            if (dense(r, c) != 0) return;
            rows.push_back(r), columns.push_back(c), values.push_back(v);
            dense(r, c) = v;
        };
        for (int k = 0; k < n; ++k) {
            const bool branch = k % 5 == 4;
            if (branch)
                put(k, k - 1, 1), put(k - 1, k, 1);
            else
                put(k, k, 8 + g(random));
            for (int e = 0; e < 2; ++e) {
                const int other = static_cast<int>(random() % static_cast<unsigned>(n));
                if (other != k && other % 5 != 4 && !branch) put(k, other, -g(random));
            }
        }
    }
};

class Solver : public ::testing::TestWithParam<int> {};

TEST_P(Solver, AgreesWithADenseSolution) {
    const int n = GetParam();
    const RandomMatrix m(n, 7);
    LinearSolver solver(n, m.rows, m.columns);
    ASSERT_TRUE(solver.factor(m.values.data()));
    Eigen::VectorXd b = Eigen::VectorXd::LinSpaced(n, -1, 1), x = b;
    solver.solve(x.data());
    EXPECT_LT((m.dense * x - b).cwiseAbs().maxCoeff(), 1e-10);
}

TEST_P(Solver, ReplaysItsOrderForOtherNumbers) {
    const int n = GetParam();
    RandomMatrix m(n, 11);
    LinearSolver solver(n, m.rows, m.columns);
    std::mt19937 random(5);
    std::uniform_real_distribution<double> factor(0.5, 2);
    for (int round = 0; round < 20; ++round) {
        for (std::size_t k = 0; k < m.values.size(); ++k) {
            m.values[k] *= factor(random);
            m.dense(m.rows[k], m.columns[k]) = m.values[k];
        }
        ASSERT_TRUE(solver.factor(m.values.data()));
        Eigen::VectorXd b = Eigen::VectorXd::Ones(n), x = b;
        solver.solve(x.data());
        const double size = m.dense.cwiseAbs().maxCoeff() * x.cwiseAbs().maxCoeff();
        EXPECT_LT((m.dense * x - b).cwiseAbs().maxCoeff(), 1e-10 * (1 + size)) << round;
    }
    EXPECT_LE(solver.orderings(), 3) << "the order is kept while its pivots hold";
}

TEST_P(Solver, SaysThatAnEmptyColumnHasNoSolution) {
    const int n = GetParam();
    std::vector<int> rows, columns;
    std::vector<double> values;
    for (int k = 0; k < n; ++k) rows.push_back(k), columns.push_back(k), values.push_back(k == n / 2 ? 0 : 2);
    LinearSolver solver(n, rows, columns);
    EXPECT_FALSE(solver.factor(values.data()));
}

TEST(Solver, SaysThatAFloatingRingHasNoSolution) {
    const int n = 40;
    std::vector<int> rows, columns;
    std::vector<double> values;
    for (int k = 0; k < n; ++k)  // a ring of conductances that floats
        for (const int other : {(k + 1) % n, (k + n - 1) % n}) {
            rows.push_back(k), columns.push_back(other), values.push_back(-1);
        }
    for (int k = 0; k < n; ++k) rows.push_back(k), columns.push_back(k), values.push_back(2);
    LinearSolver solver(n, rows, columns);
    EXPECT_FALSE(solver.factor(values.data()));
}

INSTANTIATE_TEST_SUITE_P(Sizes, Solver, ::testing::Values(3, 10, 48, 160, 161, 400));

TEST(Solver, ChoosesAnewWhenAPivotVanishes) {
    const std::vector<int> rows{0, 0, 1, 1}, columns{0, 1, 0, 1};
    LinearSolver solver(2, rows, columns);
    const std::vector<double> first{4, 1, 1, 3}, second{0, 1, 1, 0};
    ASSERT_TRUE(solver.factor(first.data()));
    ASSERT_TRUE(solver.factor(second.data()));
    EXPECT_EQ(solver.orderings(), 2);
    std::vector<double> x{5, 7};
    solver.solve(x.data());
    EXPECT_DOUBLE_EQ(x[0], 7);
    EXPECT_DOUBLE_EQ(x[1], 5);
}

}  // namespace
}  // namespace elkit
