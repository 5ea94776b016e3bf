#pragma once
#include <memory>
#include <vector>

namespace elkit {

/// Solves A·x = b again and again for matrices of one pattern and changing values.
/// Up to `small_limit` unknowns the elimination is worked out once as a list of multiply-and-subtract steps
/// (Markowitz order with threshold pivoting, Duff, Erisman & Reid, "Direct Methods for Sparse Matrices") and
/// replayed: a circuit of ten nets takes a fraction of a microsecond. Larger ones go to KLU (Davis &
/// Palamadai Natarajan, ACM TOMS 907).
class LinearSolver {
  public:
    static constexpr int small_limit = 160;

    /// Entry k of the values stands at (rows[k], columns[k]); each place once; `size` unknowns, from 0.
    /// `own_up_to`: the size up to which the elimination is our own; bench/core_bench.cpp measures both.
    LinearSolver(int size, std::vector<int> rows, std::vector<int> columns, int own_up_to = small_limit);
    ~LinearSolver();
    LinearSolver(LinearSolver&&) noexcept;

    /// False if the matrix is singular, also if it is so to rounding. Chooses a new order when a pivot has
    /// become too small, or the numbers grow too much on the way.
    bool factor(const double* values);
    /// Puts the solution of the factored matrix in place of the right-hand side.
    void solve(double* right) const;
    /// By unknown, how far rounding in the last factors may move what solve() gives, as a share of the
    /// largest unknown; empty where no pivot is so small that it needed to be tried.
    const std::vector<double>& blur() const { return blur_; }
    int orderings() const { return orderings_; }  ///< how often the order was chosen anew

  private:
    struct Steps;  // the replayed elimination
    class Elimination;
    struct Klu;
    bool order(const double* values);
    bool replay(const double* values);
    bool tells_apart(const double* values);

    int size_;
    std::vector<int> rows_, columns_;
    std::vector<double> blur_;
    std::unique_ptr<Steps> steps_;
    std::unique_ptr<Klu> klu_;
    int orderings_ = 0;
};

}  // namespace elkit
