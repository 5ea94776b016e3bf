#include "command/recipe_command.hpp"

#include <fmt/format.h>
#include <fmt/ranges.h>

#include <algorithm>
#include <cmath>
#include <sstream>

#include "catalogue/catalogue.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"
#include "recipes/asking.hpp"
#include "recipes/blocks.hpp"
#include "recipes/ways_out.hpp"
#include "words/words.hpp"

namespace elkit {
namespace {

using Said = std::map<std::string, ParamValue>;

Words words_of(const std::string& text) {
    Words words;
    std::istringstream stream(text);
    static const std::map<std::string, std::string> numbers{
        {"two", "2"},      {"three", "3"},   {"four", "4"},    {"five", "5"},   {"six", "6"},
        {"seven", "7"},    {"eight", "8"},   {"nine", "9"},    {"ten", "10"},   {"twelve", "12"},
        {"fifteen", "15"}, {"twenty", "20"}, {"thirty", "30"}, {"forty", "40"}, {"sixty", "60"}};
    for (std::string word; stream >> word;) {
        const auto number = numbers.find(lower_case(word));
        words.push_back(number == numbers.end() ? word : number->second);
    }
    return words;
}

double seconds_in(const std::string& word) {
    if (is_among(word, {"second", "s", "sec"})) return 1;
    if (is_among(word, {"minute", "min"})) return 60;
    return is_among(word, {"hour", "h"}) ? 3600 : 0;
}

/// Reads the words after a recipe's own, one after the other.
class Listener {
  public:
    Listener(const Recipe& recipe, Words words) : recipe_(recipe), words_(std::move(words)) {}

    Result<Said> listen() {
        while (at_ < words_.size())
            if (!(often() || every() || amount() || choice() || filler()))
                return usage(words_[at_], "no goal of a " + recipe_.name + " takes this", expected());
        return std::move(said_);
    }

  private:
    std::string word(std::size_t ahead = 0) const {
        return at_ + ahead < words_.size() ? lower_case(words_[at_ + ahead]) : std::string();
    }
    const GoalInfo* goal_in(Unit unit) const {
        for (const GoalInfo& g : recipe_.goals)
            if (g.info.unit == unit && std::holds_alternative<double>(g.info.standard) &&
                !said_.contains(g.info.key))
                return &g;
        return nullptr;
    }
    bool take(Unit unit, double value, std::size_t words) {
        const GoalInfo* goal = goal_in(unit);
        if (!goal) return false;
        said_[goal->info.key] = value;
        at_ += words;
        return true;
    }

