#pragma once
#include <optional>
#include <vector>

#include "design/design.hpp"
#include "engine/queries.hpp"
#include "planning/arrays.hpp"

namespace elkit {

/// Lights of several kinds that are to look equally bright.
struct MatchQuestion {
    Part source;
    struct Light {
        Part led;
        int leds = 1;                         ///< in its string
        int strings = 1;                      ///< of this kind, with a resistor each
        std::optional<LightsFeed> feed = {};  ///< what they get where they hang; nothing: source and contact
    };
    /// The line that feeds a kind of light, and the current that flows there, of `own` A into all of its
    /// strings and `all` A out of the source. Errors of the source's model.
    struct Fed {
        Thevenin line;
        double amps;
        double volts() const { return line.voltage - amps * line.resistance; }
    };
    Result<Fed> fed(const Light& light, double own, double all) const;
    std::vector<Light> lights;
    double current = 0.02;  ///< A that the dimmest kind gets; the others get less
    double contact = 0;     ///< Ω of a switch before them
    bool diffuse =
        false;  ///< seen on a screen or through a diffuser, where all the light counts, not the beam
    Series series = Series::e24;
    Rounding rounding = Rounding::nearest;
    std::vector<double> owned;  ///< resistors to choose from [Ω]; empty: any preferred value
};

struct MatchRow {
    Part led;
    int leds = 1;     ///< in each of its strings
    Figure resistor;  ///< Ω, of each of its strings, with how it was chosen
    Figure current;   ///< A that it takes then
    Figure light;     ///< cd, or lm if diffuse (as a plain number), then
    Figure looks;     ///< perceived, % of the dimmest kind at its full current
};

struct Match {
    std::vector<MatchRow> rows;  ///< in the order of the question
    std::size_t dimmest = 0;
    double apart = 0;  ///< ratio of the brightest to the dimmest after rounding, 1: equal
};

/// Resistors with which all lights look equal: the dimmest kind gets the current asked for; each other one
/// the current at which its luminous intensity, or flux, is the same, light being in proportion to current.
/// Then real values, and what they leave of the equality (CIE 1976 lightness). Source: CIE 127:2007 for
/// intensity and flux. Usage errors: no light, a kind that is not seen or whose angle is not known where it
/// counts, a current out of range; errors of size_string().
Result<Match> match_lights(const MatchQuestion& question);

/// The kinds of LEDs in a design whose strings have resistors of their own, as if each hung between the
/// source's nets: what a chip or transistor in the string takes is not counted. Design error without a source
/// or with fewer than two kinds.
Result<MatchQuestion> match_question(const Ask& ask, const Design& design, const Conditions& conditions);

/// The match of a design's own colours. Errors as match_question() and match_lights().
struct MatchQuery {
    Design design;
    Conditions conditions;
    bool diffuse = false;
    std::vector<double> owned;
    using Value = Match;
    static constexpr std::string_view name = "match";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// The design with these resistors in its strings.
Design with_match(const Design& design, const Match& match);

}  // namespace elkit
