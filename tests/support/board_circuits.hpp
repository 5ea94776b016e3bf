#pragma once
#include "circuit/part.hpp"

namespace elkit::test {

/// A circuit at random to be laid out, not to be computed: a battery, then small parts and chips, each pin on
/// one of two rails or on a net of two to four pins. The same seed gives the same one.
Circuit board_circuit(int parts, unsigned seed);

}  // namespace elkit::test