    /// "twice a second", "30 times a minute", "once every 2 minutes".
    bool often() {
        double times = 0;
        std::size_t used = 1;
        if (is_among(word(), {"once"})) times = 1;
        if (is_among(word(), {"twice"})) times = 2;
        if (is_among(word(1), {"times", "time"}))
            if (const auto n = parse_quantity(word(), Unit::none)) times = n.value(), used = 2;
        if (!(times > 0)) return false;
        if (word(used) == "every")  // "once every 2 minutes"
            if (const auto [span, more] = time_at(used + 1); span > 0)
                return take(Unit::hertz, times / span, used + 1 + more);
        if (is_among(word(used), {"a", "per", "each", "every"})) ++used;
        const double span = seconds_in(word(used));
        return span > 0 && take(Unit::hertz, times / span, used + 1);
    }
    /// "every 3 s", "every 2 minutes", "every second".
    bool every() {
        if (word() != "every") return false;
        auto [value, used] = time_at(1);
        if (const double span = seconds_in(word(1)); span > 0) value = span, used = 1;
        return value > 0 && (take(Unit::hertz, 1 / value, 1 + used) || take(Unit::second, value, 1 + used));
    }
    /// A time with its unit, as one word or two, and how many they were.
    std::pair<double, std::size_t> time_at(std::size_t ahead) const {
        std::string unit = word(ahead + 1);
        if (unit.size() > 3 && unit.ends_with('s')) unit.pop_back();
        if (const auto n = parse_quantity(word(ahead), Unit::none); n && seconds_in(unit) > 0)
            return {n.value() * seconds_in(unit), 2};
        for (const char* end : {"min", "h"})
            if (word(ahead).ends_with(end))
                if (const auto n = parse_quantity(
                        word(ahead).substr(0, word(ahead).size() - std::string(end).size()), Unit::none))
                    return {n.value() * seconds_in(end), 1};
        return {one_amount(Unit::second, ahead), word(ahead + 1) == "s" || word(ahead + 1) == "ms" ? 2 : 1};
    }
    /// The amount with its unit at a word, or at two; NaN if it names another.
    double one_amount(Unit unit, std::size_t ahead = 0) const {
        const bool own = word(ahead).find_first_not_of("0123456789.,") != std::string::npos;
        const std::string typed =
            at_ + ahead < words_.size() ? words_[at_ + ahead] + (own ? "" : next(ahead)) : std::string();
        if (typed.empty() || is_bare_number(typed)) return std::nan("");
        const auto value = parse_said(typed, unit);
        return value ? value.value() : std::nan("");
    }
    std::string next(std::size_t ahead) const {
        return at_ + ahead + 1 < words_.size() ? words_[at_ + ahead + 1] : std::string();
    }
    /// "20 s", "12mA", "30 %", "10 lux", "3 cells".
    bool amount() {
        if (const auto [time, used] = time_at(0); time > 0 && take(Unit::second, time, used)) return true;
        const bool own = word().find_first_not_of("0123456789.,") != std::string::npos;
        for (const GoalInfo& g : recipe_.goals) {
            if (!std::holds_alternative<double>(g.info.standard) || said_.contains(g.info.key)) continue;
            if (g.info.unit == Unit::count || g.info.unit == Unit::none) {
                const auto n = parse_quantity(word(), Unit::count);
                const bool named = std::find(g.words.begin(), g.words.end(), word(1)) != g.words.end();
                if (n && named) return take_goal(g, n.value(), 2);
                continue;
            }
            if (const double value = one_amount(g.info.unit); std::isfinite(value))
                return take_goal(g, value, own ? 1 : 2);
        }
        return false;
    }
    bool take_goal(const GoalInfo& goal, const ParamValue& value, std::size_t words) {
        said_[goal.info.key] = value;
        at_ += words;
        return true;
    }
    /// "red", "bipolar", "transistor": one of a goal's choices, by its id, the first word of it, or its
    /// label.
    bool choice() {
        for (const GoalInfo& g : recipe_.goals) {
            if (!std::holds_alternative<std::string>(g.info.standard) || said_.contains(g.info.key)) continue;
            const auto ids =
                g.info.choices.empty() ? known_catalogue().ids(g.info.choices_of, "") : g.info.choices;
            for (const std::string& id : ids) {
                if (id == "yes" || id == "no") continue;
                const std::string low = lower_case(id);
                if (low == word() || low == word() + "-5mm" || lower_case(g.label_of(id)) == word())
                    return take_goal(g, id, 1);
            }
        }
        return false;
    }
    bool filler() {
        if (!is_among(word(), {"a",     "an",    "below", "at", "for",  "with",  "the",   "in",
                               "and",   "on",    "from",  "of", "led",  "leds",  "light", "lights",
                               "after", "press", "x",     "by", "knob", "cells", "cell"}))
            return false;
        ++at_;
        return true;
    }
    std::string expected() const {
        std::vector<std::string> labels;
        for (const GoalInfo& g : recipe_.goals)
            if (g.info.unit != Unit::none && g.info.unit != Unit::count) labels.push_back(g.info.label);
        return fmt::format("amounts with their unit: {}", fmt::join(labels, ", "));
    }

