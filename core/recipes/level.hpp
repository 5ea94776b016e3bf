#pragma once
#include "engine/transient.hpp"
#include "recipes/recipe.hpp"

namespace elkit {

/// The circuit through time while an expectation's bench supply rises in place of its part; for "stops" it
/// falls to nothing. Design error without that part or a source; errors as simulate().
Result<Recording> run_of_bench(const Circuit& circuit, const Expectation& expected,
                               const Conditions& conditions, const Corner& corner = {});

/// The volts against ground at the last pin of the part that an expectation's bench supply stands for, as it
/// rises, at which what the expectation looks at comes on: where it passes `level` of its most. For
/// "triggered" what it is in the end; for "stops" where it is above that for the last time; for "starts" the
/// least steady volts with which it comes on when they are switched on. Design error if it never comes on;
/// errors as simulate().
Result<double> trigger_level(const Circuit& circuit, const Expectation& expected,
                             const Conditions& conditions, const Corner& corner = {});

}  // namespace elkit
