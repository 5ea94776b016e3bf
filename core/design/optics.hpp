#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "design/design.hpp"
#include "quantity/result.hpp"

namespace elkit {

/// Reads "tracing paper 0.55; lens 180/75": a name and its factor, or two readings of a light meter, with it
/// and without. Usage error with the place; factors from 0.001 to 1,000.
Result<std::vector<Optic>> parse_optics(std::string_view text);
std::string optics_text(const std::vector<Optic>& optics);
/// Of all together; 1 without any.
double optics_factor(const std::vector<Optic>& optics);

inline constexpr double least_optic = 1e-3, most_optic = 1e3;

}  // namespace elkit
