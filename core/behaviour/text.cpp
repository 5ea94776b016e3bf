// The table as text, to be kept with a part and typed.
#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <charconv>
#include <optional>
#include <sstream>

#include "behaviour/behaviour.hpp"
#include "quantity/duration.hpp"
#include "quantity/format.hpp"

namespace elkit {
namespace {

using Does = BehaviourRow::Does;
using On = BehaviourWhen::On;

constexpr std::array<std::pair<Does, const char*>, 9> does_words{{{Does::off, "off"},
                                                                  {Does::on, "on"},
                                                                  {Does::blink, "blink"},
                                                                  {Does::rise, "rise"},
                                                                  {Does::fall, "fall"},
                                                                  {Does::breathe, "breathe"},
                                                                  {Does::flicker, "flicker"},
                                                                  {Does::chase, "chase"},
                                                                  {Does::colours, "colours"}}};
constexpr std::array<std::pair<On, const char*>, 8> on_words{{{On::press, "press"},
                                                              {On::release, "release"},
                                                              {On::hold, "hold"},
                                                              {On::high, "high"},
                                                              {On::low, "low"},
                                                              {On::above, "above"},
                                                              {On::below, "below"},
                                                              {On::after, "after"}}};
constexpr double shortest = 0.01, longest = 72'000;  // s
constexpr std::size_t most_states = 40, most_rows = 40;

template <class Words>
auto word_of(const Words& words, std::string_view typed) {
    const auto found =
        std::find_if(words.begin(), words.end(), [&](const auto& w) { return w.second == typed; });
    return found == words.end() ? std::nullopt : std::optional(found->first);
}

template <class Words, class Value>
const char* word_for(const Words& words, Value value) {
    return std::find_if(words.begin(), words.end(), [&](const auto& w) { return w.first == value; })->second;
}

std::optional<double> plain_number(std::string_view text) {
    double value = 0;
    const auto [end, trouble] = std::from_chars(text.data(), text.data() + text.size(), value);
    return trouble == std::errc() && end == text.data() + text.size() ? std::optional(value) : std::nullopt;
}

/// "40%": 0.4.
std::optional<double> share_of(std::string_view text) {
    if (!text.ends_with('%')) return std::nullopt;
    const auto n = plain_number(text.substr(0, text.size() - 1));
    return n && *n >= 0 && *n <= 100 ? std::optional(*n / 100) : std::nullopt;
}

/// "ff8000".
std::optional<std::array<int, 3>> colour_of_text(std::string_view text) {
    if (text.size() != 6) return std::nullopt;
    std::array<int, 3> rgb{};
    for (std::size_t k = 0; k < 3; ++k) {
        const auto [end, trouble] = std::from_chars(text.data() + 2 * k, text.data() + 2 * k + 2, rgb[k], 16);
        if (trouble != std::errc() || end != text.data() + 2 * k + 2) return std::nullopt;
    }
    return rgb;
}

/// One statement, taken word by word.
class Statement {
  public:
    Statement(std::string text, std::size_t number) : text_(std::move(text)), number_(number) {
        std::istringstream in(text_);
        for (std::string word; in >> word;) words_.push_back(word);
    }
    bool done() const { return at_ >= words_.size(); }
    const std::string& peek() const { return done() ? nothing_ : words_[at_]; }
    std::string take() { return done() ? std::string() : words_[at_++]; }
    bool take(std::string_view word) { return peek() == word && (++at_, true); }
    Error wrong(const std::string& expected) const {
        return {
            Fault::usage, fmt::format("behaviour, statement {}", number_),
            done() ? fmt::format("\"{}\" ends there", text_) : fmt::format("\"{}\" in \"{}\"", peek(), text_),
            expected};
    }
    Result<double> time() {
        const auto s = plain_seconds(peek());
        if (!s || *s < shortest || *s > longest) return wrong("a time from 10ms to 20h, such as 2s or 300ms");
        ++at_;
        return *s;
    }
    Result<double> share() {
        const auto s = share_of(peek());
        if (!s) return wrong("a share such as 40%");
        ++at_;
        return *s;
    }

