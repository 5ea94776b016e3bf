// Goals against what stands in the circuit, and against what the engine finds.
#include <fmt/format.h>

#include "circuit/part_kind.hpp"
#include "circuit/part_words.hpp"
#include "recipes/blocks.hpp"
#include "recipes/measured.hpp"
#include "recipes/ways_out.hpp"
#include "review/rules.hpp"

namespace elkit {
namespace {

std::string value_words(const Part& part, const std::string& key, const ParamValue& value) {
    const PartKind* kind = part_kind(part.kind);
    const ParamInfo* info = kind ? kind->param(key) : nullptr;
    Part with = part;
    with.params[key] = value;
    return info ? param_text(with, *info) : key;
}

void by_hand(const Evidence& e, std::vector<Finding>& out) {
    for (const Difference& d : differences(e.design)) {
        const Part* part = e.circuit->find(d.designator);
        if (!part) continue;
        const std::string is = value_words(*part, d.param, d.is),
                          wanted = value_words(*part, d.param, d.wanted);
        const ParamInfo* info = part_kind(part->kind)->param(d.param);
        auto& f = add_finding(
            out, d.by_hand ? Severity::note : Severity::warning, "light", "part:" + d.designator,
            fmt::format("{} {}: {}{}, its goals ask for {}", d.designator, info ? info->label : d.param, is,
                        d.by_hand ? " by hand" : "", wanted),
            d.by_hand
                ? "It stays when the goals change. Take the goals' value back, or make this one the goal."
                : "The file says one thing in the goals and another in the part.",
            d.param);
        f.remedies.push_back(
            {"Back to " + wanted, [d](const Design& design) { return settle_to_goals(design, d); }});
        if (d.mirrors)
            f.remedies.push_back(
                {is + " for all", [d](const Design& design) { return settle_to_part(design, d); }});
    }
}

/// The current of a part beside all else that the circuit has. What is told by the source, or by the cycle of
/// the whole, tells of a block only where it is alone.
bool beside_others(const Expectation& x, const Circuit& circuit) {
    const Part* part = x.probe.starts_with("part:") ? circuit.find(x.probe.substr(5)) : nullptr;
    return part && !is(*part, Role::source) && x.presses.empty() &&
           (x.reading.empty() || x.reading == "mean");
}

void expectations_missed(const Evidence& e, std::size_t number, const Recipe& recipe, const Sized& sized,
                         std::vector<Finding>& out) {
    const Keyed<Circuit> alone(circuit_of_block(e.design, number));
    const Conditions untouched = as_seen(*e.circuit, fresh(*e.circuit, {}));  // as the recipe looks at it
    for (const Expectation& local : sized.expected) {
        const auto x = in_design(local, e.design.blocks[number], *e.circuit);
        if (!x) continue;
        const auto found = measured(e.ask, beside_others(*x, *e.circuit) ? e.circuit : alone, *x, untouched);
        const bool of_part = x->probe.starts_with("part:");
        const std::string ref = of_part ? x->probe : "field:goals";
        if (!found || (found.value() >= x->low && found.value() <= x->high)) continue;
        const auto words = [&](double value) { return format_quantity(value, x->unit); };
        add_finding(
            out, Severity::warning, recipe.station, ref,
            fmt::format("{}: {}, its goal is {}", of_part ? x->probe.substr(5) : x->label,
                        words(found.value()), words(x->target)),
            fmt::format("The {} by the engine, from fresh cells. Something else in the circuit takes or "
                        "gives current, or it was changed.",
                        x->label),
            of_part ? "" : x->label);
        break;  // one string stands for all of its kind
    }
}

void goals_missed(const Evidence& e, std::vector<Finding>& out) {
    for (const Error& wrong : block_errors(e.design))
        add_finding(out, Severity::error, "light", "field:goals", wrong.place + ": " + wrong.found,
                    "Expected " + wrong.expected + ".", wrong.place);
    for (std::size_t k = 0; k < e.design.blocks.size(); ++k) {
        const Block& block = e.design.blocks[k];
        const Recipe* recipe = find_recipe(block.recipe);
        if (!recipe) {
            add_finding(out, Severity::note, "light", "field:goals",
                        fmt::format("The recipe \"{}\" is not known here", block.recipe),
                        "Its parts stay as they are; a newer version made them.", block.recipe);
            continue;
        }
        const auto sized = sized_block(e.design, k);
        if (!sized) {
            auto& f = add_finding(
                out, Severity::error, recipe->station, "field:goals",
                fmt::format("The goals of the {} cannot be met: {}", recipe->name, sized.error().found),
                "Expected " + sized.error().expected + ".", recipe->id);
            for (const WayOut& way : ways_out(*recipe, goals_of(e.design, block), environment_in(e.design)))
                f.remedies.push_back({way.label, [k, way](const Design& design) {
                                          return with_goal(design, k, way.key, way.value);
                                      }});
            continue;
        }
        if (block.by_hand.empty())  // what a hand set is told by another rule
            expectations_missed(e, k, *recipe, sized.value(), out);
    }
}

}  // namespace

std::vector<Rule> recipe_rules() {
    return {
        {"by-hand",
         "a number that differs from what its goals ask for",
         "goals and parts should say one thing",
         "the recipe run again",
         {On::blocks},
         by_hand},
        {"goals",
         "goals that the circuit does not meet",
         "what was wanted is not what is there",
         "the engine against the recipe's goals; a fifth of the goal is two E24 steps",
         {On::blocks},
         goals_missed},
    };
}

}  // namespace elkit
