#pragma once
#include <string>
#include <vector>

#include "catalogue/catalogue.hpp"
#include "design/design.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// Volts of a cell or a row of cells over time, as a logger wrote them.
struct MeasuredDischarge {
    struct Point {
        double hours, volts;
    };
    std::vector<Point> points;  ///< times ascending, from 0
    std::string told;           ///< how it was read: "1,204 rows, time in seconds (by its heading)"
};

/// What it was discharged with: one of both.
struct FitLoad {
    double amps = 0, ohms = 0;
};

/// A type's curves scaled so that they give the measured discharge.
struct CellFit {
    std::string cell;
    int count = 1;
    Figure capacity;       ///< Ah at a small current, with one standard error either way
    Figure open_circuit;   ///< V of one fresh cell
    Figure resistance;     ///< Ω of one fresh cell
    double rms = 0;        ///< V, of what is left between both curves
    double delivered = 0;  ///< Ah that the measured volts drove through the load
    std::vector<MeasuredDischarge::Point> curve;  ///< volts of the fit at the measured times
};

/// Capacity, voltage and resistance of `count` cells of this type, by least squares on the volts
/// (Levenberg–Marquardt on the logarithms of the three scales; Marquardt, J. SIAM 11, 1963). The model is the
/// one of discharge.hpp: V = n (U(s) − I R(s)), ds/dt = −I/Q(I), at 21 °C. Usage error for a cell that does
/// not empty, no load, or volts that this type cannot give.
Result<CellFit> fit_cell(const CellType& cell, int count, const FitLoad& load,
                         const MeasuredDischarge& measured);

/// The design whose source is this cell as it was measured. Design error without a battery.
Result<Design> with_fit(const Design& design, const CellFit& fit);

}  // namespace elkit
