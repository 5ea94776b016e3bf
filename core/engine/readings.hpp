#pragma once
#include <functional>
#include <string>
#include <vector>

#include "engine/stepper.hpp"
#include "engine/transient.hpp"

namespace elkit {

/// Every net's voltage, pin's current and part's power, as probes.
std::vector<std::string> every_probe(const Circuit& circuit);

/// The end of a recording of these with each reading in place of which `read` makes something of its trace.
OperatingPoint readings_of(const Circuit& circuit, const Recording& run,
                           const std::function<double(const std::vector<double>&)>& read);

/// All that happens in so many seconds from where a stepper stands, which goes on to their end; times from 0.
/// Errors as simulate().
Result<Recording> record_ahead(const Circuit& circuit, const Catalogue& catalogue, const System& system,
                               Stepper& stepper, double seconds);
/// The means over a recording of every_probe().
OperatingPoint means_of(const Circuit& circuit, const Recording& run);
/// Means over so many seconds. Errors as record_ahead().
Result<OperatingPoint> mean_ahead(const Circuit& circuit, const Catalogue& catalogue, const System& system,
                                  Stepper& stepper, double seconds);

}  // namespace elkit
