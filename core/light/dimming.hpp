#pragma once
#include "engine/queries.hpp"
#include "quantity/preferred.hpp"

namespace elkit {

/// The circuit with resistors with which its lights get this share, 0.001 to 1,000, of the current that they
/// have while they are on: of each string with a resistor, its own or shared, next to
/// R' = (I R + V LEDs(I) − V LEDs(share · I)) / (share · I) among preferred values, not more
/// light than asked for if that is less than now, with the rating that its heat asks for. What else is in the
/// string is taken as it is. Usage error for the share; design error if no string has a resistor, or nothing
/// lights; those of the engine.
struct ScaledLightQuery : Situated {
    ScaledLightQuery(const Keyed<Circuit>& of, const Conditions& under, double share_of_light)
        : Situated(of, under), share(share_of_light) {}
    double share;
    using Value = Circuit;
    static constexpr std::string_view name = "scaled light";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
