#pragma once
#include <cstddef>
#include <vector>

namespace elkit {

/// A net's line as far as it is known before anything is measured.
struct LineSpan {
    int first = 0, last = -1;  ///< columns; none if last < first
    double height = 0;         ///< 1 for the highest voltage, 0 for the lowest
};

/// Parts that hang one below the other between two lines, by their places in the list: each wants a track's
/// room.
struct HangingParts {
    std::size_t upper = 0, lower = 0;
    int count = 1;
};

/// Gives each line a track, 0 on top. Lines are sorted from high to low; two that share a column keep that
/// order, with room for what hangs between them, two that share none may have one track. Each lies as near to
/// its height as that allows.
std::vector<int> share_tracks(const std::vector<LineSpan>& lines,
                              const std::vector<HangingParts>& parts = {});

/// How many tracks there are.
int track_count(const std::vector<int>& tracks);

}  // namespace elkit
