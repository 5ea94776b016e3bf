#include "behaviour/rows.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>

namespace elkit {
namespace {

using Is = BehaviourLine::Is;

bool is_word(const std::vector<std::string>& words, const std::string& word) {
    return std::find(words.begin(), words.end(), word) != words.end();
}

std::vector<std::string> words_in(const std::string& text) {
    std::vector<std::string> words;
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find(' ', at), text.size());
        if (end > at) words.push_back(text.substr(at, end - at));
        at = end + 1;
    }
    return words;
}

/// One statement of the written table as a row.
BehaviourLine line_of(const std::string& statement) {
    std::vector<std::string> words = words_in(statement);
    BehaviourLine line;
    const auto rest = [&](std::size_t from, std::size_t to) {
        return fmt::format("{}", fmt::join(words.begin() + static_cast<std::ptrdiff_t>(from),
                                           words.begin() + static_cast<std::ptrdiff_t>(to), " "));
    };
    if (words.front() == "state") {
        line.pins = words.at(1), line.what = words.size() > 2 ? "sleeps" : "awake";
        if (words.size() > 3) line.how = words[3];
        return line;
    }
    if (is_word(behaviour_words(Is::leads), words.front())) {
        line.is = Is::leads, line.what = words.front(), line.to = words.back();
        const std::size_t pin = line.what == "after" ? 1 : 2;
        line.pins = rest(1, pin), line.how = rest(pin, words.size() - 2);
        return line;
    }
    line.is = Is::shows;
    const auto known = behaviour_words(Is::shows);
    const auto what =
        std::find_if(words.begin(), words.end(), [&](const auto& w) { return is_word(known, w); });
    const auto at = static_cast<std::size_t>(what - words.begin());
    line.what = *what, line.pins = rest(0, at), line.how = rest(at + 1, words.size());
    return line;
}

std::string statement_of(const BehaviourLine& line) {
    switch (line.is) {
        case Is::state:
            return fmt::format("state {} {} {}", line.pins, line.what == "sleeps" ? "sleeps" : "", line.how);
        case Is::shows:
            return fmt::format("{} {} {}", line.pins, line.what, line.how);
        case Is::leads:
            break;
    }
    return fmt::format("{} {} {} to {}", line.what, line.pins, line.how, line.to);
}

}  // namespace

std::vector<std::string> behaviour_words(Is is) {
    if (is == Is::state) return {"awake", "sleeps"};
    if (is == Is::shows)
        return {"off", "on", "blink", "rise", "fall", "breathe", "flicker", "chase", "colours"};
    return {"press", "release", "hold", "high", "low", "above", "below", "after"};
}

BehaviourLine another_line(Is is, const std::vector<BehaviourLine>& lines,
                           const std::vector<std::string>& pins) {
    const auto named = [&](const std::string& word) {
        return std::any_of(lines.begin(), lines.end(),
                           [&](const BehaviourLine& line) { return is_word(words_in(line.pins), word); });
    };
    if (is == Is::shows) {
        const auto free = std::find_if_not(pins.begin(), pins.end(), named);
        return {is, "on", free == pins.end() ? pins.front() : *free, "", ""};
    }
    if (is == Is::leads) return {is, "after", "", "2s", lines.empty() ? "" : lines.front().pins};
    int n = 1;
    while (named("state" + std::to_string(n))) ++n;
    return {is, "awake", "state" + std::to_string(n), "", ""};
}

std::vector<BehaviourLine> lines_of(const Behaviour& behaviour) {
    Behaviour plain = behaviour;
    plain.sinks.clear();
    std::vector<BehaviourLine> lines;
    const std::string text = text_of(plain);
    for (std::size_t at = 0; at < text.size();) {
        const std::size_t end = std::min(text.find("; ", at), text.size());
        lines.push_back(line_of(text.substr(at, end - at)));
        at = end + 2;
    }
    return lines;
}

Result<Behaviour> with_lines(const std::vector<BehaviourLine>& lines, const std::vector<std::string>& sinks) {
    std::vector<std::string> statements;
    if (!sinks.empty()) statements.push_back(fmt::format("sinks {}", fmt::join(sinks, " ")));
    for (const BehaviourLine& line : lines) statements.push_back(statement_of(line));
    return behaviour_of(fmt::format("{}", fmt::join(statements, "; ")));
}

Behaviour beginning_in(Behaviour behaviour, const std::string& state) {
    const auto found = std::find_if(behaviour.states.begin(), behaviour.states.end(),
                                    [&](const BehaviourState& s) { return s.name == state; });
    if (found != behaviour.states.end()) std::rotate(behaviour.states.begin(), found, found + 1);
    return behaviour;
}

}  // namespace elkit
