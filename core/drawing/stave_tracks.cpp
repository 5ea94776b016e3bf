#include "drawing/stave_tracks.hpp"

#include <algorithm>
#include <cmath>

namespace elkit {
namespace {

/// How many tracks lie between two lines at least, the first being the higher; 0 if they never meet.
class Distances {
  public:
    Distances(const std::vector<LineSpan>& lines, const std::vector<HangingParts>& parts)
        : count_(lines.size()), least_(count_ * count_, 0) {
        for (std::size_t a = 0; a < count_; ++a)
            for (std::size_t b = a + 1; b < count_; ++b)
                at(a, b) = lines[a].first <= lines[b].last && lines[b].first <= lines[a].last;
        for (const auto& [upper, lower, n] : parts)
            if (upper < lower && lower < count_) at(upper, lower) = std::max(at(upper, lower), n);
    }
    int operator()(std::size_t a, std::size_t b) const { return least_[a * count_ + b]; }

  private:
    int& at(std::size_t a, std::size_t b) { return least_[a * count_ + b]; }
    std::size_t count_;
    std::vector<int> least_;
};

}  // namespace

std::vector<int> share_tracks(const std::vector<LineSpan>& lines, const std::vector<HangingParts>& parts) {
    const std::size_t count = lines.size();
    const Distances apart(lines, parts);
    // the highest track that each can have, and how far above the bottom each has to be
    std::vector<int> highest(count, 0), above(count, 0), given(count, 0);
    int last = 0;
    for (std::size_t k = 0; k < count; ++k) {
        for (std::size_t j = 0; j < k; ++j)
            if (apart(j, k)) highest[k] = std::max(highest[k], highest[j] + apart(j, k));
        last = std::max(last, highest[k]);
    }
    for (std::size_t k = count; k-- > 0;)
        for (std::size_t j = k + 1; j < count; ++j)
            if (apart(k, j)) above[k] = std::max(above[k], above[j] + apart(k, j));
    for (std::size_t k = 0; k < count; ++k) {
        int least = 0;
        for (std::size_t j = 0; j < k; ++j)
            if (apart(j, k)) least = std::max(least, given[j] + apart(j, k));
        const int wanted = static_cast<int>(std::lround((1 - lines[k].height) * last));
        given[k] = std::max(least, std::min(wanted, last - above[k]));
    }
    return given;
}

int track_count(const std::vector<int>& tracks) {
    return tracks.empty() ? 0 : 1 + *std::max_element(tracks.begin(), tracks.end());
}

}  // namespace elkit
