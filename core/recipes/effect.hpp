#pragma once
#include "engine/queries.hpp"
#include "recipes/recipe.hpp"

namespace elkit {

/// What a recipe's light looks like over a while.
struct Effect {
    double seconds = 0;              ///< circuit time that it covers; 0: it stays as it is
    std::vector<double> brightness;  ///< perceived, 0…1 of its most, evenly spaced over that time
    double at(double seconds_from_start) const;  ///< over and over again
};

/// The effect of a recipe with these goals in a design of its own, from fresh cells: of what goes by itself a
/// few cycles, of what waits for a press the time after one, of what a knob dims the knob
/// turned up and back in three seconds. Errors: those of sizing and of simulate().
struct EffectQuery {
    std::string recipe;
    Goals goals;
    using Value = Effect;
    static constexpr std::string_view name = "effect";
    static constexpr std::size_t weight = 2;
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
