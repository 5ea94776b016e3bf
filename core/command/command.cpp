#include "command/command.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <sstream>

#include "catalogue/catalogue.hpp"
#include "circuit/part_kind.hpp"
#include "command/circuit_command.hpp"
#include "engine/models.hpp"
#include "quantity/format.hpp"
#include "quantity/parse.hpp"
#include "recipes/steady_light.hpp"

namespace elkit {
namespace {

std::string lower(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(),
                   [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return text;
}

std::string trimmed(const std::string& text) {
    const auto from = text.find_first_not_of(" \t=:");
    const auto to = text.find_last_not_of(" \t");
    return from == std::string::npos ? "" : text.substr(from, to - from + 1);
}

const Part* find_part(const Circuit& circuit, const std::string& word) {
    for (const Part& part : circuit.parts)
        if (lower(part.designator) == lower(word)) return &part;
    return nullptr;
}

struct Goal {
    std::string name, label;
    Unit unit;
    double low, high;
    double LightGoals::*light;
    double Brief::*brief;
};
const std::vector<Goal>& goals() {
    static const std::vector<Goal> all{
        {"current", "current of a string", Unit::ampere, 1e-6, 10, &LightGoals::current, nullptr},
        {"cells", "cells in series", Unit::count, 1, 40, &LightGoals::cells, nullptr},
        {"leds", "LEDs in all", Unit::count, 1, 200, &LightGoals::count, nullptr},
        {"in series", "LEDs in series", Unit::count, 1, 40, &LightGoals::per_string, nullptr},
        {"run time", "run time wanted", Unit::hour, 0, 1e6, nullptr, &Brief::run_time},
        {"kits", "kits in the batch", Unit::count, 1, 1e6, nullptr, &Brief::kits}};
    return all;
}

using Axes = std::array<Unit, 2>;

/// A pair as an example of what is expected, by what the list is of.
std::string pair_example(const Axes& axes) {
    if (axes[0] == Unit::celsius) return "pairs such as 0°C 32k; 25°C 10k; 60°C 2k5";
    if (axes[0] == Unit::second) return "pairs such as 0s 0; 1ms 5; 2ms 0";
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
    if (part.kind == "led") return failed(junction_model(part, built_in_catalogue(), 21, 0));
    if (part.kind == "thermistor" && part.points("points")) return failed(thermistor_resistance(part, 25));
    if (part.kind == "nmos" || part.kind == "pmos") return failed(mosfet_fit(part));
    return success();
}

std::string shown(const Part& part, const ParamInfo& info) {
    if (std::holds_alternative<std::string>(info.standard)) return part.text(info.key);
    if (std::holds_alternative<PointList>(info.standard)) {
        const PointList* points = part.points(info.key);
        return points && !points->empty() ? points_text(*points, info.axes) : "none";
    }
    return format_quantity(part.number(info.key), info.unit);
}

Result<Command> goal_command(const Goal& goal, const std::string& typed, const Design& design) {
    auto value = parse_quantity(typed, goal.unit);
    if (!value) return Error{Fault::usage, goal.name, value.error().found, value.error().expected};
    if (!(value.value() >= goal.low && value.value() <= goal.high))
        return Error{Fault::usage, goal.name, "found " + format_quantity(value.value(), goal.unit),
                     fmt::format("{} to {}", format_quantity(goal.low, goal.unit),
                                 format_quantity(goal.high, goal.unit))};
    Command c;
    c.kind = Command::Kind::edit;
    double before = 0;
    if (goal.light) {
        if (!design.light)
            return Error{Fault::usage, goal.name, "this design has no recipe",
                         "a steady light made from goals"};
        LightGoals changed = *design.light;
        before = changed.*(goal.light);
        changed.*(goal.light) = value.value();
        auto next = apply_steady_light(design, changed);
        if (!next) return next.error();
        c.design = std::move(next).value();
    } else {
        c.design = design;
        before = c.design->brief.*(goal.brief);
        c.design->brief.*(goal.brief) = value.value();
    }
    c.preview = fmt::format("{}: {} → {}", goal.label, format_quantity(before, goal.unit),
                            format_quantity(value.value(), goal.unit));
    return c;
}

Result<Command> type_goal(const std::string& word, const std::string& typed, const Design& design) {
    if (!design.light)
        return Error{Fault::usage, word, "this design has no recipe", "a steady light made from goals"};
    LightGoals changed = *design.light;
    const bool cell = word == "cell";
    const Catalogue& catalogue = built_in_catalogue();
    const std::string before = cell ? changed.cell : changed.led;
    for (const auto& c : catalogue.cells)
        if (cell && lower(c.id) == lower(typed)) changed.cell = c.id;
    for (const auto& l : catalogue.leds)
        if (!cell && (lower(l.id) == lower(typed) || lower(l.id) == lower(typed) + "-5mm"))
            changed.led = l.id;
    const std::string after = cell ? changed.cell : changed.led;
    if (after == before && lower(typed) != lower(before))
        return Error{Fault::usage, word, "unknown type \"" + typed + "\"",
                     cell ? "a cell such as LR6" : "an LED such as red-5mm"};
    auto next = apply_steady_light(design, changed);
    if (!next) return next.error();
    Command c;
    c.kind = Command::Kind::edit;
    c.design = std::move(next).value();
    c.preview = fmt::format("{}: {} → {}", word, before, after);
    return c;
}

Result<Command> part_command(const Part& part, const std::string& rest, const Design& design,
                             const Conditions& conditions) {
    const PartKind& kind = *part_kind(part.kind);
    if (is_contact(part)) {
        const std::string state = lower(rest);
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
            if (lower(rest).starts_with(lower(name) + " ") || lower(rest).starts_with(lower(name) + "="))
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
                            shown(part, *info), shown(*next.value().circuit.find(part.designator), *info));
    c.design = std::move(next).value();
    return c;
}

Result<std::optional<Command>> condition_command(const std::string& text, const Conditions& conditions) {
    Command c;
    c.kind = Command::Kind::condition;
    c.conditions = conditions;
    for (const std::string word : {"battery", "temperature", "warmth"}) {
        const std::string start = lower(text);
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

const std::vector<ActionName>& station_names() {
    static const std::vector<ActionName> all{{"brief", "Brief"}, {"light", "Light"}, {"circuit", "Circuit"},
                                             {"power", "Power"}, {"board", "Board"}, {"build", "Build"},
                                             {"batch", "Batch"}};
    return all;
}

Result<Design> set_parameter(const Design& design, const std::string& designator, const std::string& key,
                             const std::string& typed) {
    const Part* part = design.circuit.find(designator);
    const PartKind* kind = part ? part_kind(part->kind) : nullptr;
    const ParamInfo* info = kind ? kind->param(key) : nullptr;
    if (!info) return Error{Fault::usage, designator, "has no parameter " + key, "a parameter of this part"};
    Design next = design;
    Part& target = *next.circuit.find(designator);
    if (std::holds_alternative<std::string>(info->standard)) {
        std::string id;
        for (const std::string& choice : text_choices(part->kind, key))
            if (lower(choice) == lower(typed) || lower(choice) == lower(typed) + "-5mm") id = choice;
        if (id.empty())
            return Error{Fault::usage, designator + " " + info->label, "unknown type \"" + typed + "\"",
                         info->meaning};
        target.params[key] = id;
        return next;
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
        return next;
    }
    const bool fraction = key == "tolerance" && typed.find('%') != std::string::npos;
    auto value = parse_quantity(typed, fraction ? Unit::percent : info->unit);
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
    return next;
}

Result<Command> parse_command(const std::string& text, const Design& design, const Conditions& conditions,
                              const std::vector<ActionName>& actions) {
    const std::string line = trimmed(text), low = lower(line);
    if (line.empty())
        return Error{Fault::usage, "", "nothing typed yet",
                     "a station, an action, or a part such as r1 = 82"};
    for (const auto& s : station_names())
        if (low == s.id || low == "go " + s.id)
            return Command{Command::Kind::station, s.id, "go to " + s.label, {}, {}};
    for (const auto& a : actions)
        if (low == lower(a.label) || low == a.id)
            return Command{Command::Kind::action, a.id, a.label, {}, {}};
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
    if (const Part* part = find_part(design.circuit, first))
        return part_command(*part, trimmed(line.substr(first.size())), design, conditions);
    auto condition = condition_command(line, conditions);
    if (!condition) return condition.error();
    if (condition.value()) return *condition.value();
    for (const auto& goal : goals())
        if (low.starts_with(goal.name + " ") || low.starts_with(goal.name + "="))
            return goal_command(goal, trimmed(line.substr(goal.name.size())), design);
    for (const std::string word : {"cell", "led"})
        if (low.starts_with(word + " ") || low.starts_with(word + "="))
            return type_goal(word, trimmed(line.substr(word.size())), design);
    return Error{Fault::usage, "", "not understood: " + line,
                 "a station, an action, or a part such as r1 = 82"};
}

std::vector<std::string> complete_command(const std::string& text, const Design& design,
                                          const std::vector<ActionName>& actions) {
    const std::string low = lower(trimmed(text));
    std::vector<std::string> starts, contains;
    const auto offer = [&](const std::string& line) {
        const std::string l = lower(line);
        if (l.starts_with(low))
            starts.push_back(line);
        else if (!low.empty() && l.find(low) != std::string::npos)
            contains.push_back(line);
    };
    for (const auto& s : station_names()) offer(s.label);
    for (const Part& part : design.circuit.parts) {
        if (part.kind == "switch")
            offer(part.designator + " on"), offer(part.designator + " off");
        else if (const PartKind* kind = part_kind(part.kind); kind && kind->param(kind->value_key))
            offer(part.designator + " = " + shown(part, *kind->param(kind->value_key)));
        if (part.kind == "battery")
            offer(part.designator + " count " + format_quantity(part.number("count"), Unit::count));
    }
    if (design.light)
        for (const auto& goal : goals())
            if (goal.light)
                offer(goal.name + " = " + format_quantity((*design.light).*(goal.light), goal.unit));
    for (const auto& goal : goals())
        if (goal.brief) offer(goal.name + " = " + format_quantity(design.brief.*(goal.brief), goal.unit));
    for (const auto& line : circuit_completions(text, design)) offer(line);
    offer("battery 50 %");
    offer("temperature 21 °C");
    for (const auto& a : actions) offer(a.label);
    starts.insert(starts.end(), contains.begin(), contains.end());
    return starts;
}

}  // namespace elkit
