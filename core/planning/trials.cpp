#include "planning/trials.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "design/content.hpp"
#include "engine/models.hpp"
#include "light/strings.hpp"
#include "planning/comparison.hpp"
#include "recipes/blocks.hpp"
#include "recipes/string_resistor.hpp"

namespace elkit {
namespace {

constexpr double first_reach = 4;   // times what the catalogue says, either way
constexpr double just_seen = 1.15;  // ratio of two lights side by side

class Staircase {
  public:
    Staircase(const MatchQuestion& q, const std::vector<LightTrial>& trials) : q_(q), trials_(trials) {}

    Result<TrialsState> climb() {
        auto match = match_lights(q_);
        if (!match) return match.error();
        TrialsState all;
        all.reference = match.value().dimmest;
        all.reference_resistor = match.value().rows[all.reference].resistor;
        reference_ = match.value().rows[all.reference].led.text("type");
        reference_current_ = match.value().rows[all.reference].current.value;
        for (std::size_t k = 0; k < q_.lights.size(); ++k) {
            if (k == all.reference) {
                TrialState state;
                state.led = q_.lights[k].led, state.done = true;
                state.resistor = all.reference_resistor, state.current = match.value().rows[k].current;
                all.kinds.push_back(std::move(state));
                continue;
            }
            auto state = one(q_.lights[k], match.value().rows[k].current.value);
            if (!state) return state.error();
            all.kinds.push_back(std::move(state).value());
        }
        return all;
    }

  private:
    Result<TrialState> one(const MatchQuestion::Light& light, double expected) const {
        TrialState state;
        state.led = light.led;
        state.low = expected / first_reach, state.high = expected * first_reach;
        const std::string type = light.led.text("type");
        double same = 0;
        bool brighter = false, dimmer = false;  // that end of the interval was seen
        for (const LightTrial& t : trials_) {
            if (t.led != type || t.reference != reference_) continue;
            ++state.trials;
            const double at = t.current * reference_current_ / t.reference_current;
            if (t.looked == LightTrial::Looked::same) same = at;
            if (t.looked == LightTrial::Looked::brighter) {
                state.high = at, brighter = true;
                if (!dimmer || state.low >= at) state.low = at / first_reach, dimmer = false;
            }
            if (t.looked == LightTrial::Looked::dimmer) {
                state.low = at, dimmer = true;
                if (!brighter || state.high <= at) state.high = at * first_reach, brighter = false;
            }
        }
        state.done = same > 0 || (brighter && dimmer && state.high < just_seen * state.low);
        const double bears = light.led.number("max_current");
        double wanted = same > 0 ? same : std::sqrt(state.low * state.high);
        if (bears > 0) wanted = std::min(wanted, bears);
        if (auto sized = resistor(light, wanted, state); !sized) return sized.error();
        if (state.done) calibrate(light, wanted, state);
        return state;
    }

    /// The real resistor next to a current, and the current that it gives.
    Result<void> resistor(const MatchQuestion::Light& light, double wanted, TrialState& state) const {
        const auto fed = q_.fed(light, wanted, wanted + reference_current_);
        if (!fed) return fed.error();
        auto sized = size_string({.source = q_.source,
                                  .led = light.led,
                                  .leds = light.leds,
                                  .led_current = wanted,
                                  .current = wanted,
                                  .total = fed.value().amps,
                                  .contact = q_.contact,
                                  .series = q_.series,
                                  .rounding = Rounding::nearest,
                                  .owned = q_.owned,
                                  .feed = light.feed ? std::optional(fed.value().line) : std::nullopt});
        if (!sized) return sized.error();
        auto law = junction_model(light.led, known_catalogue(), bench_warmth, 0);
        if (!law) return law.error();
        const double ohms = sized.value().value;
        const Junction in_a_row{law.value().saturation, light.leds * law.value().slope,
                                light.leds * law.value().resistance + ohms};
        const double amps = in_a_row.at(fed.value().volts()).current;
        const std::string type = light.led.text("type"), id = "trial." + type + ".";
        state.resistor = {id + "resistor",      "resistor to try with " + type, ohms, Unit::ohm, {}, {},
                          sized.value().working};
        const std::string between = fmt::format(
            "equal between {} and {}: the geometric middle is {}", format_quantity(state.low, Unit::ampere),
            format_quantity(state.high, Unit::ampere), format_quantity(wanted, Unit::ampere));
        state.resistor.working.insert(state.resistor.working.begin(), between);
        state.current = {id + "current",
                         "current of " + type + " on trial",
                         amps,
                         Unit::ampere,
                         {},
                         {},
                         {between, fmt::format("with {}: {}", format_quantity(ohms, Unit::ohm),
                                               format_quantity(amps, Unit::ampere))}};
        return success();
    }

