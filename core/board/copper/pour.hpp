#pragma once
#include <string>

#include "board/copper/layout.hpp"

namespace elkit {

/// Fills what is free on a layer with a net: away from everything else by the method's gap, its own pads
/// joined by four spokes so that they still take solder, without islands that nothing of the net touches and
/// without slivers thinner than the narrowest track.
CopperArea poured(const CopperLayout& layout, const std::string& net, int layer);

}  // namespace elkit
