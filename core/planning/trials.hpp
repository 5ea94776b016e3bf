#pragma once
#include <optional>
#include <vector>

#include "planning/match.hpp"

namespace elkit {

/// Where the comparison of one kind of light with the reference stands.
struct TrialState {
    Part led;                         ///< of which kind
    int trials = 0;                   ///< looked at so far
    double low = 0, high = 0;         ///< A, between which the two look equal
    bool done = false;                ///< they looked the same, or what is left is less than is seen
    Figure resistor;                  ///< Ω to put in next; if it is done, the one that makes them equal
    Figure current;                   ///< A with it
    std::optional<Figure> intensity;  ///< cd at its test current, as the eye found it; when it is done
};

struct TrialsState {
    std::vector<TrialState> kinds;  ///< in the order of the question; the reference is done, without trials
    std::size_t reference = 0;      ///< the dimmest, with its full current all along
    Figure reference_resistor;
};

/// A staircase by halving: the current at which a kind looks as bright as the reference is first sought
/// within a factor of four of what the catalogue says, each trial in the geometric middle with a resistor
/// that exists; "brighter" makes its current the upper end, "dimmer" the lower one. An end that was not seen
/// yet moves along; what is seen otherwise later holds. It ends when both look the same or less than 15 % is
/// left, some five trials (differences of 10 to 20 % in light are just seen side by side with a free eye).
/// Trials with another current in the reference are scaled, light being in proportion to current; with
/// another reference they do not count. No LED gets more than it bears. Errors of match_lights().
Result<TrialsState> trial_states(const MatchQuestion& question, const std::vector<LightTrial>& trials);

/// Where a design's comparisons stand.
struct TrialsQuery {
    MatchQuery match;
    struct Value {
        MatchQuestion question;
        TrialsState state;
    };
    static constexpr std::string_view name = "trials";
    Digest key() const;
    Result<Value> compute(const Ask& ask) const;
};

/// The design with what was seen of a kind with the resistor that trial_states() gave it.
Design with_trial(const Design& design, const TrialsState& state, std::size_t kind,
                  LightTrial::Looked looked);
/// Without the trials of this kind of light.
Design without_trials(const Design& design, const std::string& led);
/// The design with the resistors that make the kinds equal which are done, and with the intensities that the
/// eye found in their LEDs.
Design with_trials_taken(const Design& design, const MatchQuestion& question, const TrialsState& state);

}  // namespace elkit
