#pragma once
#include <string>
#include <vector>

#include "board/copper/layout.hpp"

namespace elkit {

/// All that is wrong with a board before it is made, a sentence each: rules of the method, opens and shorts
/// of its copper; of a milled one, of the copper that its tools leave. Empty: it is the circuit.
std::vector<std::string> fabrication_faults(const CopperLayout& layout, const Circuit& circuit);
/// Likewise, where copper_groups() of the layout is known.
std::vector<std::string> fabrication_faults(const CopperLayout& layout, const Circuit& circuit,
                                            const std::vector<std::vector<std::string>>& groups);

}  // namespace elkit
