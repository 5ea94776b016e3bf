#pragma once
#include <map>
#include <string>

#include "drawing/drawing.hpp"
#include "engine/operating_point.hpp"
#include "light/strings.hpp"

namespace elkit {

/// The strings side by side between their two rails: resistor with its bands, LEDs with voltage and glow,
/// current below. At most `limit` strings are drawn; the rest is said in words.
Drawing draw_array(const Circuit& circuit, const OperatingPoint& op,
                   const std::map<std::string, double>& glow, std::size_t limit = 6);

}  // namespace elkit
