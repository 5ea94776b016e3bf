#pragma once
#include <string>
#include <string_view>
#include <vector>

#include "command/command.hpp"

namespace elkit {

/// A line that the do-anything line would understand, and what it is about.
struct Suggestion {
    enum class About { station, action, part, net, goal, conditions } about = About::action;
    std::string line;
};

/// Every line that could be said of a design, whatever is typed; stations first, then parts, nets, goals,
/// conditions and actions. It tries every recipe: keep it while the design is the same.
std::vector<Suggestion> sayable(const Design& design, const std::vector<ActionName>& actions = {});

/// Of those and of the lines that go on from `text`: those that begin with it, then those that hold it.
std::vector<Suggestion> suggestions(const std::string& text, const Design& design,
                                    std::vector<Suggestion> sayable);

/// The `count` lines that are understood and nearest to one that is not: those that share words with it
/// first, then by the number of letters to change.
std::vector<std::string> nearest_lines(const std::string& text, const Design& design,
                                       std::vector<Suggestion> sayable, std::size_t count = 3);

/// How many letters to insert, leave out, replace or swap with their neighbour to make `b` of `a`: the
/// restricted edit distance of Damerau (1964).
std::size_t letters_apart(std::string_view a, std::string_view b);

}  // namespace elkit
