#pragma once
#include "situations/propose.hpp"

namespace elkit {

/// The combinations of contacts and knob ends that stress some part more than any of the given situations
/// does: "worst for R3". In a circuit that rests; all combinations up to eight contacts and knobs, beyond
/// that every one, every pair, all and all but one. At most three, those that are worst for most parts first.
struct WorstQuery {
    Keyed<Circuit> circuit;
    std::vector<Situation> situations;
    using Value = std::vector<Situation>;
    static constexpr std::string_view name = "worst situations";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
