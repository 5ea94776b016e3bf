#pragma once
#include <vector>

#include "matrix/frames.hpp"

/// Changes of one picture over matrices side by side, the first at the left.
namespace elkit {

/// All of it so many columns to the right, or to the left below zero; what leaves at one end comes in at the
/// other.
std::vector<MatrixFrame> slid(const std::vector<MatrixFrame>& picture, int columns);
/// What is on off, and the other way round.
std::vector<MatrixFrame> inverted(std::vector<MatrixFrame> picture);
/// How many lights are on.
int lit_in(const std::vector<MatrixFrame>& picture);

}  // namespace elkit
