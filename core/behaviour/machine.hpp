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

    /// One tick, or one look while it sleeps: what is seen may lead to another state, then the outputs show
    /// what that has for them.
    void step(const PinsSeen& seen);
    /// Of each output, what its driver is told: 0 low, 255 high, between them a share of the time.
    const std::vector<std::uint8_t>& levels() const { return levels_; }
    std::size_t state() const { return state_; }
    bool sleeps() const { return program_.states[state_].sleeps; }
    /// Ticks to the next step: 1, but where it sleeps and looks now and then.
    std::uint32_t nap() const { return program_.states[state_].nap; }
    bool looks() const { return nap() > 1; }
    static constexpr std::uint32_t for_ever = 0xFFFFFFFF;
    /// So many further steps change neither state nor levels while the same is seen as in the last one, or
    /// for_ever; it may be a few more.
    std::uint32_t quiet(const PinsSeen& seen) const;
    /// Goes through so many quiet steps at once.
    void pass(std::uint32_t steps);

    /// What comes of it while the same is seen.
    struct Course {
        std::uint32_t begins = 0;  ///< ticks from now
        std::uint32_t period = 0;  ///< ticks; 0: it rests
        bool random = false;       ///< it goes on without end and never the same
    };
    Course course(const PinsSeen& seen) const;
    /// Ticks in which this state shows all that it has, from now on and at most until it is left; 0 if it
    /// shows the same all the while.
    std::uint32_t round(const PinsSeen& seen) const;

  private:
    std::uint32_t until_it_leaves(const PinsSeen& seen) const;
    std::uint32_t until_it_differs(const Drive& drive, std::uint32_t far) const;
    Course course_of_state() const;
    static std::uint8_t level_at(const Drive& drive, std::uint32_t t);
    bool holds(const Leaves& leaves, const PinsSeen& seen) const;
    void show();
    std::uint8_t value(const Drive& drive, std::size_t output);
    Program program_;
    std::size_t state_ = 0;
    std::uint32_t t_ = 0;  // ticks in this state
    std::uint16_t random_ = 0xACE1;
    std::vector<bool> down_, was_down_;  // of each input
    std::vector<std::uint32_t> held_;    // ticks, of each input
    std::vector<std::uint8_t> levels_, flickers_;
};

}  // namespace elkit
