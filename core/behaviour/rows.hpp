#pragma once
#include <string>
#include <vector>

#include "behaviour/behaviour.hpp"

/// The table as rows to be edited one by one.
namespace elkit {

struct BehaviourLine {
    enum class Is { state, shows, leads } is = Is::state;
    std::string what;  ///< of a state "awake" or "sleeps"; "blink", "press" and the like
    std::string pins;  ///< of a state its name; pins, with a space between
    std::string how;   ///< "4s", "1s 30%", "ff0000 00ff00 6s"
    std::string to;    ///< the state that it leads to
    bool operator==(const BehaviourLine&) const = default;
};

/// The words that stand for `what`.
std::vector<std::string> behaviour_words(BehaviourLine::Is is);

/// A row of a kind to begin with: a state of a new name, the first of `pins` that no row names and lights it,
/// or a way back to the first state.
BehaviourLine another_line(BehaviourLine::Is is, const std::vector<BehaviourLine>& lines,
                           const std::vector<std::string>& pins);

/// Its rows in order, each state followed by what it shows and what leads on; pins that sink are left to
/// with_lines().
std::vector<BehaviourLine> lines_of(const Behaviour& behaviour);
/// The table of these rows, with the pins that sink. Errors as behaviour_of().
Result<Behaviour> with_lines(const std::vector<BehaviourLine>& lines, const std::vector<std::string>& sinks);
/// The same beginning in another of its states, such as to watch that one.
Behaviour beginning_in(Behaviour behaviour, const std::string& state);

}  // namespace elkit
