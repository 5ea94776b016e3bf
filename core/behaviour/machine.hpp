#pragma once
#include <cstdint>
#include <vector>

#include "behaviour/program.hpp"

namespace elkit {

/// What a program sees at a tick.
struct PinsSeen {
    std::vector<bool> high;             ///< of each input
    std::vector<std::uint32_t> counts;  ///< of each sensor
    bool operator==(const PinsSeen&) const = default;
};

/// A program at work, tick by tick.
class Machine {
  public:
    /// It starts in the first state, all off until the first step(); `seen` is what the pins are then.
    Machine(const Program& program, const PinsSeen& seen);

    /// One tick: what is seen may lead to another state, then the outputs show what that has for them.
    void step(const PinsSeen& seen);
    /// Of each output, what its driver is told: 0 low, 255 high, between them a share of the time.
    const std::vector<std::uint8_t>& levels() const { return levels_; }
    std::size_t state() const { return state_; }
    bool sleeps() const { return program_.states[state_].sleeps; }
    /// True if further ticks change nothing as long as the same is seen.
    bool still(const PinsSeen& seen) const;
    /// Ticks after which it does the same again while the same is seen, from now on or soon; 0: it comes to
    /// rest, or never does the same (flicker), or not within `most`.
    std::uint32_t repeats(const PinsSeen& seen, std::uint32_t most = 100'000) const;

  private:
    bool holds(const Leaves& leaves, const PinsSeen& seen) const;
    void show();
    std::uint8_t value(const Drive& drive, std::size_t output);
    std::uint64_t phase() const;
    Program program_;
    std::size_t state_ = 0;
    std::uint32_t t_ = 0;  // ticks in this state
    std::uint16_t random_ = 0xACE1;
    std::vector<bool> down_, was_down_;  // of each input
    std::vector<std::uint32_t> held_;    // ticks, of each input
    std::vector<std::uint8_t> levels_, flickers_;
};

}  // namespace elkit
