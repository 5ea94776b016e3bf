#pragma once
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "engine/conditions.hpp"
#include "engine/transient.hpp"

namespace elkit::test {

/// A circuit that nobody would draw, under conditions at random: parts of all kinds with parameters from all
/// of their ranges, pins on few nets. The same seed gives the same one.
struct RandomCase {
    Circuit circuit;
    Conditions conditions;
    std::vector<TimedChange> changes;  ///< hands that work the contacts while it runs
};
RandomCase random_case(unsigned seed);

/// What a run over random circuits came to.
struct Outcome {
    enum class Kind { solved, refused, unsettled, no_rest } kind = Kind::solved;
    std::string refusal;              ///< the error in words
    std::string run_refusal;          ///< likewise, of the short run
    std::vector<std::string> broken;  ///< laws that the answer breaks
};
/// Solves it at rest and holds the answer against the laws of physics, with the currents that each device's
/// own equations give at those voltages: all numbers finite; the currents of each net sum to zero; no part
/// but a source gives power; nothing conducts that must block. With `run`, a short run too: two-pin parts let
/// out what goes in, energy balances, a state of rest stays.
Outcome outcome_of(const RandomCase& random, bool run);

/// The circuit as lines, for a person who looks into it.
std::string described(const RandomCase& random);

}  // namespace elkit::test
