#pragma once
#include <vector>

#include "engine/queries.hpp"
#include "light/flicker.hpp"
#include "quantity/figure.hpp"

namespace elkit {

/// Lights that are alike, as an eye finds them.
struct SightRow {
    std::string led;                  ///< what it is, "white 5 mm LED"
    std::vector<std::string> lights;  ///< designators, with the pin of a colour: "L1", "D1.r"
    bool visible = true;
    std::string caution;    ///< of its type; empty if none
    Figure on;              ///< cd of one straight ahead while it is on
    Figure share;           ///< % of the time, on average over its curve; 100 if it is steady
    Figure seen;            ///< perceived, % of the same light without a pause
    double frequency = 0;   ///< Hz of its pulses; 0 if it is steady
    double modulation = 0;  ///< %
    Flicker flicker = Flicker::steady;
    Figure average;      ///< cd of one straight ahead on average, behind diffuser or lens
    Figure illuminance;  ///< lx of one at the eye; not a number without a distance
    Figure luminance;    ///< cd/m² of one, its lens as a disc; not a number where its size is not known
};

struct Sight {
    std::vector<SightRow> rows;
    Figure together;            ///< lx of all at the eye
    double share_for_eyes = 1;  ///< of the light, with which the brightest is calm to look at; 1 if it is
    Figure glare;               ///< how many times as bright as that the brightest is
    bool near_eyes = false;     ///< the brief says that it is looked at from so near
};

/// What the eye gets from each kind of light: on average, in pulses, at a distance. Light is in proportion to
/// current; perceived as CIE 1976 lightness of the average luminance (Talbot-Plateau); E = I / d². Errors are
/// those of the engine.
struct SightQuery : Situated {
    SightQuery(const Keyed<Circuit>& of, const Conditions& under, double metres, double through)
        : Situated(of, under), distance(metres), factor(through) {}
    double distance;  ///< m; 0: not said
    double factor;    ///< of diffuser and lens, optics_factor()
    using Value = Sight;
    static constexpr std::string_view name = "sight";
    bool is_quick() const { return !may_move(*circuit); }
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

}  // namespace elkit
