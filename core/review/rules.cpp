#include "review/rules.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

#include "catalogue/catalogue.hpp"
#include "circuit/edit.hpp"
#include "light/strings.hpp"
#include "quantity/preferred.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

Finding& add_finding(std::vector<Finding>& out, Severity severity, std::string station, std::string ref,
                     std::string title, std::string detail, std::string aspect) {
    Finding f;
    f.severity = severity, f.station = std::move(station), f.ref = std::move(ref), f.title = std::move(title),
    f.detail = std::move(detail), f.aspect = std::move(aspect);
    return out.emplace_back(std::move(f));
}

void add_goal_remedies(const Design& design, const std::string& rule, const std::string& part,
                       Finding& finding) {
    for (GoalChange& change : declared_remedies(design, rule, part))
        if (std::none_of(finding.remedies.begin(), finding.remedies.end(),
                         [&](const Remedy& r) { return r.label == change.label; }))
            finding.remedies.push_back({change.label, [change](const Design& before) {
                                            return with_goals(before, change.block, change.goals);
                                        }});
}

Remedy circuit_remedy(std::string label, std::function<std::optional<Error>(Circuit&)> change) {
    return {std::move(label), [change = std::move(change)](const Design& design) -> Result<Design> {
                Circuit next = design.circuit;
                if (auto error = change(next)) return *error;
                return with_circuit(design, std::move(next));
            }};
}

Remedy set_param(std::string label, const std::string& designator, const std::string& key,
                 const ParamValue& value) {
    return circuit_remedy(std::move(label), [=](Circuit& circuit) -> std::optional<Error> {
        Part* part = circuit.find(designator);
        if (!part) return Error{Fault::design, "part " + designator, "it is gone", "a part of the circuit"};
        part->params[key] = value;
        return {};
    });
}

Remedy swap_pins(std::string label, const std::string& designator, const std::string& a,
                 const std::string& b) {
    return circuit_remedy(std::move(label), [=](Circuit& circuit) -> std::optional<Error> {
        Part* part = circuit.find(designator);
        if (!part) return Error{Fault::design, "part " + designator, "it is gone", "a part of the circuit"};
        Pin *first = nullptr, *second = nullptr;
        for (Pin& pin : part->pins) {
            if (pin.name == a) first = &pin;
            if (pin.name == b) second = &pin;
        }
        if (!first || !second)
            return Error{Fault::design, "part " + designator, "a pin is open", "both joined"};
        std::swap(first->net, second->net);
        return {};
    });
}

Remedy add_between(std::string label, const std::string& kind, double value, const std::string& first,
                   const std::string& second) {
    return circuit_remedy(std::move(label), [=](Circuit& circuit) -> std::optional<Error> {
        const PartKind& info = *part_kind(kind);
        Part part;
        part.kind = kind, part.designator = circuit.free_designator(info.prefix);
        if (value > 0) part.params[info.value_key] = value;
        part.pins = {{info.pins[0], first}, {info.pins[1], second}};
        circuit.parts.push_back(std::move(part));
        return {};
    });
}

Remedy turn_round(const std::string& designator) {
    return circuit_remedy("Turn " + designator + " round",
                          [designator](Circuit& circuit) -> std::optional<Error> {
                              auto turned = flip_part(circuit, designator);
                              if (!turned) return turned.error();
                              circuit = std::move(turned).value();
                              return {};
                          });
}

Result<OperatingPoint> while_on(const Circuit& circuit, const Conditions& conditions,
                                const std::string& light, const Corner& corner) {
    const auto run = long_run(circuit, known_catalogue(), conditions, corner);
    if (!run) return run.error();
    return run.value().while_on(circuit, light);
}

void add_raised_resistor(const Evidence& e, const std::string& part, std::function<bool(const Circuit&)> fits,
                         Finding& finding) {
    const Part* resistor = nullptr;
    for (const LedString& s : led_strings(*e.circuit))
        for (const Part* led : s.leds)
            if (led->designator == part) resistor = s.resistor ? s.resistor : s.shared;
    if (!resistor) return;
    finding.remedies.push_back(circuit_remedy(
        "Raise " + resistor->designator + " until it fits",
        [name = resistor->designator, fits = std::move(fits)](Circuit& circuit) -> std::optional<Error> {
            Part* r = circuit.find(name);
            const ParamInfo* info = r ? part_kind(r->kind)->param("value") : nullptr;
            for (int step = 0; info && step < 72; ++step) {
                const double next = preferred_at_least(r->number("value") * 1.01, Series::e24);
                if (next > info->high) break;
                r->params["value"] = next;
                if (fits(circuit)) return {};
            }
            return Error{Fault::design, "part " + name, "no value of it is enough",
                         "another way to limit the current"};
        }));
}

