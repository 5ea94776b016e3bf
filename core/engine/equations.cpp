#include "engine/equations.hpp"

#include <klu.h>

#include <Eigen/Sparse>
#include <cmath>

namespace elkit {
namespace {
constexpr int sparse_from = 48;
}

/// KLU (Davis & Palamadai Natarajan, ACM TOMS 907): the ordering is found once, the numbers factored each
/// step.
struct Equations::Sparse {
    std::vector<Eigen::Triplet<double>> entries;
    klu_common common{};
    klu_symbolic* symbolic = nullptr;
    Sparse() { klu_defaults(&common); }
    ~Sparse() {
        if (symbolic) klu_free_symbolic(&symbolic, &common);
    }
    Sparse(const Sparse&) = delete;
    Sparse& operator=(const Sparse&) = delete;
};

Equations::Equations(int unknowns) : right_(unknowns) {
    if (unknowns >= sparse_from)
        sparse_ = std::make_unique<Sparse>();
    else
        dense_.resize(unknowns, unknowns);
    clear();
}

Equations::~Equations() = default;

void Equations::clear() {
    right_.setZero();
    largest_ = 0;
    if (sparse_)
        sparse_->entries.clear();
    else
        dense_.setZero();
}

void Equations::add(int row, int column, double value) {
    if (row < 0 || column < 0) return;
    largest_ = std::max(largest_, std::abs(value));
    if (sparse_)
        sparse_->entries.emplace_back(row, column, value);
    else
        dense_(row, column) += value;
}

bool Equations::solve(Eigen::VectorXd& solution) {
    if (!sparse_) {
        solution = dense_.partialPivLu().solve(right_);
        return solution.allFinite();
    }
    Eigen::SparseMatrix<double> matrix(size(), size());
    matrix.setFromTriplets(sparse_->entries.begin(), sparse_->entries.end());
    auto& s = *sparse_;
    if (!s.symbolic)
        s.symbolic = klu_analyze(size(), matrix.outerIndexPtr(), matrix.innerIndexPtr(), &s.common);
    if (!s.symbolic) return false;
    klu_numeric* numeric =
        klu_factor(matrix.outerIndexPtr(), matrix.innerIndexPtr(), matrix.valuePtr(), s.symbolic, &s.common);
    if (!numeric) return false;
    solution = right_;
    const int done = klu_solve(s.symbolic, numeric, size(), 1, solution.data(), &s.common);
    klu_free_numeric(&numeric, &s.common);
    return done && solution.allFinite();
}

}  // namespace elkit
