#pragma once
#include <string>

#include "quantity/format.hpp"

namespace elkit {

// Quantities in the sentences of recipes, in SI units.
inline std::string volts_text(double v) { return format_quantity(v, Unit::volt); }
inline std::string amps_text(double a) { return format_quantity(a, Unit::ampere); }
inline std::string ohms_text(double r) { return format_quantity(r, Unit::ohm); }
inline std::string lux_text(double lux) { return format_quantity(lux, Unit::lux); }
inline std::string length_text(double m) { return format_quantity(m, Unit::metre); }
inline std::string celsius_text(double t) { return format_quantity(t, Unit::celsius); }

}  // namespace elkit
