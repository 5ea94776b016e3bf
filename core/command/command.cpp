#include "command/command.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <sstream>

#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "circuit/part_kind.hpp"
#include "command/circuit_command.hpp"
#include "command/recipe_command.hpp"
#include "design/delta.hpp"
#include "design/fields.hpp"
#include "engine/device.hpp"
#include "matrix/frames.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"
#include "quantity/plain_text.hpp"
#include "recipes/asking.hpp"
#include "recipes/blocks.hpp"
#include "words/described_part.hpp"
#include "words/part_places.hpp"

namespace elkit {
namespace {

std::string trimmed(const std::string& text) {
    const auto from = text.find_first_not_of(" \t=:");
    const auto to = text.find_last_not_of(" \t");
    return from == std::string::npos ? "" : text.substr(from, to - from + 1);
}

/// "name" and what follows it, where the line starts with it; nothing otherwise.
std::optional<std::string> after_name(const std::string& line, const std::string& name) {
    const std::string low = lower_case(line), start = lower_case(name);
    if (!low.starts_with(start + " ") && !low.starts_with(start + "=")) return std::nullopt;
    return trimmed(line.substr(name.size()));
}

/// Every name by which a goal is called.
std::vector<std::string> names_of(const GoalInfo& goal) {
    std::vector<std::string> names = goal.words;
    names.push_back(goal.info.label);
    names.push_back(goal.info.key);
    return names;
}

using Axes = std::array<Unit, 2>;

/// A pair as an example of what is expected, by what the list is of.
std::string pair_example(const Axes& axes) {
    if (axes[0] == Unit::celsius) return "pairs such as 0°C 32k; 25°C 10k; 60°C 2k5";
    if (axes[0] == Unit::second) return "pairs such as 0s 0; 1ms 5; 2ms 0";
    if (axes[0] == Unit::percent && axes[1] == Unit::volt)
        return "pairs such as 0% 0.9V; 50% 1.25V; 100% 1.6V";
    if (axes[0] == Unit::percent) return "pairs such as 0% 0.6R; 100% 0.15R";
    if (axes[1] == Unit::ampere_hour) return "pairs such as 50mA 2.5Ah; 500mA 1.5Ah";
    if (axes[0] == Unit::lux) return "pairs such as 10lx 10k; 1000lx 400R";
    if (axes[0] == Unit::volt) return "pairs such as 2V 100mA; 3V 1.5A";
    return "pairs such as 5mA 1.98V; 20mA 2.12V";
}

/// "5mA 1.98V; 20mA 2.12V": pairs in the units of the axes. An empty text clears the points.
Result<PointList> parse_points(const std::string& typed, const Axes& axes) {
    PointList points;
    std::istringstream pairs(typed);
    for (std::string pair; std::getline(pairs, pair, ';');) {
        pair = trimmed(pair);
        if (pair.empty()) continue;
        const auto gap = pair.find_last_of(" \t@");
        const Error unreadable{Fault::usage, "", "cannot read \"" + pair + "\"", pair_example(axes)};
        if (gap == std::string::npos) return unreadable;
        auto x = parse_quantity(trimmed(pair.substr(0, gap)), axes[0]);
        auto y = parse_quantity(pair.substr(gap + 1), axes[1]);
        if (!x || !y) return unreadable;
        points.push_back({x.value(), y.value()});
    }
    return points;
}

/// Whether the device can be made of its points.
Result<void> check_points(const Part& part) {
    const auto failed = [](const auto& result) { return result ? Result<void>(success()) : result.error(); };
    return failed(make_device(part, known_catalogue(), {}, {}));
}

std::string shown(const Part& part, const ParamInfo& info) {
    if (std::holds_alternative<std::string>(info.standard)) return part.text(info.key);
    if (std::holds_alternative<PointList>(info.standard)) {
        const PointList* points = part.points(info.key);
        return points && !points->empty() ? points_text(*points, info.axes) : "none";
    }
    return format_quantity(part.number(info.key), info.unit);
}

Error out_of_range(const std::string& place, double value, const Unit unit, double low, double high) {
    return {Fault::usage, place, "found " + format_quantity(value, unit),
            fmt::format("{} to {}", format_quantity(low, unit), format_quantity(high, unit))};
}

Result<Command> field_command(const DesignField& field, const std::string& typed, const Design& design) {
    auto value = parse_quantity(typed, field.unit);
    if (!value) return Error{Fault::usage, field.name, value.error().found, value.error().expected};
    auto next = with_field(design, field.id, value.value());
    if (!next) return next.error();
    Command c;
    c.kind = Command::Kind::edit;
    c.preview = fmt::format("{}: {} → {}", field.words.front(),
                            format_quantity(std::get<double>(field.get(design)), field.unit),
                            format_quantity(std::get<double>(field.get(next.value())), field.unit));
    c.design = std::move(next).value();
    return c;
}

/// "current = 15mA": a goal of one of the design's blocks; nothing if no block has a goal of that name.
Result<std::optional<Command>> goal_command(const std::string& line, const Design& design) {
    for (std::size_t k = 0; k < design.blocks.size(); ++k) {
        const Recipe* recipe = find_recipe(design.blocks[k].recipe);
        if (!recipe) continue;
        for (const GoalInfo& goal : recipe->goals)
            for (const std::string& name : names_of(goal)) {
                const auto typed = after_name(line, name);
                if (!typed) continue;
                auto value = goal_value(goal, *typed, name);
                if (!value) return value.error();
                const ParamValue before = goals_of(design, design.blocks[k]).values.at(goal.info.key);
                auto next = with_followed(design, k, {{goal.info.key, value.value()}});
                if (!next) return next.error();
                Command c;
                c.kind = Command::Kind::edit;
                c.design = std::move(next).value();
                c.preview = fmt::format("{}: {} → {}", goal.info.label, goal_text(goal, before),
                                        goal_text(goal, value.value()));
                return std::optional<Command>(std::move(c));
            }
    }
    for (const Recipe& recipe : recipes())
        for (const GoalInfo& goal : recipe.goals)
            for (const std::string& name : names_of(goal))
                if (after_name(line, name))
                    return Error{Fault::usage, name, "this design has no recipe",
                                 "a " + recipe.name + " made from goals"};
    return std::optional<Command>();
}

/// Parts beside `except` that an edit changed as well: ", R1 and R2 follow".
std::string followers(const Design& before, const Design& after, const std::string& except) {
    std::vector<std::string> names;
    for (const Part& part : after.circuit.parts) {
        const Part* was = before.circuit.find(part.designator);
        if (part.designator != except && (!was || !(*was == part)))
            names.push_back(part.designator + ": " + value_text(part));
    }
    if (names.size() > 3) return fmt::format("; {} parts follow", names.size());
    return names.empty() ? "" : fmt::format("; {}", fmt::join(names, ", "));
}

Result<Command> part_command(const Part& part, const std::string& rest, const Design& design,
                             const Conditions& conditions) {
    const PartKind& kind = *part_kind(part.kind);
    if (is(part, Role::contact)) {
        const std::string state = lower_case(rest);
        if (state == "on" || state == "off" || state == "closed" || state == "open") {
            Command c;
            c.kind = Command::Kind::condition;
            c.conditions = conditions;
            const bool on = state == "on" || state == "closed";
            c.conditions->switches[part.designator] = on;
            c.preview = part.designator + (on ? ": closed" : ": open");
            return c;
        }
    }
    std::string key = kind.value_key, typed = rest;
    for (const auto& info : kind.params)
        for (const std::string& name : {info.key, info.label})
            if (lower_case(rest).starts_with(lower_case(name) + " ") ||
                lower_case(rest).starts_with(lower_case(name) + "="))
                key = info.key, typed = trimmed(rest.substr(name.size()));
    const ParamInfo* info = kind.param(key);
    if (!info || typed.empty()) {
        std::string names;
        for (const auto& p : kind.params) names += (names.empty() ? "" : ", ") + p.key;
        return Error{Fault::usage, part.designator, "what to set is missing", "a value, or one of: " + names};
    }
    auto next = set_parameter(design, part.designator, key, typed);
    if (!next) return next.error();
    Command c;
    c.kind = Command::Kind::edit;
    c.preview = fmt::format("{}{}: {} → {}", part.designator, key == kind.value_key ? "" : " " + info->label,
                            shown(part, *info), shown(*next.value().circuit.find(part.designator), *info)) +
                followers(design, next.value(), part.designator);
    c.design = std::move(next).value();
    return c;
}

Result<std::optional<Command>> condition_command(const std::string& text, const Conditions& conditions) {
    Command c;
    c.kind = Command::Kind::condition;
    c.conditions = conditions;
    for (const std::string word : {"battery", "temperature", "warmth"}) {
        const std::string start = lower_case(text);
        if (!start.starts_with(word + " ") && !start.starts_with(word + "=")) continue;
        const bool battery = word == "battery";
        auto value =
            parse_quantity(trimmed(text.substr(word.size())), battery ? Unit::percent : Unit::celsius);
        if (!value) return Error{Fault::usage, word, value.error().found, value.error().expected};
        const double low = battery ? 0 : -20, high = battery ? 100 : 60;
        if (value.value() < low || value.value() > high)
            return Error{Fault::usage, word, "found " + trimmed(text.substr(word.size())),
                         fmt::format("{} to {} {}", low, high, battery ? "%" : "°C")};
        if (battery)
            c.conditions->battery = value.value() / 100;
        else
            c.conditions->celsius = value.value();
        c.preview = fmt::format("{} {}", battery ? "battery" : "temperature",
                                format_quantity(value.value(), battery ? Unit::percent : Unit::celsius));
        return std::optional<Command>(c);
    }
    return std::optional<Command>();
}

}  // namespace

std::string goal_text(const GoalInfo& goal, const ParamValue& value) {
    if (const double* number = std::get_if<double>(&value)) return format_quantity(*number, goal.info.unit);
    if (const auto* points = std::get_if<PointList>(&value)) return points_text(*points, goal.info.axes);
    const auto& id = std::get<std::string>(value);
    const std::string known = known_catalogue().name_of("", id);
    return known.empty() ? goal.label_of(id) : known;
}

Result<ParamValue> goal_value(const GoalInfo& goal, const std::string& typed, const std::string& name) {
    if (std::holds_alternative<double>(goal.info.standard)) {
        auto value = parse_said(typed, goal.info.unit);
        if (!value) return Error{Fault::usage, name, value.error().found, value.error().expected};
        if (!(value.value() >= goal.info.low && value.value() <= goal.info.high))
            return out_of_range(name, value.value(), goal.info.unit, goal.info.low, goal.info.high);
        return ParamValue(value.value());
    }
    if (std::holds_alternative<PointList>(goal.info.standard)) {
        auto points = parse_points(typed, goal.info.axes);
        if (!points) return Error{Fault::usage, name, points.error().found, points.error().expected};
        return ParamValue(std::move(points).value());
    }
    const auto choices =
        goal.info.choices.empty() ? known_catalogue().ids(goal.info.choices_of, "") : goal.info.choices;
    for (const std::string& choice : choices)
        if (lower_case(choice) == lower_case(typed) || lower_case(choice) == lower_case(typed) + "-5mm" ||
            lower_case(goal.label_of(choice)) == lower_case(typed))
            return ParamValue(choice);
    return Error{Fault::usage, name, "unknown type \"" + typed + "\"",
                 choices.empty() ? goal.info.meaning : goal.info.meaning + ", such as " + choices.front()};
}

std::string points_text(const PointList& points, const std::array<Unit, 2>& axes) {
    const auto amount = [](double value, Unit unit) {
        const bool small = unit == Unit::ampere && std::abs(value) < 1;
        return format_plain(small ? value * 1000 : value) + (small ? "m" : "") + std::string(symbol(unit));
    };
    std::string text;
    for (const auto& [x, y] : points)
        text += (text.empty() ? "" : "; ") + amount(x, axes[0]) + " " + amount(y, axes[1]);
    return text;
}

Result<Design> set_parameter(const Design& design, const std::string& designator, const std::string& key,
                             const std::string& typed) {
    const Part* part = design.circuit.find(designator);
    const PartKind* kind = part ? part_kind(part->kind) : nullptr;
    const ParamInfo* info = kind ? kind->param(key) : nullptr;
    if (!info) return Error{Fault::usage, designator, "has no parameter " + key, "a parameter of this part"};
    Circuit next = design.circuit;
    Part& target = *next.find(designator);
    if (info->written != ParamInfo::Written::no) {
        if (const auto trouble = trouble_of_choice(*kind, *info, typed))
            return Error{Fault::usage, designator + " " + trouble->place, trouble->found, trouble->expected};
        target.params[key] = info->written == ParamInfo::Written::behaviour
                                 ? text_of(behaviour_of(typed).value())
                                 : text_of(frames_of(typed).value());
        return with_circuit(design, std::move(next));
    }
    if (std::holds_alternative<std::string>(info->standard)) {
        auto choice = choice_from_text(*kind, *info, typed);
        if (!choice)
            return Error{Fault::usage, designator + " " + info->label, choice.error().found,
                         choice.error().expected};
        if (info->choices_of == "cells")
            put_cell(target, choice.value());
        else
            target.params[key] = choice.value();
        return with_circuit(design, std::move(next));
    }
    if (std::holds_alternative<PointList>(info->standard)) {
        auto points = parse_points(typed == "none" ? "" : typed, info->axes);
        if (!points)
            return Error{Fault::usage, designator + " " + info->label, points.error().found,
                         points.error().expected};
        if (points.value().empty())
            target.params.erase(key);
        else
            target.params[key] = points.value();
        if (auto fits = check_points(target); !fits)
            return Error{Fault::usage, designator + " " + info->label, fits.error().found,
                         fits.error().expected};
        return with_circuit(design, std::move(next));
    }
    const bool fraction = key == "tolerance" && typed.find('%') != std::string::npos;
    auto value = parse_said(typed, fraction ? Unit::percent : info->unit);
    if (!value)
        return Error{Fault::usage, designator + " " + info->label, value.error().found,
                     value.error().expected};
    const double number = fraction ? value.value() / 100 : value.value();
    if (!(number >= info->low && number <= info->high))
        return Error{Fault::usage, designator + " " + info->label,
                     "found " + format_quantity(number, info->unit),
                     fmt::format("{} to {}", format_quantity(info->low, info->unit),
                                 format_quantity(info->high, info->unit))};
    target.params[key] = number;
    return with_circuit(design, std::move(next));
}

namespace {

/// A part or net by its name alone, or after "show".
std::optional<Command> show_command(const std::string& line, const Circuit& circuit) {
    const auto asked = after_name(line, "show");
    const std::string name = asked.value_or(line);
    const auto shows = [](const std::string& ref, const std::string& what) {
        Command c;
        c.kind = Command::Kind::show, c.id = ref, c.preview = "show " + what + " in the circuit";
        return c;
    };
    for (const Part& part : circuit.parts)
        if (lower_case(part.designator) == lower_case(name))
            return shows("value:" + part.designator, part.designator);
    for (const auto& net : circuit.nets())
        if (asked && lower_case(net) == lower_case(name)) return shows("net:" + net, "net " + net);
    return std::nullopt;
}

Result<Command> understood(const std::string& text, const Design& design, const Conditions& conditions,
                           const std::vector<ActionName>& actions) {
    const std::string line = trimmed(text), low = lower_case(line);
    if (line.empty())
        return Error{Fault::usage, "", "nothing typed yet",
                     "a station, an action, or a part such as r1 = 82"};
    for (const auto& a : actions)
        if (a.station ? low == a.id || low == "go " + a.id : low == lower_case(a.label) || low == a.id)
            return Command{a.station ? Command::Kind::station : Command::Kind::action,
                           a.id,
                           (a.station ? "go to " : "") + a.label,
                           {},
                           {}};
    auto phrase = recipe_phrase(line, design);
    if (!phrase) return phrase.error();
    if (phrase.value()) return std::move(*phrase.value());
    if (auto shown = show_command(line, design.circuit)) return *shown;
    auto world = world_command(line, design, conditions);
    if (!world) return world.error();
    if (world.value()) return *world.value();
    auto changed = circuit_command(line, design);
    if (!changed) return changed.error();
    if (changed.value()) return *changed.value();
    std::istringstream words(line);
    std::string first;
    words >> first;
    first = first.substr(0, first.find('='));
    if (const Part* part = part_from_word(design.circuit, first))
        return part_command(*part, trimmed(line.substr(first.size())), design, conditions);
    auto condition = condition_command(line, conditions);
    if (!condition) return condition.error();
    if (condition.value()) return *condition.value();
    for (const DesignField& field : design_fields())
        for (const std::string& word : field.words)
            if (const auto typed = after_name(line, word)) return field_command(field, *typed, design);
    auto recipe = recipe_command(line, design);
    if (!recipe) return recipe.error();
    if (recipe.value()) return std::move(*recipe.value());
    auto goal = goal_command(line, design);
    if (!goal) return goal.error();
    if (goal.value()) return std::move(*goal.value());
    if (auto part = described_part(line, design.circuit); !part) return part.error();
    return Error{Fault::usage, "", "not understood: " + line,
                 "a station, an action, or a part such as r1 = 82"};
}

}  // namespace

Result<Command> parse_command(const std::string& text, const Design& design, const Conditions& conditions,
                              const std::vector<ActionName>& actions) {
    auto command = understood(text, design, conditions, actions);
    if (!command || !command.value().design) return command;
    // such as a name that is none
    if (auto sound = check_writable(delta_between(design, *command.value().design)); !sound)
        return Error{Fault::usage, "", sound.error().found, sound.error().expected};
    return command;
}

}  // namespace elkit
