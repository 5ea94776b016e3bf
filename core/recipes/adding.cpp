// Blocks that come into a design, hang on others and go.
#include <fmt/format.h>

#include <algorithm>

#include "circuit/connectivity.hpp"
#include "circuit/edit.hpp"
#include "circuit/part_words.hpp"
#include "recipes/block_parts.hpp"
#include "recipes/blocks.hpp"
#include "recipes/sketch.hpp"

namespace elkit {

/// The goals with what the design's own source says: its cells and their number.
static Goals as_fed(Goals goals, const Recipe& recipe, const Part& source) {
    for (const GoalInfo& goal : recipe.goals)
        if (goal.mirrored() && part_kind(source.kind)->param(goal.mirror_param))
            goals.values[goal.info.key] = standing(source, goal.mirror_param);
    return goals;
}

Goals planned_in(const Design& design, const Recipe& recipe, std::map<std::string, ParamValue> said,
                 const Environment& drawer) {
    const Part* source = design.circuit.source();
    if (source && is(*source, Role::cells)) {
        const Goals fed = as_fed(Goals{}, recipe, *source);
        for (const auto& [key, value] : fed.values) said[key] = value;
    }
    return planned(recipe, said, environment_in(design, drawer));
}

/// Goals that say what the block is joined to. Errors: a net that the recipe does not take or that is not
/// there.
static Result<Goals> as_joined(Goals goals, const Recipe& recipe, const Design& design, const Joins& joins) {
    for (const auto& join : joins) {
        const std::string &local = join.first, &net = join.second;
        const auto take = std::find_if(recipe.takes.begin(), recipe.takes.end(),
                                       [&](const RecipeNet& joint) { return joint.net == local; });
        if (take == recipe.takes.end()) {
            std::vector<std::string> known;
            for (const RecipeNet& joint : recipe.takes) known.push_back(joint.net);
            return Error{Fault::usage, local, "the " + recipe.name + " takes no such net",
                         known.empty() ? "nothing: it hangs on no other block"
                                       : fmt::format("one of {}", fmt::join(known, ", "))};
        }
        if (find_net(design.circuit, net) != net)
            return Error{Fault::usage, local, "there is no net " + net, "a net of the design"};
        goals.values[take->goal] = take->value;
    }
    return goals;
}

Result<Design> with_block(const Design& design, std::string_view id, const Goals& asked, const Joins& joins,
                          const Environment& drawer) {
    const Recipe* recipe = find_recipe(id);
    if (!recipe) return Error{Fault::usage, std::string(id), "there is no such recipe", "one of the recipes"};
    const Part* source = design.circuit.source();
    const bool cells = source && is(*source, Role::cells);
    if (source && !cells && recipe->watches_cells)
        return Error{Fault::design, source->designator, "it does not empty",
                     "cells, that a " + recipe->name + " is about"};
    auto joined = as_joined(cells ? as_fed(asked, *recipe, *source) : asked, *recipe, design, joins);
    if (!joined) return joined.error();
    Goals goals = std::move(joined).value();
    Design out = design;
    Block block;
    block.recipe = recipe->id;
    block.nets = joins;
    if (source) {
        const Part wanted = source_of(goals, {});
        block.uses[wanted.designator] = source->designator;
        for (const Pin& pin : wanted.pins) block.nets[pin.net] = source->net(pin.name);
        block.nets[wanted.net("+")] = feed_net(design.circuit);
        const auto behind = main_switch(design.circuit);
        if (behind && (recipe->watches_cells || recipe->behind_switch)) {
            block.nets[wanted.net("+")] = design.circuit.find(behind->designator)->net(behind->pin);
            if (recipe->goal("switch")) goals.values["switch"] = std::string("no");
        }
    }
    out.blocks.push_back(std::move(block));
    return with_goals(out, out.blocks.size() - 1, goals, drawer);
}

/// Whether anything outside of a block meets a net.
static bool met_by_others(const Design& design, const Block& block, const std::string& net) {
    return std::any_of(design.circuit.parts.begin(), design.circuit.parts.end(), [&](const Part& part) {
        const bool own = std::any_of(block.parts.begin(), block.parts.end(),
                                     [&](const auto& entry) { return entry.second == part.designator; });
        return !own && std::any_of(part.pins.begin(), part.pins.end(),
                                   [&](const Pin& pin) { return pin.net == net; });
    });
}

Result<Design> without_block(const Design& design, std::size_t index) {
    if (index >= design.blocks.size())
        return Error{Fault::design, "/blocks", "there is no such block", no_recipe};
    Design out = design;
    const Block gone = design.blocks[index];
    out.blocks.erase(out.blocks.begin() + static_cast<std::ptrdiff_t>(index));
    const auto behind = main_switch(design.circuit);
    for (const auto& owned : gone.parts) {
        const std::string& designator = owned.second;
        const Part* part = design.circuit.find(designator);
        if (!part) continue;
        const bool feeds = is(*part, Role::source) || (behind && behind->designator == designator);
        const bool needed = feeds && std::any_of(part->pins.begin(), part->pins.end(), [&](const Pin& pin) {
                                return met_by_others(design, gone, pin.net);
                            });
        if (!needed) {
            std::erase_if(out.circuit.parts, [&](const Part& p) { return p.designator == designator; });
            continue;
        }
        const auto heir = std::find_if(out.blocks.begin(), out.blocks.end(),
                                       [&](const Block& b) { return has_part(b, designator); });
        if (heir == out.blocks.end()) continue;
        const auto used = std::find_if(heir->uses.begin(), heir->uses.end(),
                                       [&](const auto& entry) { return entry.second == designator; });
        heir->parts[used->first] = designator;
        heir->uses.erase(used);
    }
    return out;
}

std::vector<OfferedNet> offered_nets(const Design& design) {
    std::vector<OfferedNet> all;
    for (std::size_t k = 0; k < design.blocks.size(); ++k)
        if (const Recipe* recipe = recipe_of(design.blocks[k]))
            for (const RecipeNet& joint : recipe->offers)
                if (const auto net = design.blocks[k].nets.find(joint.net);
                    net != design.blocks[k].nets.end() &&
                    find_net(design.circuit, net->second) == net->second)
                    all.push_back({k, net->second, joint.label});
    return all;
}

std::vector<std::string> changed_parts(const Design& before, const Design& after) {
    std::vector<std::string> lines;
    const auto pins_of = [](const Part& part) {
        std::vector<std::string> pins;
        for (const Pin& pin : part.pins) pins.push_back(pin.name + " " + pin.net);
        return fmt::format("{}", fmt::join(pins, ", "));
    };
    for (const Part& part : before.circuit.parts)
        if (!after.circuit.find(part.designator)) lines.push_back(part.designator + " goes");
    for (const Part& part : after.circuit.parts) {
        const Part* was = before.circuit.find(part.designator);
        if (!was) {
            lines.push_back(fmt::format("{}: new, {}", part.designator, shop_name(part)));
            continue;
        }
        const std::string old_name = shop_name(*was), name = shop_name(part);
        if (old_name != name)
            lines.push_back(fmt::format("{}: {} → {}", part.designator, old_name, name));
        else if (!(was->params == part.params))
            for (const ParamInfo& info : part_kind(part.kind)->params)
                if (const auto then = param_text(*was, info), now = param_text(part, info); then != now)
                    lines.push_back(fmt::format("{} {}: {} → {}", part.designator, info.label, then, now));
        if (!(was->pins == part.pins))
            lines.push_back(fmt::format("{}: {} → {}", part.designator, pins_of(*was), pins_of(part)));
    }
    return lines;
}

}  // namespace elkit
