#pragma once
#include <string>
#include <vector>

#include "board/copper/layout.hpp"
#include "fabricate/fabricated.hpp"

namespace elkit {

/// The numbers that a board house asks, as text; what is wrong with the board stands first.
std::string order_sheet(const CopperLayout& layout, const std::string& name, const FabricateOptions& options,
                        const PanelPlan& panel, const std::vector<std::string>& faults);

}  // namespace elkit
