#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "design/design.hpp"
#include "quantity/result.hpp"

namespace elkit {

struct Cleaned {
    Design design;
    std::vector<std::string> changes;  ///< "net \"A B\" is now A_B", in order, each once
};

/// A design from elsewhere whose names and texts break the rules of circuit/names.hpp, with those put right:
/// what a name must not have becomes _, different names stay different, texts lose control characters and
/// what is too long. Anything else that is wrong with it is an error as of read_design().
Result<Cleaned> cleaned_design(std::string_view text);

}  // namespace elkit
