#pragma once
#include <string>
#include <vector>

#include "circuit/part.hpp"
#include "matrix/frames.hpp"

namespace elkit {

/// Modules that hand data on to the next one, in the order in which the data goes through them: designators,
/// one list for each chain. One that hands nothing on and gets nothing is a chain of its own; what goes round
/// in a ring begins with its first part.
std::vector<std::vector<std::string>> chains_of(const Circuit& circuit);

/// The controller at which a chain begins; nullptr if its data come from somewhere else.
const Part* sender_of(const Circuit& circuit, const std::vector<std::string>& chain);

/// A part that is a matrix of lights.
bool shows_pictures(const Part& part);

/// What the matrices of a chain show, one list for each; those that are not in time with the first one show
/// theirs in its times. Nothing of what is no matrix.
std::vector<std::vector<MatrixFrame>> chain_pictures(const Circuit& circuit,
                                                     const std::vector<std::string>& chain);
/// The circuit with these instead.
Circuit with_chain_pictures(const Circuit& circuit, const std::vector<std::string>& chain,
                            const std::vector<std::vector<MatrixFrame>>& pictures);

}  // namespace elkit
