#pragma once
#include <string>
#include <vector>

#include "board/board.hpp"

namespace elkit {

/// A way to make the boards of a batch, beside the others.
struct MethodCompared {
    std::string method, name, tools, risk;
    std::string error;  ///< why there is no such board; else empty
    std::string size, summary;
    Figure work;           ///< preparing and all boards of the batch, without looking for parts [h]
    Figure cost;           ///< of the boards, beside their material in the parts list
    double days = 0;       ///< until they are in hand, without the work
    bool differs = false;  ///< from the circuit
};

/// All ways to make boards, for a batch of so many.
struct CompareQuery {
    Keyed<Circuit> circuit;
    BoardChoices choices;
    double kits = 1;
    using Value = std::vector<MethodCompared>;
    static constexpr std::string_view name = "board methods";
    static constexpr std::size_t weight = 4;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
