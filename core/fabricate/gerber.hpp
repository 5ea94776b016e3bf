#pragma once
#include <string>
#include <vector>

#include "board/copper/layout.hpp"
#include "fabricate/fabricated.hpp"

namespace elkit {

/// Gerber layers (format specification 2023.08, X2 attributes; mm, six decimals; the lower left corner of the
/// panel at 0, 0, seen from the component side): copper, mask, paste, legend, profile.
std::vector<FabricatedFile> gerber_files(const CopperLayout& layout, const std::string& name,
                                         const PanelPlan& panel, const std::vector<std::string>& remarks);

/// Drill files (XNC 2021.11): plated and unplated holes apart.
std::vector<FabricatedFile> drill_files(const CopperLayout& layout, const std::string& name,
                                        const PanelPlan& panel);

/// Every pin's net and place (IPC-D-356A, in units of 0.001 mm); nets of the second board of a panel end in
/// "#2".
FabricatedFile netlist_file(const CopperLayout& layout, const std::string& name, const PanelPlan& panel);

/// Where a machine puts the parts on the surface: middle of each body, y upwards from the lower left corner
/// of the panel, turned counter-clockwise; CSV.
FabricatedFile placement_file(const CopperLayout& layout, const std::string& name, const PanelPlan& panel);
bool has_surface_parts(const CopperLayout& layout);

/// A name as attributes and records of these formats may hold it.
std::string plain_name(const std::string& text);

}  // namespace elkit
