#pragma once
#include <string_view>
#include <vector>

#include "matrix/frames.hpp"

namespace elkit {

/// Pictures to begin with, over so many matrices side by side.
enum class StarterPattern { full, checks, heart, arrow, waves };

/// The pictures of each matrix, the first at the left; all have as many, each shown for `seconds`.
std::vector<std::vector<MatrixFrame>> starter_frames(StarterPattern pattern, int matrices, double seconds);

}  // namespace elkit
