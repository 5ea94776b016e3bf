// Goals against what stands in the circuit, and against what the engine finds.
#include <fmt/format.h>

#include "circuit/part_words.hpp"
#include "recipes/blocks.hpp"
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

void goals_missed(const Evidence& e, std::vector<Finding>& out) {
    for (const Error& wrong : block_errors(e.design))
        add_finding(out, Severity::error, "light", "field:goals", wrong.place + ": " + wrong.found,
                    "Expected " + wrong.expected + ".", wrong.place);
    for (const Block& block : e.design.blocks) {
        const Recipe* recipe = find_recipe(block.recipe);
        if (!recipe) {
            add_finding(out, Severity::note, "light", "field:goals",
                        fmt::format("The recipe \"{}\" is not known here", block.recipe),
                        "Its parts stay as they are; a newer version made them.", block.recipe);
            continue;
        }
        const Goals goals = goals_of(e.design, block);
        if (auto sized = recipe->size(goals, {}); !sized) {
            add_finding(
                out, Severity::error, recipe->station, "field:goals",
                fmt::format("The goals of the {} cannot be met: {}", recipe->name, sized.error().found),
                "Expected " + sized.error().expected + ".", recipe->id);
            continue;
        }
        if (!recipe->expect || !block.by_hand.empty()) continue;  // what a hand set is told by another rule
        for (const Expectation& x : recipe->expect(goals)) {
            const auto part = block.parts.find(x.part);
            if (part == block.parts.end() || !e.circuit->find(part->second)) continue;
            const WhileOn op = e.while_on(part->second);
            if (!op) break;
            const double is = op->part(part->second).current;
            if (is >= x.low && is <= x.high) continue;
            add_finding(
                out, Severity::warning, recipe->station, "part:" + part->second,
                fmt::format("{}: {}, its goal is {}", part->second, amps(is), amps(x.target)),
                fmt::format("The {} by the engine, lit and from fresh cells. Something else in the circuit "
                            "takes or gives current.",
                            x.label));
            break;  // one string stands for all of its kind
        }
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
         {On::blocks, On::conditions},
         goals_missed},
    };
}

}  // namespace elkit
