#include "review/rules.hpp"

#include <algorithm>

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

void add_goal_remedies(const Evidence& e, const std::string& rule, const std::string& part,
                       Finding& finding) {
    for (GoalChange& change : declared_remedies(e.design, rule, part))
        finding.remedies.push_back({change.label, [change](const Design& design) {
                                        return with_goals(design, change.block, change.goals);
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

const std::string& kind_with(Role role) {
    static const std::string none;
    for (const PartKind& kind : part_kinds())
        if (kind.is(role)) return kind.id;
    return none;
}

}  // namespace elkit