    const Recipe& recipe_;
    Words words_;
    std::size_t at_ = 0;
    Said said_;
};

/// True for a word that also says a goal, as "chase" says what lights do.
bool is_choice(const Recipe& recipe, const std::string& say) {
    return std::any_of(recipe.goals.begin(), recipe.goals.end(), [&](const GoalInfo& g) {
        return std::find(g.info.choices.begin(), g.info.choices.end(), say) != g.info.choices.end();
    });
}

/// The recipe whose own word a line begins with, and the rest of the line, with that word where it says a
/// goal too.
std::pair<const Recipe*, std::string> recipe_said(const std::string& line) {
    const std::string low = lower_case(line);
    std::pair<const Recipe*, std::string> found{};
    std::size_t longest = 0;
    for (const Recipe& recipe : recipes())
        for (const std::string& say : recipe.says)
            if (say.size() > longest && (low == say || low.starts_with(say + " ")))
                found = {&recipe, line.substr(is_choice(recipe, say) ? 0 : say.size())}, longest = say.size();
    return found;
}

/// Whether a line begins with words so many that they can mean nothing else.
bool is_phrase(const std::string& line) {
    const std::string low = lower_case(line);
    for (const Recipe& recipe : recipes())
        for (const std::string& say : recipe.says)
            if (std::count(say.begin(), say.end(), ' ') > 1 && (low == say || low.starts_with(say + " ")))
                return true;
    return false;
}

/// Its only block in a design; nothing if there is none, or more.
std::optional<std::size_t> only_block(const Design& design, const Recipe& recipe) {
    std::optional<std::size_t> found;
    for (std::size_t k = 0; k < design.blocks.size(); ++k)
        if (design.blocks[k].recipe == recipe.id) {
            if (found) return std::nullopt;
            found = k;
        }
    return found;
}

Error with_ways(Error error, const Recipe& recipe, const Goals& goals, const Environment& environment) {
    std::vector<std::string> ways;
    for (const WayOut& way : ways_out(recipe, goals, environment)) ways.push_back(way.label);
    if (!ways.empty()) error.expected += fmt::format("; would work: {}", fmt::join(ways, ", or "));
    error.fault = Fault::usage;
    return error;
}

Command edit(const Design& before, Design after, const std::string& what) {
    const auto changes = changed_parts(before, after);
    Command c;
    c.kind = Command::Kind::edit;
    c.preview = changes.size() > 4 ? fmt::format("{}: {} parts", what, changes.size())
                                   : fmt::format("{}: {}", what, fmt::join(changes, ", "));
    c.design = std::move(after);
    return c;
}

Result<Command> ask_for(const Recipe& recipe, const Said& said, const Design& design) {
    if (const auto block = only_block(design, recipe)) {
        auto next = with_said(design, *block, said);
        if (!next) {
            Goals goals = goals_of(design, design.blocks[*block]);
            for (const auto& [key, value] : said) goals.values[key] = value;
            return with_ways(next.error(), recipe, goals, environment_in(design));
        }
        return edit(design, std::move(next).value(), recipe.name + " again");
    }
    const Goals goals = planned_in(design, recipe, said);
    auto next = with_block(design, recipe.id, goals);
    if (!next) return with_ways(next.error(), recipe, goals, environment_in(design));
    return edit(design, std::move(next).value(), "add a " + recipe.name);
}

/// "slower": the first rate of a block by half, or what it takes between two of its changes; "longer": its
/// first time. Of what means something beside its other goals.
Result<std::optional<Command>> nudge(const std::string& word, const Design& design) {
    const bool rate = is_among(word, {"slower", "faster"});
    if (!rate && !is_among(word, {"longer", "shorter"})) return std::optional<Command>();
    const double factor = is_among(word, {"faster", "longer"}) ? 1.5 : 1 / 1.5;
    for (std::size_t k = 0; k < design.blocks.size(); ++k) {
        const Recipe* recipe = find_recipe(design.blocks[k].recipe);
        if (!recipe) continue;
        const Goals goals = goals_of(design, design.blocks[k]);
        for (const GoalInfo& g : recipe->goals) {
            const bool pace = rate && g.info.key == "every";
            if (!g.matters(goals) || (g.info.unit != (rate ? Unit::hertz : Unit::second) && !pace)) continue;
            const double now = goals.number(g.info.key),
                         then = std::stod(fmt::format("{:.2g}", pace ? now / factor : now * factor));
            auto next = ask_for(*recipe, {{g.info.key, then}}, design);
            if (!next) return next.error();
            return std::optional(std::move(next).value());
        }
    }
    return usage(word, "nothing here has a " + std::string(rate ? "rate" : "time"),
                 "a block that does, such as: blink 2 times a second");
}

/// Whether a recipe can do in a design what an example of it says.
bool takes_hold(const std::string& example, const Design& design) {
    const auto [recipe, rest] = recipe_said(example);
    if (!recipe) return false;
    const auto said = said_goals(*recipe, rest);
    return said && recipe->size(planned_in(design, *recipe, said.value()), environment_in(design));
}

}  // namespace

Result<Said> said_goals(const Recipe& recipe, const std::string& words) {
    return Listener(recipe, words_of(words)).listen();
}

Result<std::optional<Command>> recipe_phrase(const std::string& line, const Design& design) {
    return is_phrase(line) ? recipe_command(line, design) : std::optional<Command>();
}

Result<std::optional<Command>> recipe_command(const std::string& typed, const Design& design) {
    std::string line = typed;
    for (const std::string start : {"make it "})
        if (lower_case(line).starts_with(start)) line = line.substr(start.size());
    auto nudged = nudge(lower_case(line), design);
    if (!nudged || nudged.value()) return nudged;
    const auto [recipe, rest] = recipe_said(line);
    if (!recipe) return std::optional<Command>();
    auto said = said_goals(*recipe, rest);
    if (!said) return said.error();
    for (const auto& [key, value] : said.value())
        if (const double* number = std::get_if<double>(&value)) {
            const ParamInfo& info = recipe->goal(key)->info;
            if (!(*number >= info.low && *number <= info.high))
                return usage(
                    info.label, "found " + format_quantity(*number, info.unit),
                    format_quantity(info.low, info.unit) + " to " + format_quantity(info.high, info.unit));
        }
    auto command = ask_for(*recipe, said.value(), design);
    if (!command) return command.error();
    return std::optional(std::move(command).value());
}

std::vector<std::string> recipe_lines(const Design& design) {
    std::vector<std::string> lines;
    for (const Recipe& recipe : recipes())
        for (const std::string& example : recipe.examples)
            if (takes_hold(example, design)) lines.push_back(example);
    if (!design.blocks.empty())
        for (const char* word : {"slower", "faster", "longer", "shorter"})
            if (const auto can = nudge(word, design); can && can.value())
                lines.push_back("make it " + std::string(word));
    return lines;
}

}  // namespace elkit
