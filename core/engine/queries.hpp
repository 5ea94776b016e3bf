#pragma once
#include <optional>

#include "circuit/content.hpp"
#include "engine/conditions.hpp"
#include "engine/long_run.hpp"
#include "engine/operating_point.hpp"
#include "store/store.hpp"

/// What the engine is asked for. Conditions that no part of the circuit reads are no part of a key.
namespace elkit {

/// The conditions as this circuit sees them: those that none of its parts reads stand at their usual values,
/// contacts and knobs that are not set stand as drawn.
Conditions as_seen(const Circuit& circuit, const Conditions& conditions);
Digest content_digest(const Conditions& conditions);
Digest content_digest(const Corner& corner);

/// Every switch closed: the light is on. Buttons, changeovers and knobs stay as they are; so does everything
/// in a situation, whose contacts stand as they are set.
Conditions lit(const Circuit& circuit, Conditions conditions);
/// Lit, from fresh cells: what most judgements rest on.
Conditions fresh(const Circuit& circuit, const Conditions& conditions);

/// A circuit under conditions, at a place in its spread.
struct Situated {
    Keyed<Circuit> circuit;
    Conditions conditions;
    Corner corner = {};
    Situated(Keyed<Circuit> of, const Conditions& under, Corner at = {})
        : circuit(std::move(of)), conditions(as_seen(*circuit, under)), corner(std::move(at)) {}
    Digest key() const;
};

/// Where it settles (operating_point()).
struct RestQuery : Situated {
    using Situated::Situated;
    using Value = OperatingPoint;
    static constexpr std::string_view name = "operating point";
    static constexpr bool quick = true;
    Result<Value> compute(const Ask& ask) const;
};

/// What it does in the long run (long_run()).
struct RunQuery : Situated {
    using Situated::Situated;
    using Value = LongRun;
    static constexpr std::string_view name = "long run";
    static constexpr std::size_t weight = 60;
    Result<Value> compute(const Ask& ask) const;
};

/// What a circuit reads while one of its lights is on, of a long run that is kept for it.
class WhileOn {
  public:
    WhileOn(const Circuit& circuit, Answer<LongRun> run, const std::string& light,
            const std::string& pin = {})
        : run_(std::move(run)) {
        if (run_ && run_->moves()) moment_ = run_->while_on(circuit, light, pin);
    }
    explicit operator bool() const { return static_cast<bool>(run_); }  ///< false: the run failed
    const OperatingPoint& operator*() const { return moment_ ? *moment_ : run_->mean(); }
    const OperatingPoint* operator->() const { return &**this; }
    const LongRun& run() const { return *run_; }

  private:
    Answer<LongRun> run_;
    std::optional<OperatingPoint> moment_;
};

/// Its states of rest where it may have several, power-up's first; one otherwise.
struct StatesQuery : Situated {
    using Situated::Situated;
    using Value = std::vector<OperatingPoint>;
    static constexpr std::string_view name = "states of rest";
    Result<Value> compute(const Ask& ask) const;
};

/// Two transistors or a chip with feedback: only then can a circuit rest in more than one state.
bool may_latch(const Circuit& circuit);

}  // namespace elkit
