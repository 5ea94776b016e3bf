#pragma once
#include <optional>
#include <string>
#include <vector>

#include "recipes/sketch.hpp"

/// The parts of the battery bar, as its two ways of telling volts share them.
namespace elkit {

/// What a bar is to be, and what it hangs on.
struct Bar {
    const Goals& goals;
    Feed feed;
    std::vector<double> wanted;  ///< V at which each light should come on
    bool pressed = false;        ///< it shows while a button is pressed, else all the while
    bool dot = false;            ///< only the highest light is lit

    std::size_t count() const { return wanted.size(); }
    double fresh() const { return feed.fresh.voltage; }
    double step() const { return wanted[1] - wanted[0]; }
    /// V at which a light is sized: half way from empty to full, or where it comes on.
    double sized_at(std::size_t k) const { return std::max((wanted.front() + wanted.back()) / 2, wanted[k]); }
};

/// One light of the bar.
struct BarLight {
    const LedType* led = nullptr;
    double amps = 0, held = 0;  ///< where it is sized: A, and V across it
    double fresh_amps = 0;      ///< from fresh cells
    double candelas = 0;        ///< where it is sized
};

/// LED and current of light `k`, so that it looks as bright as the first. Errors: volts that it does not get.
Result<BarLight> size_bar_light(const Bar& bar, std::size_t k);

/// Where a light comes on with the parts that were chosen.
struct BarThreshold {
    double volts = 0, off = 0;     ///< V, and by how much a batch differs
    std::optional<Figure> warmth;  ///< in cold and heat, where that moves it
};

struct BarMade {
    std::vector<BarLight> lights;
    std::vector<BarThreshold> comes;
    double own = 0;     ///< A beside the lights, from fresh cells
    std::string takes;  ///< who takes that
};

/// Reference, ladder and comparators, each with its light. Errors: what they cannot tell or bear.
Result<BarMade> bar_by_comparators(Sketch& sketch, const Bar& bar);
/// A bar driver chip with constant-current outputs, and what sets its range and current. Errors likewise.
Result<BarMade> bar_by_driver(Sketch& sketch, const Bar& bar);

}  // namespace elkit
