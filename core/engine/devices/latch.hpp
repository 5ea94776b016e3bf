#pragma once
#include <algorithm>
#include <cmath>
#include <limits>

#include "engine/device.hpp"

/// Pieces that chips and modules share.
namespace elkit {

/// ln(1 + e^z)·s with z = x/s, and its slope.
struct Soft {
    double value, slope;
};
inline Soft soft_positive(double x, double s) {
    const double z = x / s;
    if (z > 35) return {x, 1};
    if (z < -35) return {0, 0};
    const double e = std::exp(z);
    return {s * std::log1p(e), e / (1 + e)};
}

/// 0…1 as x goes from a to b, and its slope by x.
inline Soft smooth_step(double x, double a, double b) {
    const double t = std::clamp((x - a) / (b - a), 0.0, 1.0);
    return {t * t * (3 - 2 * t), 6 * t * (1 - t) / (b - a)};
}

/// A decision, and the output that follows it after the chip's propagation delay. One that is taken back
/// before that never shows.
class Latch {
  public:
    explicit Latch(double delay) : delay_(delay) {}
    bool decided() const { return decided_; }
    bool shown() const { return shown_; }
    /// True if the output changes at once.
    bool turn(double now) {
        decided_ = !decided_;
        if (now == Device::no_time || delay_ <= 0) return shown_ = decided_, due_ = never, true;
        due_ = decided_ == shown_ ? never : now + delay_;
        return false;
    }
    double due() const { return due_; }
    void arrive(double now) {
        if (now >= due_) shown_ = decided_, due_ = never;
    }
    void skip(double span) { due_ += span; }
    double delay() const { return delay_; }

  private:
    static constexpr double never = std::numeric_limits<double>::infinity();
    double delay_, due_ = never;
    bool decided_ = false, shown_ = false;
};

/// A chip with a latch: what the stepper asks of it.
class Latched : public Device {
  public:
    explicit Latched(double delay) : latch_(delay) {}
    bool fire(int, double now) override { return latch_.turn(now); }
    double next_corner(double) const override { return latch_.due(); }
    bool due(double now) const override { return now >= latch_.due(); }
    void arrive(double now) override { latch_.arrive(now); }
    void skip(double span) override { latch_.skip(span); }
    double delay() const override { return latch_.delay(); }
    int main_pin() const override { return 2; }

  protected:
    Latch latch_;
};

}  // namespace elkit
