#pragma once
#include <functional>
#include <string>

#include "board/footprint.hpp"

namespace elkit {

/// The part as it lies in the hand: its legs, what tells them apart, and the place of each. `place(pin)`
/// gives where a leg goes, "C4"; empty for nowhere. An empty drawing if the legs are alike.
Drawing leg_picture(const Part& part, const Footprint& footprint,
                    const std::function<std::string(const std::string&)>& place);

}  // namespace elkit
