#pragma once
#include <algorithm>
#include <vector>

namespace elkit {

/// Shortens the steps of an iteration that goes to and fro, at a corner of some curve say, until they close
/// in: half as far after every turn back, a little further otherwise.
class Reach {
  public:
    /// What share of `step` to go, whose largest element is `size` when each is taken times its `scale`.
    double share(const std::vector<double>& step, const std::vector<double>& scale, double size) {
        double along = 0;
        for (std::size_t k = 0; k < before_.size(); ++k) along += step[k] * before_[k] * scale[k] * scale[k];
        far_ = before_.empty() ? size : along < 0 ? far_ / 2 : 1.2 * far_;
        before_ = step;
        return far_ < size ? far_ / size : 1;
    }

  private:
    double far_ = 0;
    std::vector<double> before_;
};

}  // namespace elkit
