#pragma once
#include <vector>

#include "engine/system.hpp"

namespace elkit {

/// A solution of the circuit at rest.
struct RestPoint {
    std::vector<double> x;  ///< unknowns, x[0] = 0
    int iterations = 0;
    double residual = 0;      ///< A, largest violation of Kirchhoff's current law
    bool oscillates = false;  ///< latches never agree: the circuit has no state of rest
};

/// Solves f(x) = 0 by Newton's method with junction limiting; if it does not settle, gmin stepping, then
/// source stepping (Nagel 1975). Latches and contacts that then want to change do so, and it is solved again.
/// `start` may hold unknowns to start from. Error: the net or part that would not settle.
Result<RestPoint> settle_at_rest(System& system, const std::vector<double>* start = nullptr);

}  // namespace elkit
