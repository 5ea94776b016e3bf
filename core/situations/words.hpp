#pragma once
#include <optional>
#include <string>
#include <vector>

#include "design/design.hpp"

namespace elkit {

/// "0.1 lx; S1 on; 1 s S2 on; 1.3 s S2 off": what sets a situation apart, in short.
std::string situation_text(const Situation& situation);

/// What to do to bring a built gadget into a situation: "Switch S1 on. Hold S2. Shade the light sensor."
/// Empty where there is nothing to do.
std::string situation_orders(const Circuit& circuit, const Situation& situation);

/// "1 s S2 on; 1.3 s S2 off".
std::string events_text(const std::vector<HandEvent>& events);

/// What the day plan says of a situation: "4 h", "30 × 20 s", "rest"; empty where it says nothing.
std::string day_text(const std::vector<DayUse>& use, const std::string& situation);
/// The other way round: `situation` is that of the result; nothing for an empty text. Usage error if it
/// cannot be read.
Result<std::optional<DayUse>> read_day(const std::string& text, const std::string& situation);

/// One event: "1s press S2", "1.3 s release S2", "2 s S1 on". Usage error if it cannot be read, or the
/// circuit has no such contact.
Result<HandEvent> read_event(const std::string& text, const Circuit& circuit);
/// Several, separated by semicolons, put in order of time; none for an empty text.
Result<std::vector<HandEvent>> read_events(const std::string& text, const Circuit& circuit);

}  // namespace elkit
