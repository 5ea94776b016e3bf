#pragma once
#include <string>
#include <vector>

#include "board/copper/layout.hpp"
#include "fabricate/fabricated.hpp"

namespace elkit {

/// Gerber layers (format specification 2023.08, X2 attributes; mm, six decimals; the lower left corner of the
/// panel at 0, 0, seen from the component side): copper, mask, legend, profile.
std::vector<FabricatedFile> gerber_files(const CopperLayout& layout, const std::string& name,
                                         const PanelPlan& panel, const std::vector<std::string>& remarks);

/// Drill files (XNC 2021.11): plated and unplated holes apart.
std::vector<FabricatedFile> drill_files(const CopperLayout& layout, const std::string& name,
                                        const PanelPlan& panel);

/// Every pin's net and place (IPC-D-356A, in units of 0.001 mm); nets of the second board of a panel end in
/// "#2".
FabricatedFile netlist_file(const CopperLayout& layout, const std::string& name, const PanelPlan& panel);

/// Lines of a letter of 1 × 1 (its capitals' height), its baseline at 0, y upwards: digits, capitals, a few
/// signs; small letters as capitals, what is unknown as a box.
std::vector<std::vector<Point>> stroke_letter(char letter);
inline constexpr double stroke_advance = 0.85;  ///< from letter to letter

}  // namespace elkit
