#pragma once
#include <string>

#include "circuit/part.hpp"
#include "quantity/figure.hpp"

/// Numbers by which ways of lighting LEDs are compared.
namespace elkit {

inline constexpr double bench_warmth = 21;  // °C

/// A share of the fresh light as the eye sees it [%] (CIE 1976 lightness).
Figure seen_share(const std::string& id, const std::string& label, double share);

/// How many times the lowest current of a spread goes into the highest; infinity if the lowest is nothing.
Figure spread_ratio(const Figure& current);

/// A that a battery or supply gives; 0 if it is not known.
double most_current(const Part& source);

/// Common rating [W] of a resistor with this heat at its worst: twice that, ¼ W at least; infinity if no
/// common one is enough.
double rating_for(double worst);

}  // namespace elkit