namespace {

/// Gives resistors of strings the next usual rating that bears twice what they take, with room for the worst
/// corner. Design error where none does.
std::optional<Error> suit_ratings(Circuit& circuit, const OperatingPoint& op) {
    static constexpr std::array usual{0.125, 0.25, 0.5, 1.0, 2.0, 3.0, 5.0, 10.0};  // W
    for (const LedString& s : led_strings(circuit)) {
        const Part* r = s.resistor ? s.resistor : s.shared;
        const double wanted = r ? 2.5 * op.part(r->designator).power() : 0;
        if (!r || r->number("rating") >= wanted) continue;
        const auto next = std::lower_bound(usual.begin(), usual.end(), wanted);
        if (next == usual.end())
            return Error{Fault::design, "part " + r->designator, "no usual rating is enough",
                         "a lower supply"};
        circuit.find(r->designator)->params["rating"] = *next;
    }
    return {};
}

/// Raises resistors of strings until no light gets more than `wanted`, A by the first LED of each string.
/// Design error where none is large enough.
std::optional<Error> keep_currents(Circuit& circuit, const std::map<std::string, double>& wanted,
                                   const Conditions& conditions) {
    for (int step = 0; step < 60; ++step) {
        const auto now = long_run(circuit, known_catalogue(), conditions);
        if (!now) return now.error();
        std::map<std::string, double> raised;
        for (const LedString& s : led_strings(circuit)) {
            const Part* r = s.resistor ? s.resistor : s.shared;
            const auto before = wanted.find(s.leds.front()->designator);
            if (!r || before == wanted.end()) continue;
            const double ratio =
                now.value().mean().part(before->first).current / std::max(before->second, 1e-4);
            if (ratio > 1.05)
                raised[r->designator] =
                    preferred_at_least(r->number("value") * std::max(1.01, 0.95 * ratio), Series::e24);
        }
        if (raised.empty()) return suit_ratings(circuit, now.value().mean());
        for (const auto& [name, ohms] : raised) circuit.find(name)->params["value"] = ohms;
    }
    return Error{Fault::design, "circuit", "no resistors suit the other supply", "a lower supply"};
}

std::map<std::string, double> string_currents(const Circuit& circuit, const Conditions& conditions) {
    std::map<std::string, double> currents;
    if (const auto run = long_run(circuit, known_catalogue(), conditions))
        for (const LedString& s : led_strings(circuit))
            currents[s.leds.front()->designator] =
                run.value().mean().part(s.leds.front()->designator).current;
    return currents;
}

}  // namespace

Remedy with_currents_kept(const Evidence& e, std::string label, std::function<void(Circuit&)> change) {
    return circuit_remedy(
        std::move(label),
        [change = std::move(change), c = e.fresh](Circuit& circuit) -> std::optional<Error> {
            const auto wanted = string_currents(circuit, c);
            change(circuit);
            return keep_currents(circuit, wanted, c);
        });
}

void add_more_cells(const Evidence& e, std::function<bool(const Circuit&)> fits, Finding& finding) {
    const Part* source = e.circuit->source();
    if (!source || !is(*source, Role::cells) || !e.design.blocks.empty()) return;
    finding.remedies.push_back(circuit_remedy(
        "More cells, and resistors to suit",
        [name = source->designator, fits = std::move(fits),
         c = e.fresh](Circuit& circuit) -> std::optional<Error> {
            constexpr int most = 4;
            const auto wanted = string_currents(circuit, c);
            for (int more = 1; more <= most; ++more) {
                Circuit trial = circuit;
                trial.find(name)->params["count"] = circuit.find(name)->number("count") + more;
                if (keep_currents(trial, wanted, c) || !fits(trial)) continue;
                circuit = std::move(trial);
                return {};
            }
            return Error{Fault::design, "part " + name, "four cells more are not enough", "another supply"};
        }));
}

void add_larger_types(const Part& part, const std::string& param, double value, Finding& finding) {
    const PartKind* kind = part_kind(part.kind);
    const ParamInfo* info = kind ? kind->param(param) : nullptr;
    if (!info) return;
    if (part.params.contains(param) || !std::isnan(std::get<double>(info->standard))) {
        // a number of its own: the next usual one
        static constexpr std::array volts{6.3,  10.0,  16.0,  25.0,  35.0, 50.0,
                                          63.0, 100.0, 160.0, 250.0, 400.0};
        double larger = 0;
        if (info->unit == Unit::volt) {
            for (const double v : volts)
                if (!(larger > 0) && v >= 1.2 * value) larger = v;
        } else {
            larger = preferred_at_least(1.5 * value, Series::e6);
        }
        if (larger > 0 && larger <= info->high)
            finding.remedies.push_back(set_param("Use one for " + format_quantity(larger, info->unit),
                                                 part.designator, param, larger));
        return;
    }
    for (const PartType& type : known_catalogue().types)
        if (type.kind == part.kind && type.id != part.text("type") && type.value(param) >= value)
            finding.remedies.push_back(set_param("Use the " + type.name, part.designator, "type", type.id));
}

const std::string& kind_with(Role role) {
    static const std::string none;
    for (const PartKind& kind : part_kinds())
        if (kind.is(role)) return kind.id;
    return none;
}

}  // namespace elkit
