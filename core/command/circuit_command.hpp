#pragma once
#include <optional>
#include <string>
#include <vector>

#include "command/command.hpp"

namespace elkit {

/// Understands what changes the circuit itself: `r 470 from out to gate`, `cap 100n across supply`, `led red
/// from v+ to x`, `q1 npn c lamp b drive e gnd`, `delete r1`, `duplicate r1`, `rename r1 to r5`, `rename net
/// out to gate`, `r1.a to out`, `flip d1`, `replace r1 with potentiometer`. Nothing if the line is none of
/// these; usage error if it is one that cannot be done.
Result<std::optional<Command>> circuit_command(const std::string& line, const Design& design);

/// `press s1`, `release s1`, `rv1 at 30 %`, `lux 100`, `infrared 5`. Nothing if the line is none of these.
Result<std::optional<Command>> world_command(const std::string& line, const Design& design,
                                             const Conditions& conditions);

/// Lines that could come next in an insertion: nets after "from", "to", "across"; kinds at the start.
std::vector<std::string> circuit_completions(const std::string& text, const Design& design);

}  // namespace elkit
