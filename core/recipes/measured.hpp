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
/// left out. It is measured without blocks that it does not hang on: two clocks that have nothing to do with
/// each other never repeat. Design error without that block; those of sizing.
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

/// Numbers of a recipe's own reckoning that the engine has not measured.
std::vector<Figure> only_reckoned(const Sized& sized, const std::vector<Measured>& measured);

/// One expectation, in the circuit's names, as the engine finds it. Errors as simulate() and steady_state().
Result<double> measured(const Ask& ask, const Keyed<Circuit>& circuit, const Expectation& expected,
                        const Conditions& conditions, const Corner& corner = {});

/// The run of an expectation's presses: from rest with nothing touched, one after the other, and on for
/// `after` [s] from when the last began. Errors as simulate().
Result<Recording> run_of_presses(const Circuit& circuit, const Expectation& expected, Conditions conditions,
                                 double after, const Corner& corner = {});

/// The circuit of a block: its parts, those that it uses, the main switch, and the blocks on whose nets it
/// hangs; all of the circuit where the block is the only one.
Circuit circuit_of_block(const Design& design, std::size_t block);

/// An expectation in the names that a block gives; nothing if a part of it is gone.
std::optional<Expectation> in_design(Expectation expected, const Block& block, const Circuit& circuit);

}  // namespace elkit
