#pragma once
#include <string>
#include <string_view>
#include <vector>

namespace elkit {

/// A design that ships with Elkit.
struct Demo {
    std::string id, title;
    std::string_view text;  ///< the design file
};
const std::vector<Demo>& demos();
const Demo* find_demo(std::string_view id);  ///< nullptr if unknown

}  // namespace elkit
