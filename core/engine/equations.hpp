#pragma once
#include <Eigen/Dense>
#include <memory>
#include <vector>

namespace elkit {

/// The linear equations of one Newton step, G·v = i (modified nodal analysis, Ho, Ruehli & Brennan 1975).
/// Node −1 is the negative rail, held at 0 V. Dense LU for small circuits, KLU from 48 unknowns on.
class Equations {
  public:
    explicit Equations(int unknowns);
    ~Equations();
    Equations(const Equations&) = delete;
    Equations& operator=(const Equations&) = delete;

    void clear();
    /// Conductance g [S] between nodes a and b.
    void conductance(int a, int b, double g) { add(a, a, g), add(b, b, g), add(a, b, -g), add(b, a, -g); }
    /// Current [A] that leaves node a and enters node b.
    void current(int a, int b, double amperes) {
        if (a >= 0) right_[a] -= amperes;
        if (b >= 0) right_[b] += amperes;
    }
    void add(int row, int column, double value);
    /// False if the matrix is singular.
    bool solve(Eigen::VectorXd& solution);
    double largest() const {
        return largest_;
    }  ///< largest coefficient since clear(), sets the rounding noise
    int size() const { return static_cast<int>(right_.size()); }

  private:
    struct Sparse;
    Eigen::MatrixXd dense_;
    Eigen::VectorXd right_;
    double largest_ = 0;
    std::unique_ptr<Sparse> sparse_;
};

}  // namespace elkit
