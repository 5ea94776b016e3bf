#pragma once
#include "circuit/part.hpp"
#include "store/digest.hpp"

namespace elkit {

/// What computations depend on: parts in their order, with parameters and nets.
Digest content_digest(const Circuit& circuit);

}  // namespace elkit
