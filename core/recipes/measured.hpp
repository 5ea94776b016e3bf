#pragma once
#include "engine/queries.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

/// What a recipe expects of its block, beside what the engine finds.
struct Measured {
    Expectation asked;  ///< in the design's names
    Figure found;       ///< NaN where it could not be measured
    bool met = false;
    std::string trouble;  ///< why it could not be
};

/// Each expectation of a block measured by the engine, from fresh cells; those of parts that are gone are
/// left out. Design error without that block; those of sizing.
struct MeasuredQuery {
    MeasuredQuery(const Design& of, std::size_t which, const Conditions& under);
    Design design;  ///< of which circuit and blocks matter
    std::size_t block;
    Conditions conditions;
    using Value = std::vector<Measured>;
    static constexpr std::string_view name = "measured goals";
    static constexpr std::size_t weight = 4;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// One expectation, in the circuit's names, as the engine finds it. Errors as simulate() and steady_state().
Result<double> measured(const Ask& ask, const Keyed<Circuit>& circuit, const Expectation& expected,
                        const Conditions& conditions, const Corner& corner = {});

/// An expectation in the names that a block gives; nothing if a part of it is gone.
std::optional<Expectation> in_design(Expectation expected, const Block& block, const Circuit& circuit);

}  // namespace elkit