  private:
    std::string text_, nothing_;
    std::size_t number_;
    std::vector<std::string> words_;
    std::size_t at_ = 0;
};

Result<void> read_colours(Statement& s, BehaviourRow& row) {
    if (row.pins.size() != 3) return s.wrong("three pins before it: red, green, blue");
    while (const auto rgb = colour_of_text(s.peek())) row.colours.push_back(*rgb), s.take();
    if (row.colours.size() < 2) return s.wrong("two colours at least, such as ff0000 00ff00");
    return success();
}

Result<void> read_row(Statement& s, std::vector<std::string> pins, Does does, BehaviourState& state) {
    BehaviourRow row;
    row.does = does, row.pins = std::move(pins);
    if (does == Does::colours)
        if (auto read = read_colours(s, row); !read) return read;
    if (does == Does::chase && row.pins.size() < 2) return s.wrong("two pins at least before it");
    if (does != Does::off && does != Does::on) {
        auto time = s.time();
        if (!time) return time.error();
        row.seconds = time.value();
    }
    if ((does == Does::on || does == Does::blink) && !s.done()) {
        auto share = s.share();
        if (!share) return share.error();
        (does == Does::on ? row.level : row.share) = share.value();
    }
    if (!s.done()) return s.wrong("the end of the statement");
    state.rows.push_back(std::move(row));
    return success();
}

Result<void> read_when(Statement& s, On on, BehaviourState& state) {
    BehaviourWhen when;
    when.on = on;
    if (on != On::after) when.pin = s.take();
    if (on == On::hold || on == On::after) {
        auto time = s.time();
        if (!time) return time.error();
        when.amount = time.value();
    }
    if (on == On::above || on == On::below) {
        auto share = s.share();
        if (!share) return share.error();
        when.amount = share.value();
    }
    if (!s.take("to")) return s.wrong("\"to\" and a state");
    if (s.done()) return s.wrong("a state");
    when.to = s.take();
    if (!s.done()) return s.wrong("the end of the statement");
    state.whens.push_back(std::move(when));
    return success();
}

Result<void> read_state(Statement& s, Behaviour& b) {
    if (s.done()) return s.wrong("a name for the state");
    const auto same = [&](const BehaviourState& other) {
        return std::equal(other.name.begin(), other.name.end(), s.peek().begin(), s.peek().end(),
                          [](char x, char y) { return (x | 0x20) == (y | 0x20); });
    };
    if (std::any_of(b.states.begin(), b.states.end(), same))
        return s.wrong("another name: that state is there");
    if (!std::all_of(s.peek().begin(), s.peek().end(), [](unsigned char c) {
            return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_';
        }))
        return s.wrong("a name of letters, digits and _");
    BehaviourState state;
    state.name = s.take();
    state.sleeps = s.take("sleeps");
    if (state.sleeps && !s.done()) {
        auto time = s.time();
        if (!time) return time.error();
        state.looks = time.value();
    }
    if (!s.done()) return s.wrong("nothing, \"sleeps\", or \"sleeps\" and how often it looks, such as 2s");
    b.states.push_back(std::move(state));
    return success();
}

Result<void> read_statement(Statement& s, Behaviour& b) {
    if (s.take("state")) return read_state(s, b);
    if (s.take("sinks")) {
        if (s.done()) return s.wrong("the pins whose lights hang on plus");
        while (!s.done()) b.sinks.push_back(s.take());
        return success();
    }
    if (b.states.empty()) return s.wrong("\"state\" and its name first");
    if (const auto on = word_of(on_words, s.peek())) return s.take(), read_when(s, *on, b.states.back());
    std::vector<std::string> pins;
    while (!s.done() && !word_of(does_words, s.peek())) pins.push_back(s.take());
    const auto does = word_of(does_words, s.peek());
    if (!does) {
        std::vector<const char*> known;
        for (const auto& [value, word] : does_words) known.push_back(word);
        return s.wrong(
            fmt::format("pins and what they do: {}; or what leads to another state", fmt::join(known, ", ")));
    }
    if (pins.empty()) return s.wrong("the pins before it");
    s.take();
    return read_row(s, std::move(pins), *does, b.states.back());
}

/// Errors: a table without states, a way to a state that is not there, too much.
Result<void> makes_sense(const Behaviour& b) {
    const auto wrong = [](std::string found, std::string expected) {
        return Error{Fault::usage, "behaviour", std::move(found), std::move(expected)};
    };
    if (b.states.empty()) return wrong("it has no state", "\"state\" and a name, then what pins do");
    if (b.states.size() > most_states)
        return wrong(fmt::format("{} states", b.states.size()), fmt::format("{} at most", most_states));
    for (const BehaviourState& state : b.states) {
        if (state.rows.size() > most_rows || state.whens.size() > most_rows)
            return wrong("state " + state.name + " has too many rows", fmt::format("{} at most", most_rows));
        std::vector<std::string> seen;
        for (const BehaviourRow& row : state.rows)
            for (const std::string& pin : row.pins) {
                if (std::find(seen.begin(), seen.end(), pin) != seen.end())
                    return wrong(fmt::format("state {} says twice what {} does", state.name, pin), "once");
                seen.push_back(pin);
            }
        if (state.sleeps && std::any_of(state.rows.begin(), state.rows.end(),
                                        [](const BehaviourRow& r) { return r.does != Does::off; }))
            return wrong("state " + state.name + " sleeps and yet shows something",
                         "all pins off in a state that sleeps");
        for (const BehaviourWhen& when : state.whens) {
            const bool timed = when.on == On::after || when.on == On::above || when.on == On::below;
            if (state.sleeps && (when.on == On::hold || (timed && state.looks == 0)))
                return wrong(
                    "state " + state.name + " sleeps and cannot measure or count",
                    state.looks > 0
                        ? "press, release, high, low, above, below or after"
                        : "press, release, high or low to wake it; or how often it looks: sleeps 2s");
            if (std::none_of(b.states.begin(), b.states.end(),
                             [&](const BehaviourState& s) { return s.name == when.to; }))
                return wrong("there is no state " + when.to, "one of the table");
        }
    }
    return success();
}

std::string percent_text(double share) { return format_plain(std::round(share * 1e4) / 100) + "%"; }

std::string statement_of(const BehaviourRow& row) {
    std::string text = fmt::format("{} {}", fmt::join(row.pins, " "), word_for(does_words, row.does));
    for (const auto& c : row.colours) text += fmt::format(" {:02x}{:02x}{:02x}", c[0], c[1], c[2]);
    if (row.does != Does::off && row.does != Does::on) text += " " + plain_seconds(row.seconds);
    if (row.does == Does::on && row.level < 1) text += " " + percent_text(row.level);
    if (row.does == Does::blink && row.share != 0.5) text += " " + percent_text(row.share);
    return text;
}

std::string statement_of(const BehaviourWhen& when) {
    std::string text = word_for(on_words, when.on);
    if (!when.pin.empty()) text += " " + when.pin;
    if (when.on == On::hold || when.on == On::after) text += " " + plain_seconds(when.amount);
    if (when.on == On::above || when.on == On::below) text += " " + percent_text(when.amount);
    return text + " to " + when.to;
}

}  // namespace

Result<Behaviour> behaviour_of(std::string_view text) {
    if (text.size() > longest_table)
        return Error{Fault::usage, "behaviour", fmt::format("{} characters", text.size()),
                     fmt::format("{} at most", longest_table)};
    Behaviour b;
    std::size_t number = 0;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find_first_of(";\n"), text.size());
        Statement s(std::string(text.substr(0, end)), ++number);
        text.remove_prefix(std::min(end + 1, text.size()));
        if (s.done()) continue;
        if (auto read = read_statement(s, b); !read) return read.error();
    }
    if (auto good = makes_sense(b); !good) return good.error();
    return b;
}

std::string text_of(const Behaviour& b) {
    std::vector<std::string> all;
    if (!b.sinks.empty()) all.push_back(fmt::format("sinks {}", fmt::join(b.sinks, " ")));
    for (const BehaviourState& state : b.states) {
        all.push_back("state " + state.name + (state.sleeps ? " sleeps" : "") +
                      (state.looks > 0 ? " " + plain_seconds(state.looks) : ""));
        for (const BehaviourRow& row : state.rows) all.push_back(statement_of(row));
        for (const BehaviourWhen& when : state.whens) all.push_back(statement_of(when));
    }
    return fmt::format("{}", fmt::join(all, "; "));
}

}  // namespace elkit
