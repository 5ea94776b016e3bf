#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "circuit/part.hpp"
#include "engine/conditions.hpp"
#include "quantity/result.hpp"

namespace elkit {

class System;
struct Moment;

struct PartState {
    std::string designator;
    double current = 0;                     ///< A, into the main pin (the first; a chip's output)
    double voltage = 0;                     ///< V, main pin against the last pin, or the chip's ground
    double taken = 0;                       ///< W taken up through all pins
    std::vector<double> pins;               ///< A into each pin
    std::size_t main = 0, against = 0;      ///< the pins that `current` and `voltage` are of
    double power() const { return taken; }  ///< W taken up; negative for a source that gives
};

/// Where the circuit settles. Voltages are against the negative rail.
struct OperatingPoint {
    std::vector<std::string> nets;
    std::vector<double> voltages;  ///< V, one for each net
    std::vector<double> inner;     ///< what else was solved for: nodes inside parts, coil currents, warmth
    std::vector<PartState> parts;  ///< in the order of the circuit
    int iterations = 0;
    double residual = 0;      ///< A, largest violation of Kirchhoff's current law at any net
    bool oscillates = false;  ///< no state of rest: what is given is one state that it passes through

    double voltage(std::string_view net) const;                ///< 0 for a net that does not exist
    const PartState& part(std::string_view designator) const;  ///< a zero state if there is none
    double supply_current() const;                             ///< A out of the first source's + pin
    std::string source;                                        ///< designator of that source
};

/// Solves the circuit at rest: Newton's method with junction limiting; if it does not settle, gmin stepping,
/// source stepping (Nagel 1975), pseudo-transient continuation. Accepted only when Kirchhoff's current law
/// holds at every net to 1e-9 of the largest current (and rounding), and the voltages settle to 1 nV or stay
/// in balance for two steps. `start` may hold an earlier solution of the same circuit. With events in the
/// conditions the state that follows them, from power-up through time. Errors: the first
/// connectivity error; a part the catalogue does not know; the net that would not settle.
Result<OperatingPoint> operating_point(const Circuit& circuit, const Catalogue& catalogue,
                                       const Conditions& conditions, const Corner& corner = {},
                                       const OperatingPoint* start = nullptr);

/// Every state of rest that is found from starts with each net held high or low: the one from power-up first,
/// then the others of a latch. Errors as operating_point().
Result<std::vector<OperatingPoint>> operating_points(const Circuit& circuit, const Catalogue& catalogue,
                                                     const Conditions& conditions);

/// The unknowns of a system of the same circuit, for solving on from `op`.
std::vector<double> unknowns_of(const OperatingPoint& op, const System& system);

/// The readings of all nets and parts at a moment of a system built from this circuit.
OperatingPoint readings_at(const Circuit& circuit, const System& system, const Moment& moment);

}  // namespace elkit
