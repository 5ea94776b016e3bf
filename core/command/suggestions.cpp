#include "command/suggestions.hpp"

#include <algorithm>
#include <cctype>
#include <set>
#include <sstream>

#include "circuit/part_kind.hpp"
#include "command/circuit_command.hpp"
#include "command/recipe_command.hpp"
#include "design/fields.hpp"
#include "quantity/format.hpp"
#include "quantity/plain_text.hpp"
#include "recipes/blocks.hpp"

namespace elkit {
namespace {

using About = Suggestion::About;

void offer_parts(const Circuit& circuit, std::vector<Suggestion>& all) {
    for (const Part& part : circuit.parts) {
        const PartKind* kind = part_kind(part.kind);
        if (is(part, Role::stays)) {
            all.push_back({About::part, part.designator + " on"});
            all.push_back({About::part, part.designator + " off"});
        } else if (kind && kind->param(kind->value_key)) {
            all.push_back({About::part, part.designator + " = " + editable_value(part)});
        }
        if (is(part, Role::cells))
            all.push_back({About::part,
                           part.designator + " count " + format_quantity(part.number("count"), Unit::count)});
        all.push_back({About::part, "show " + part.designator});
    }
}

std::string goal_line(const GoalInfo& goal, const ParamValue& value) {
    const std::string name = goal.words.empty() ? goal.info.label : goal.words.front();
    return name + " = " + format_quantity(std::get<double>(value), goal.info.unit);
}

void offer_goals(const Design& design, std::vector<Suggestion>& all) {
    for (const Block& block : design.blocks)
        if (const Recipe* recipe = find_recipe(block.recipe)) {
            const Goals goals = goals_of(design, block);
            for (const GoalInfo& goal : recipe->goals)
                if (std::holds_alternative<double>(goal.info.standard))
                    all.push_back({About::goal, goal_line(goal, goals.values.at(goal.info.key))});
        }
    for (const DesignField& field : design_fields())
        if (!field.words.empty())
            all.push_back(
                {About::goal, field.words.front() + " = " +
                                  format_quantity(std::get<double>(field.get(design)), field.unit)});
}

std::string plain(const std::string& text) {
    const auto from = text.find_first_not_of(" \t=:"), to = text.find_last_not_of(" \t");
    return from == std::string::npos ? "" : lower_case(text.substr(from, to - from + 1));
}

std::set<std::string> distinct_words(const std::string& text) {
    std::set<std::string> words;
    std::istringstream stream(text);
    for (std::string word; stream >> word;)
        if (word.size() > 1 && std::isalpha(static_cast<unsigned char>(word.front()))) words.insert(word);
    return words;
}

}  // namespace

std::vector<Suggestion> sayable(const Design& design, const std::vector<ActionName>& actions) {
    std::vector<Suggestion> all;
    for (const auto& a : actions)
        if (a.station) all.push_back({About::station, a.label});
    offer_parts(design.circuit, all);
    for (const auto& net : design.circuit.nets()) all.push_back({About::net, "show " + net});
    for (const std::string& line : recipe_lines(design)) all.push_back({About::goal, line});
    offer_goals(design, all);
    all.push_back({About::conditions, "battery 50 %"});
    all.push_back({About::conditions, "temperature 21 °C"});
    for (const auto& a : actions)
        if (!a.station) all.push_back({About::action, a.label});
    return all;
}

std::size_t letters_apart(std::string_view a, std::string_view b) {
    std::vector<std::vector<std::size_t>> d(a.size() + 1, std::vector<std::size_t>(b.size() + 1));
    for (std::size_t i = 0; i <= a.size(); ++i) d[i][0] = i;
    for (std::size_t k = 0; k <= b.size(); ++k) d[0][k] = k;
    for (std::size_t i = 1; i <= a.size(); ++i)
        for (std::size_t k = 1; k <= b.size(); ++k) {
            const bool same = a[i - 1] == b[k - 1];
            d[i][k] = std::min({d[i - 1][k] + 1, d[i][k - 1] + 1, d[i - 1][k - 1] + (same ? 0 : 1)});
            if (i > 1 && k > 1 && a[i - 1] == b[k - 2] && a[i - 2] == b[k - 1])
                d[i][k] = std::min(d[i][k], d[i - 2][k - 2] + 1);
        }
    return d[a.size()][b.size()];
}

std::vector<Suggestion> suggestions(const std::string& text, const Design& design,
                                    std::vector<Suggestion> all) {
    const std::string low = plain(text);
    for (const auto& line : circuit_completions(text, design)) all.push_back({About::part, line});
    std::vector<Suggestion> starts, holds;
    std::set<std::string> seen;
    for (Suggestion& s : all) {
        const std::string line = lower_case(s.line);
        if (!seen.insert(line).second) continue;
        if (line.starts_with(low))
            starts.push_back(std::move(s));
        else if (!low.empty() && line.find(low) != std::string::npos)
            holds.push_back(std::move(s));
    }
    starts.insert(starts.end(), holds.begin(), holds.end());
    return starts;
}

std::vector<std::string> nearest_lines(const std::string& text, const Design& design,
                                       std::vector<Suggestion> lines, std::size_t count) {
    const std::string low = plain(text);
    const std::set<std::string> typed = distinct_words(low);
    struct Candidate {
        std::size_t shared, apart;
        std::string line;
    };
    std::vector<Candidate> all;
    for (const auto& line : circuit_completions("", design)) lines.push_back({About::part, line});
    for (const Suggestion& s : lines) {
        const std::string line = lower_case(s.line);
        std::size_t shared = 0;
        for (const std::string& word : distinct_words(line)) shared += typed.contains(word);
        all.push_back({shared, letters_apart(low.substr(0, 60), line.substr(0, 60)), s.line});
    }
    std::stable_sort(all.begin(), all.end(), [](const Candidate& a, const Candidate& b) {
        return a.shared != b.shared ? a.shared > b.shared : a.apart < b.apart;
    });
    std::vector<std::string> nearest;
    for (std::size_t k = 0; k < std::min(count, all.size()); ++k) nearest.push_back(all[k].line);
    return nearest;
}

}  // namespace elkit
