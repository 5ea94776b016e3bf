#pragma once
#include <memory>
#include <string>
#include <string_view>

#include "power/cell_fit.hpp"
#include "store/store.hpp"

namespace elkit {

/// Reads time and volts from CSV: comma, semicolon or tab, decimal points or commas, with a heading or
/// without. The time is in hours, minutes or seconds by its heading (t_h, "Zeit/min", "time (s)"), else in
/// hours up to 100, in minutes up to 6,000, in seconds beyond. A column whose heading begins with V or U or
/// names volts is taken, else the second. Usage error with the line for what is no number, times that go
/// back, or volts that no row of cells gives; fewer than ten points.
Result<MeasuredDischarge> read_discharge(std::string_view csv);

/// "10R", "10 ohm" or "50mA": what a cell was discharged with. Usage error for anything else.
Result<FitLoad> read_load(std::string_view text);

/// The fit of a file's content.
struct CellFitQuery {
    std::shared_ptr<const std::string> csv;
    std::string cell;  ///< id of the catalogue
    int count = 1;
    FitLoad load;
    struct Value {
        MeasuredDischarge measured;
        CellFit fit;
    };
    static constexpr std::string_view name = "cell fit";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
