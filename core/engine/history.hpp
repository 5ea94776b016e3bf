#pragma once
#include "engine/stepper.hpp"
#include "engine/transient.hpp"

namespace elkit {

/// True if what happened before can matter for long: something with gain, which may latch or keep a charge.
bool remembers(const Circuit& circuit);

/// True if a part keeps a state that no net tells of: a controller in its table, a module that turns over at
/// each press. What happened before then has to happen again under other conditions.
bool keeps_to_itself(const Circuit& circuit);

/// A hand at a contact. A circuit that remembers gets a press as something that happens a second after all
/// that happened before; of any other, and of contacts that stay while nothing has happened yet, it only
/// matters how they stand.
void put_hand(Conditions& conditions, const Circuit& circuit, const std::string& contact, bool on);

/// The events of the conditions as changes of a run from power-up.
std::vector<TimedChange> changes_of(const Conditions& conditions);

/// Carries a stepper that has just started from power-up through all events, to a little after the last. What
/// repeats in between is not followed cycle by cycle. Errors as simulate().
Result<void> live_through(const Conditions& conditions, System& system, Stepper& stepper,
                          const Accuracy& accuracy);

}  // namespace elkit
