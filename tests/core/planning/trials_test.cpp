// Lights made equal by eye: halving, and what is learned from it.
#include "planning/trials.hpp"

#include <cmath>

#include "support/designs.hpp"

namespace elkit {
namespace {

MatchQuestion three_colours() {
    MatchQuestion q;
    q.source = {"PS1", "supply", {{"voltage", 5.0}}, {{"+", "V+"}, {"-", "GND"}}, {}};
    for (const char* type : {"yellow-green-5mm", "red-5mm", "white-5mm"})
        q.lights.push_back({{"L1", "led", {{"type", std::string(type)}}, {}, {}}, 1, 1});
    q.current = 0.015;
    return q;
}

/// Someone at the bench, to whom the kind is `brighter` times as bright as the catalogue says.
int by_eye(const MatchQuestion& q, std::size_t kind, double brighter, TrialsState& state, Design& design) {
    const double equal = match_lights(q).value().rows[kind].current.value / brighter;
    int trials = 0;
    for (;; ++trials) {
        state = trial_states(q, design.trials).value();
        if (state.kinds[kind].done || trials > 12) return trials;
        const double ratio = state.kinds[kind].current.value / equal;
        const auto looked = ratio > 1.08   ? LightTrial::Looked::brighter
                            : ratio < 0.93 ? LightTrial::Looked::dimmer
                                           : LightTrial::Looked::same;
        design = with_trial(design, state, kind, looked);
    }
}

TEST(Trials, AHandfulFindsWhatTheEyeSees) {
    const MatchQuestion q = three_colours();
    for (const double brighter : {0.3, 0.6, 1.0, 1.7, 3.5, 8.0}) {
        Design design;
        TrialsState state;
        const int trials = by_eye(q, 1, brighter, state, design);
        EXPECT_LE(trials, brighter > 4 ? 7 : 6) << brighter;
        ASSERT_TRUE(state.kinds[1].intensity) << brighter;
        EXPECT_NEAR(std::log(state.kinds[1].intensity->value / (2.0 * brighter)), 0, 0.2)
            << "2 cd in the catalogue, " << brighter << " times as bright";
        EXPECT_FALSE(state.kinds[2].done) << "the other kind has not been looked at";
    }
}

TEST(Trials, TheReferenceKeepsItsCurrent) {
    const auto state = trial_states(three_colours(), {});
    ASSERT_TRUE(state) << state.error().text();
    EXPECT_EQ(state.value().reference, 0U) << "the dimmest";
    EXPECT_TRUE(state.value().kinds[0].done);
    EXPECT_EQ(state.value().kinds[1].trials, 0);
}

TEST(Trials, AChangeOfMindWidensTheInterval) {
    const MatchQuestion q = three_colours();
    Design d;
    auto state = trial_states(q, d.trials).value();
    d = with_trial(d, state, 1, LightTrial::Looked::brighter);
    const double high = trial_states(q, d.trials).value().kinds[1].high;
    LightTrial otherwise = d.trials.back();
    otherwise.current *= 1.5, otherwise.looked = LightTrial::Looked::dimmer;
    d.trials.push_back(otherwise);
    state = trial_states(q, d.trials).value();
    EXPECT_GT(state.kinds[1].low, high) << "what was seen last holds";
    EXPECT_GT(state.kinds[1].high, state.kinds[1].low);
    EXPECT_TRUE(without_trials(d, "red-5mm").trials.empty());
    EXPECT_EQ(without_trials(d, "white-5mm").trials.size(), 2U);
}

TEST(Trials, OtherReferencesDoNotCountOtherCurrentsAreScaled) {
    MatchQuestion q = three_colours();
    Design d;
    TrialsState state;
    by_eye(q, 1, 2, state, d);
    const double found = state.kinds[1].intensity->value;
    q.current = 0.0075;
    const auto half = trial_states(q, d.trials).value();
    ASSERT_TRUE(half.kinds[1].done);
    EXPECT_NEAR(half.kinds[1].intensity->value / found, 1, 1e-9);
    q.lights.erase(q.lights.begin());
    EXPECT_EQ(trial_states(q, d.trials).value().kinds[0].trials, 0);
}

TEST(Trials, NoLedIsTriedBeyondWhatItBears) {
    MatchQuestion q = three_colours();
    Design d;
    TrialsState state;
    q.current = 0.028;
    by_eye(q, 2, 0.01, state, d);
    for (const LightTrial& t : d.trials) EXPECT_LE(t.current, 0.0315) << "30 mA, next to a real resistor";
}

TEST(Trials, ResultAndIntensityGoIntoTheDesign) {
    Design d;
    d.circuit.parts.push_back({"PS1", "supply", {{"voltage", 5.0}}, {{"+", "V+"}, {"-", "GND"}}, {}});
    int n = 0;
    for (const char* type : {"yellow-green-5mm", "red-5mm"}) {
        const std::string at = std::to_string(++n);
        d.circuit.parts.push_back(
            {"R" + at, "resistor", {{"value", 150.0}}, {{"a", "V+"}, {"b", "A" + at}}, {}});
        d.circuit.parts.push_back(
            {"L" + at, "led", {{"type", std::string(type)}}, {{"a", "A" + at}, {"k", "GND"}}, {}});
    }
    Store store;
    const MatchQuestion q = match_question(Ask(store), d, {}).value();
    TrialsState state;
    by_eye(q, 1, 2, state, d);
    const Design taken = with_trials_taken(d, q, state);
    EXPECT_EQ(taken.circuit.find("R2")->number("value"), state.kinds[1].resistor.value);
    EXPECT_EQ(taken.circuit.find("R1")->number("value"), state.reference_resistor.value);
    EXPECT_NEAR(taken.circuit.find("L2")->number("intensity"), 4, 0.8) << "twice the catalogue's 2 cd";
    const auto again = trial_states(match_question(Ask(store), taken, {}).value(), taken.trials);
    EXPECT_TRUE(again.value().kinds[1].done) << "what was seen stays seen";
    EXPECT_NEAR(again.value().kinds[1].intensity->value, state.kinds[1].intensity->value, 0.02);
}

}  // namespace
}  // namespace elkit
