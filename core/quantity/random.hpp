#pragma once
#include <cstdint>

namespace elkit {

/// SplitMix64 (Steele, Lea & Flood, OOPSLA 2014): the same numbers on every machine.
class Random {
  public:
    explicit Random(std::uint64_t seed) : state_(seed) {}
    std::uint64_t next() {
        std::uint64_t z = (state_ += 0x9E3779B97F4A7C15U);
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9U;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EBU;
        return z ^ (z >> 31);
    }
    int below(int n) { return static_cast<int>(next() % static_cast<std::uint64_t>(n)); }  ///< 0 … n − 1
    double unit() { return static_cast<double>(next() >> 11) * 0x1.0p-53; }  ///< 0 … 1, 1 excluded

  private:
    std::uint64_t state_;
};

}  // namespace elkit
