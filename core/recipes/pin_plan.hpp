#pragma once
#include <optional>
#include <string>
#include <vector>

#include "behaviour/program.hpp"
#include "recipes/controller_parts.hpp"

namespace elkit {

/// Which pin of a controller does what, and what that costs it.
struct PinPlan {
    struct Use {
        std::string pin, what;  ///< "P0", "light 1"
        double amps = 0;        ///< of the pin, lit
    };
    const PartKind* kind = nullptr;
    std::vector<Use> lights;
    std::optional<Use> button;

    double most_at_once() const;  ///< A of all pins, all lit
    /// Each use, each group of pins and all together, beside what they are rated for.
    Figure figure() const;
};

/// Pins for lights that take so many amperes each, and for a button where one is wanted. No pin, group or
/// package gives more than taken_of() its rating. `dims`: only pins that dim. Design error for more
/// than the controller has or bears.
Result<PinPlan> plan_pins(const PartKind& kind, const std::vector<PinPlan::Use>& lights, bool dims,
                          bool button);

/// Of the time for which each output of a program is on, on average: over what it comes to, or over so many
/// seconds after all buttons were pressed once. Nothing is measured meanwhile.
std::vector<double> mean_shares(const Program& program, std::optional<double> after_press);

}  // namespace elkit
