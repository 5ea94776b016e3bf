#include "engine/stability.hpp"

#include <Eigen/Dense>

namespace elkit {

bool disturbance_grows(System& system, const std::vector<double>& x) {
    const int n = system.unknowns();
    constexpr int most = 400;  // an eigenvalue problem of more takes seconds
    if (n == 0 || n > most) return false;
    Eigen::MatrixXd g = Eigen::MatrixXd::Zero(n, n), c = g;
    system.limit_junctions(false);
    system.evaluate(x.data(), 0, 0);
    system.limit_junctions(true);
    for (std::size_t k = 1; k < system.df().size(); ++k) {
        g(system.row(k) - 1, system.column(k) - 1) += system.df()[k];
        c(system.row(k) - 1, system.column(k) - 1) += system.dq()[k];
    }
    const Eigen::FullPivLU<Eigen::MatrixXd> factors(g);
    if (!factors.isInvertible()) return false;
    const Eigen::MatrixXd m = -factors.solve(c);
    if (!m.allFinite()) return false;
    const Eigen::VectorXcd times = m.eigenvalues();  // s, negative where it dies away
    const double rounding = 1e-12 * times.cwiseAbs().maxCoeff();
    for (Eigen::Index k = 0; k < n; ++k)
        if (times(k).real() > rounding) return true;
    return false;
}

}  // namespace elkit
