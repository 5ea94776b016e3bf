#pragma once
#include "design/design.hpp"
#include "engine/queries.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// A situation with what it takes and gives, from fresh cells.
struct SituationRow {
    Situation situation;
    bool lit = false;
    Figure current;          ///< A out of the source on average
    Figure light;            ///< cd of all lights, on average
    std::string afterwards;  ///< how long the light goes on when the button is let go; empty if not
    std::string fault;       ///< why there are no numbers; empty if there are
};

/// The given situations, or those that the circuit suggests.
struct SituationTableQuery {
    Keyed<Circuit> circuit;
    std::vector<Situation> situations;
    using Value = std::vector<SituationRow>;
    static constexpr std::string_view name = "table of situations";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
