#pragma once
#include <map>

#include "recipes/blocks.hpp"

namespace elkit {

/// The design with a block run for what a person said of it. Where that cannot be met with the other goals as
/// they are, those that follow are chosen anew, such as the capacitor of another rate. Errors as
/// with_goals().
Result<Design> with_followed(const Design& design, std::size_t block,
                             const std::map<std::string, ParamValue>& said);

/// Likewise; where that does not do either, one more goal of which nothing was said is changed.
Result<Design> with_said(const Design& design, std::size_t block,
                         const std::map<std::string, ParamValue>& said);

}  // namespace elkit
