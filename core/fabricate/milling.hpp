#pragma once
#include <string>
#include <vector>

#include "board/copper/mill_plan.hpp"
#include "fabricate/fabricated.hpp"

namespace elkit {

/// G-code (ISO 6983-1: mm, absolute) for isolation, drilling, outline and a test cut. The solder side is
/// mirrored: the copper looks at the tool, its lower left corner at 0, 0.
std::vector<FabricatedFile> gcode_files(const CopperLayout& layout, const std::string& name,
                                        const FabricateOptions& options);

/// Minutes that the mill runs for one board, by ways, feeds and what a tool change takes.
double mill_minutes(const CopperLayout& layout, const FabricateOptions& options);

}  // namespace elkit
