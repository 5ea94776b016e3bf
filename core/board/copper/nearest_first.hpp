#pragma once
#include <algorithm>
#include <cstddef>
#include <vector>

namespace elkit {

/// What is open in a search over a grid, the nearest first: in buckets by its distance (Dial, Communications
/// of the ACM 12, 1969), quicker than a heap. Within a bucket the last comes first.
template <class Entry>
class NearestFirst {
  public:
    bool empty() const { return count_ == 0; }
    void clear() {
        for (std::size_t at = lowest_; count_ > 0 && at <= highest_; ++at) buckets_[at].clear();
        count_ = 0, lowest_ = 0, highest_ = 0;
    }
    /// `far`: how far away it is, at least 0 [steps of the grid].
    void push(float far, const Entry& entry) {
        constexpr float apart = 0.03125F;        // steps from bucket to bucket
        constexpr std::size_t most = 1U << 17U;  // buckets: what is farther away is not sorted
        const std::size_t at = std::min(static_cast<std::size_t>(far / apart), most);
        if (at >= buckets_.size()) buckets_.resize(at + 1);
        buckets_[at].push_back(entry);
        lowest_ = count_ == 0 ? at : std::min(lowest_, at);
        highest_ = std::max(highest_, at);
        ++count_;
    }
    Entry pop() {
        while (buckets_[lowest_].empty()) ++lowest_;
        const Entry nearest = buckets_[lowest_].back();
        buckets_[lowest_].pop_back();
        --count_;
        return nearest;
    }

  private:
    std::vector<std::vector<Entry>> buckets_;
    std::size_t count_ = 0, lowest_ = 0, highest_ = 0;  // of buckets in use
};

}  // namespace elkit
