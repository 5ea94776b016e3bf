#pragma once
#include <string>
#include <utility>
#include <vector>

#include "power/discharge.hpp"
#include "quantity/figure.hpp"

namespace elkit {

struct PowerResult {
    Discharge typical;
    std::vector<Discharge> corners;  ///< LED bins with resistors, and cells' capacity, both ways each
    Figure run_time, energy_left, average_brightness, standby, standby_current;
    Figure warn_at;  ///< V under this load with a tenth of the run time left; NaN for one that does not end
    std::vector<std::pair<std::string, double>> drains;  ///< parts that take current [A] with everything off
    bool never_off = false;                              ///< it is lit in every situation
};

/// Voltage at the source's leads in `op`, with its working; `conditions` are those of `op`.
Figure supply_voltage(const Circuit& circuit, const Conditions& conditions, const OperatingPoint& op);

/// Run time, what is left, and what it takes with everything off. Errors are those of the engine.
struct PowerQuery : Situated {
    PowerQuery(const Keyed<Circuit>& of, const Conditions& under, double end);
    double end_brightness;
    DayShares day = {};
    Conditions off;        ///< for standby
    std::string off_text;  ///< in words
    using Value = PowerResult;
    static constexpr std::string_view name = "run time";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
