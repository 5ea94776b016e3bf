#pragma once
#include <map>
#include <string>
#include <vector>

#include "drawing/drawing.hpp"
#include "engine/operating_point.hpp"
#include "light/strings.hpp"

namespace elkit {

/// Strings of the same parts, wherever they hang.
struct AlikeStrings {
    std::vector<LedString> strings;
    double least = 0, most = 0;  ///< A, of those that are lit; 0 if none is
};

/// The strings of a circuit in groups of the same parts, in the circuit's order. `glow` as for draw_array().
std::vector<AlikeStrings> alike_strings(const Circuit& circuit, const OperatingPoint& op,
                                        const std::map<std::string, double>& glow);

/// "24 lights at 17.4 mA", "7 lights, 3 lit now: 8.4–17.9 mA", "4 lights, none lit now".
std::string lights_text(const Circuit& circuit, const OperatingPoint& op,
                        const std::map<std::string, double>& glow);

/// "12 × 2 at 17.4 mA" where all strings are alike and lit, else lights_text().
std::string lights_in_short(const Circuit& circuit, const OperatingPoint& op,
                            const std::map<std::string, double>& glow);

/// The lights as they will be seen, in rows, and under them one string of each kind: resistor with its bands,
/// LEDs with voltage and glow, current below. Made for a room in units; words keep their size, so that kinds
/// of string for which there is no room are said in words. Where all lights sit inside other parts, those
/// part by part, each colour as its dots. `glow`: LED → perceived brightness 0…1. Refs: part:D.
Drawing draw_array(const Circuit& circuit, const OperatingPoint& op,
                   const std::map<std::string, double>& glow, double width = 420, double height = 320);

}  // namespace elkit
