#pragma once
#include <string>

#include "engine/operating_point.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// Power [W] taken up by a part at this operating point, with what flows in at its pins as the working.
Figure power_figure(const Circuit& circuit, const OperatingPoint& op, const std::string& designator);

/// Current [A] into the main pin of a part, with the voltages of its pins as the working.
Figure current_figure(const Circuit& circuit, const OperatingPoint& op, const std::string& designator);

/// Current [A] out of the first source.
Figure total_figure(const OperatingPoint& op);

/// Voltage [V] of a net against the negative rail, with the currents that meet there as the working.
Figure voltage_figure(const Circuit& circuit, const OperatingPoint& op, const std::string& net);

}  // namespace elkit