    /// Equal light: I k (its intensity / its test current) = I reference (intensity / test current).
    void calibrate(const MatchQuestion::Light& light, double equal, TrialState& state) const {
        const auto mine = dies(light.led, known_catalogue());
        const auto of_reference = std::find_if(q_.lights.begin(), q_.lights.end(), [&](const auto& other) {
            return other.led.text("type") == reference_;
        });
        if (mine.empty() || of_reference == q_.lights.end()) return;
        const auto theirs = dies(of_reference->led, known_catalogue());
        if (theirs.empty()) return;
        const LightDie &m = mine.front(), &t = theirs.front();
        const double candela = reference_current_ * t.intensity / t.test_current * m.test_current / equal;
        state.intensity = Figure{
            "trial." + light.led.text("type") + ".intensity",
            "intensity of " + light.led.text("type") + " as seen",
            candela,
            Unit::candela,
            {},
            {},
            {fmt::format("{} of it look like {} of {}", format_quantity(equal, Unit::ampere),
                         format_quantity(reference_current_, Unit::ampere), reference_),
             fmt::format(
                 "at its {}: {}, the catalogue says {}", format_quantity(m.test_current, Unit::ampere),
                 format_quantity(candela, Unit::candela), format_quantity(m.intensity, Unit::candela))}};
    }

    const MatchQuestion& q_;
    const std::vector<LightTrial>& trials_;
    std::string reference_;
    double reference_current_ = 0;
};

}  // namespace

Result<TrialsState> trial_states(const MatchQuestion& question, const std::vector<LightTrial>& trials) {
    return Staircase(question, trials).climb();
}

Digest TrialsQuery::key() const {
    Digester d;
    d << match.key() << content_digest(match.design.trials);
    return d.digest();
}

Result<TrialsQuery::Value> TrialsQuery::compute(const Ask& ask) const {
    auto question = match_question(ask, match.design, match.conditions);
    if (!question) return question.error();
    question.value().diffuse = match.diffuse, question.value().owned = match.owned;
    auto state = trial_states(question.value(), match.design.trials);
    if (!state) return state.error();
    return Value{std::move(question).value(), std::move(state).value()};
}

Design with_trial(const Design& design, const TrialsState& state, std::size_t kind,
                  LightTrial::Looked looked) {
    const TrialState &tried = state.kinds.at(kind), &reference = state.kinds.at(state.reference);
    Design next = design;
    next.trials.push_back({tried.led.text("type"),
                           reference.led.text("type"),
                           tried.resistor.value,
                           tried.current.value,
                           reference.current.value,
                           looked,
                           {}});
    return next;
}

Design without_trials(const Design& design, const std::string& led) {
    Design next = design;
    std::erase_if(next.trials, [&](const LightTrial& t) { return t.led == led; });
    return next;
}

Design with_trials_taken(const Design& design, const MatchQuestion& question, const TrialsState& state) {
    Circuit next = design.circuit;
    for (const LedString& s : led_strings(design.circuit))
        for (std::size_t k = 0; k < state.kinds.size(); ++k) {
            const TrialState& kind = state.kinds[k];
            if (!kind.done || s.leds.front()->text("type") != kind.led.text("type")) continue;
            if (s.resistor && static_cast<int>(s.leds.size()) == question.lights[k].leds)
                next.find(s.resistor->designator)->params["value"] = kind.resistor.value;
            for (const Part* led : s.leds)
                if (kind.intensity) next.find(led->designator)->params["intensity"] = kind.intensity->value;
        }
    return with_circuit(design, std::move(next));
}

}  // namespace elkit
