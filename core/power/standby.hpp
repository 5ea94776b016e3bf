#pragma once
#include <string>
#include <utility>
#include <vector>

#include "circuit/part.hpp"
#include "engine/conditions.hpp"
#include "engine/operating_point.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// True if a switch or a light sensor can turn the gadget off.
bool can_be_off(const Circuit& circuit);

/// Everything off: switches open, buttons let go, fresh cells; without a switch, daylight on the sensors.
Conditions switched_off(const Circuit& circuit, Conditions conditions);

/// How it is off, in words: "every switch open", "in daylight (10,000 lx)".
std::string off_text(const Circuit& circuit);

/// The parts on the source's + net with the current [A] that each takes from it, largest first; below 1 nA
/// not.
std::vector<std::pair<std::string, double>> takers(const Circuit& circuit, const OperatingPoint& op);

/// How long a source lasts [years] while so many amperes flow and nothing else is done, self-discharge
/// included; infinite for one that does not empty.
Figure standby_life(const Part& source, double amps, double celsius);

}  // namespace elkit
