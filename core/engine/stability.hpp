#pragma once
#include <vector>

#include "engine/system.hpp"

namespace elkit {

/// True if some small disturbance of the state of rest x grows: an eigenvalue λ of  (G + λ C) v = 0  with a
/// positive real part, G and C being the conductances and capacitances there (Lyapunov's first method).
/// Solved as the eigenvalues μ = 1/λ of −G⁻¹C, since C alone has no inverse. False where G has none.
bool disturbance_grows(System& system, const std::vector<double>& x);

}  // namespace elkit
