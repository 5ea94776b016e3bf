#include "recipes/blocks.hpp"

#include <fmt/format.h>

#include <algorithm>

#include "circuit/connectivity.hpp"
#include "circuit/edit.hpp"
#include "recipes/block_parts.hpp"

namespace elkit {
namespace {

/// Puts what a recipe sized into a circuit, under the names that the block gives.
class Placing {
  public:
    Placing(const Design& design, std::size_t index) : out_(design), block_(out_.blocks[index]) {}

    Design place(const Sized& sized) {
        std::vector<Part> ours;
        for (const Part& part : sized.parts)
            if (block_.uses.contains(part.designator))
                use(part);
            else
                ours.push_back(owned(part));
        std::map<std::string, std::string> still;
        for (const Part& part : sized.parts)
            if (const auto at = block_.parts.find(part.designator); at != block_.parts.end())
                still.insert(*at);
        auto& parts = out_.circuit.parts;
        const auto of_block = [&](const Part& p) {
            return given_up_.contains(p.designator) ||
                   std::any_of(block_.parts.begin(), block_.parts.end(),
                               [&](const auto& entry) { return entry.second == p.designator; });
        };
        const auto first = std::find_if(parts.begin(), parts.end(), of_block) - parts.begin();
        parts.erase(std::remove_if(parts.begin(), parts.end(), of_block), parts.end());
        const auto at = std::min<std::ptrdiff_t>(first, static_cast<std::ptrdiff_t>(parts.size()));
        parts.insert(parts.begin() + at, ours.begin(), ours.end());
        block_.parts = std::move(still);
        return std::move(out_);
    }

  private:
    bool by_hand(const std::string& what) const { return block_.by_hand.contains(what); }

    std::string net_name(const std::string& local) {
        const auto known = block_.nets.find(local);
        if (known != block_.nets.end()) return known->second;
        std::string name = local;
        const auto nets = out_.circuit.nets();
        for (int n = 2; std::find(nets.begin(), nets.end(), name) != nets.end(); ++n)
            name = local + "_" + std::to_string(n);
        return block_.nets[local] = name;
    }

    void set_params(Part& part, const Part& wanted) {
        const auto type_before = part.text("type");
        for (const auto& [key, value] : wanted.params)
            if (!by_hand(hand_key(part.designator, key))) part.params[key] = value;
        if (part.text("type") != type_before) part.params.erase("points");  // they were measured on another
    }

    void use(const Part& wanted) {
        Part* part = out_.circuit.find(block_.uses.at(wanted.designator));
        if (!part || part->kind != wanted.kind) return;
        Part said = wanted;  // what no goal stands for is its owner's affair
        const Recipe* recipe = recipe_of(block_);
        std::erase_if(said.params, [&](const auto& param) {
            return !recipe ||
                   std::none_of(recipe->goals.begin(), recipe->goals.end(), [&](const GoalInfo& g) {
                       return g.mirror_param == param.first && says(g, wanted.designator);
                   });
        });
        set_params(*part, said);
    }

    Part owned(const Part& wanted) {
        const PartKind& kind = *part_kind(wanted.kind);
        const auto known = block_.parts.find(wanted.designator);
        const Part* old = known == block_.parts.end() ? nullptr : out_.circuit.find(known->second);
        const bool same = old && old->kind == wanted.kind;
        Part part = same ? *old : Part{};
        if (old && !same && part_kind(old->kind)->prefix == kind.prefix)  // a capacitor of another kind
            part.designator = old->designator, part.kind = wanted.kind;
        if (old && part.designator.empty()) given_up_.insert(old->designator);  // a sensor of another kind
        if (part.designator.empty()) {
            const bool own = wanted.designator.size() > kind.prefix.size() &&
                             wanted.designator.find_first_not_of("0123456789", kind.prefix.size()) ==
                                 std::string::npos;  // C1, and not Ctiming
            const bool free = own && !out_.circuit.find(wanted.designator) && !taken(wanted.designator);
            part.designator = free ? wanted.designator : next_free(kind.prefix);
            part.kind = wanted.kind;
            block_.parts[wanted.designator] = part.designator;
        }
        names_.insert(part.designator);
        set_params(part, wanted);
        std::vector<Pin> pins;
        for (const Pin& pin : wanted.pins) {
            const std::string& before = part.net(pin.name);
            const bool keep = !before.empty() && by_hand(hand_pin(part.designator, pin.name));
            pins.push_back({pin.name, keep ? before : net_name(pin.net)});
        }
        part.pins = std::move(pins);
        return part;
    }
    bool taken(const std::string& name) const { return names_.contains(name); }
    std::string next_free(const std::string& prefix) const {
        for (int n = 1;; ++n)
            if (std::string name = prefix + std::to_string(n); !out_.circuit.find(name) && !taken(name))
                return name;
    }

    Design out_;
    Block& block_;
    std::set<std::string> names_, given_up_;
};

Result<const Recipe*> block_recipe(const Design& design, std::size_t index) {
    if (index >= design.blocks.size())
        return Error{Fault::design, "/blocks", "there are no goals to size from", no_recipe};
    const Recipe* recipe = recipe_of(design.blocks[index]);
    if (!recipe)
        return Error{Fault::design, fmt::format("/blocks/{}/recipe", index),
                     "unknown recipe \"" + design.blocks[index].recipe + "\"", "one that this version knows"};
    return recipe;
}

}  // namespace

Goals goals_of(const Design& design, const Block& block) {
    const Recipe* recipe = recipe_of(block);
    Goals goals;
    if (!recipe) return goals;
    for (const GoalInfo& g : recipe->goals) {
        ParamValue& value = goals.values[g.info.key] = g.info.standard;
        if (!g.mirrored()) {
            if (const auto own = block.goals.find(g.info.key); own != block.goals.end())
                value = tidied(g, own->second);
            continue;
        }
        bool found = false;
        for (const auto& designator : mirrors_of(block, g)) {
            const Part* part = design.circuit.find(designator);
            if (!part || !part_kind(part->kind)->param(g.mirror_param)) continue;
            const bool hand = block.by_hand.contains(hand_key(designator, g.mirror_param));
            if (!found || !hand) value = standing(*part, g.mirror_param);
            found = true;
            if (!hand) break;
        }
    }
    return goals;
}

Environment environment_of(const Design& design, const Block& block, Environment drawer) {
    for (const auto& [local, designator] : block.uses) {
        const Part* part = design.circuit.find(designator);
        if (part && is(*part, Role::source) && !is(*part, Role::cells)) drawer.source = *part;
    }
    return drawer;
}

Environment environment_in(const Design& design, Environment drawer) {
    const Part* source = design.circuit.source();
    if (source && !is(*source, Role::cells)) drawer.source = *source;
    return drawer;
}

Result<Sized> sized_block(const Design& design, std::size_t index, const Environment& drawer) {
    auto recipe = block_recipe(design, index);
    if (!recipe) return recipe.error();
    const Block& block = design.blocks[index];
    return recipe.value()->size(goals_of(design, block), environment_of(design, block, drawer));
}

/// A block whose source a person replaced hangs on the one that is there, rather than bring another.
static Design with_source_found(Design design, std::size_t index) {
    const Part* source = design.circuit.source();
    Block& block = design.blocks[index];
    const bool has_one =
        !source ||
        std::any_of(design.circuit.parts.begin(), design.circuit.parts.end(), [&](const Part& part) {
            return is(part, Role::source) && has_part(block, part.designator);
        });
    if (!has_one) block.uses[std::string(recipe_source)] = source->designator;
    return design;
}

/// One block run for these goals, and nothing else.
static Result<Design> run_block(const Design& given, std::size_t index, const Goals& goals,
                                const Environment& drawer) {
    auto recipe = block_recipe(given, index);
    if (!recipe) return recipe.error();
    const Design design = with_source_found(given, index);
    if (auto good = check_goals(*recipe.value(), goals); !good) return good.error();
    auto sized = recipe.value()->size(goals, environment_of(design, design.blocks[index], drawer));
    if (!sized) return sized.error();
    Design out = Placing(design, index).place(sized.value());
    Block& block = out.blocks[index];
    for (const GoalInfo& g : recipe.value()->goals)
        if (!g.mirrored()) block.goals[g.info.key] = goals.values.at(g.info.key);
    if (!drawer.owned.empty())  // a choice of this design and this drawer, not of its goals
        for (const auto& [key, figure] : sized.value().figures) {
            const auto dot = key.find('.');
            if (const auto part = block.parts.find(key.substr(0, dot)); part != block.parts.end())
                block.by_hand.insert(part->second + key.substr(dot));
        }
    std::erase_if(block.by_hand, [&](const std::string& what) {
        return !out.circuit.find(what.substr(0, what.find_first_of(".:")));
    });
    return out;
}

/// Whether a block builds on a part that two designs have otherwise.
static bool builds_on_change(const Block& block, const Design& before, const Design& after) {
    return std::any_of(block.uses.begin(), block.uses.end(), [&](const auto& used) {
        const Part *was = before.circuit.find(used.second), *is = after.circuit.find(used.second);
        return was && is && !(*was == *is);
    });
}

Result<Design> with_goals(const Design& design, std::size_t index, const Goals& goals,
                          const Environment& drawer) {
    auto out = run_block(design, index, goals, drawer);
    if (!out) return out;
    for (std::size_t k = 0; k < out.value().blocks.size(); ++k) {
        const Block& other = out.value().blocks[k];
        if (k == index || !builds_on_change(other, design, out.value())) continue;
        // where it cannot be met with that, its parts stay and a finding tells
        if (auto next = run_block(out.value(), k, goals_of(out.value(), other), {})) out = std::move(next);
    }
    return out;
}

Result<Design> with_goal(const Design& design, std::size_t index, const std::string& key,
                         const ParamValue& value) {
    auto recipe = block_recipe(design, index);
    if (!recipe) return recipe.error();
    Goals goals = goals_of(design, design.blocks[index]);
    goals.values[key] = value;
    const GoalInfo* info = recipe.value()->goal(key);
    Design from = design;
    if (info && info->mirrored())  // a new goal takes back what single parts were given
        for (const auto& part : mirrors_of(from.blocks[index], *info))
            from.blocks[index].by_hand.erase(hand_key(part, info->mirror_param));
    return with_goals(from, index, goals);
}

std::optional<std::size_t> block_with(const Design& design, std::string_view recipe) {
    for (std::size_t k = 0; k < design.blocks.size(); ++k)
        if (design.blocks[k].recipe == recipe) return k;
    return std::nullopt;
}

Design new_design() {
    Design d;
    d.name = "New light";
    return with_block(d, recipes().front().id, recipes().front().standard()).value();
}

bool has_part(const Block& block, std::string_view designator) {
    for (const auto* names : {&block.parts, &block.uses})
        for (const auto& [local, here] : *names)
            if (here == designator) return true;
    return false;
}

std::optional<std::size_t> block_of(const Design& design, std::string_view designator) {
    for (std::size_t k = 0; k < design.blocks.size(); ++k)
        if (has_part(design.blocks[k], designator)) return k;
    return std::nullopt;
}

std::vector<GoalChange> declared_remedies(const Design& design, const std::string& rule,
                                          const std::string& part) {
    std::vector<GoalChange> found;
    const auto only = part.empty() ? std::nullopt : block_of(design, part);
    for (std::size_t k = 0; k < design.blocks.size(); ++k) {
        const Recipe* recipe = recipe_of(design.blocks[k]);
        if (!recipe || (!part.empty() && only != k)) continue;
        const Goals now = goals_of(design, design.blocks[k]);
        for (const GoalRemedy& remedy : recipe->remedies) {
            if (std::find(remedy.rules.begin(), remedy.rules.end(), rule) == remedy.rules.end()) continue;
            Goals next = now;
            for (const auto& [key, value] : remedy.set) next.values[key] = value;
            for (const auto& [key, by] : remedy.add) next.values[key] = next.number(key) + by;
            for (const auto& [key, most] : remedy.at_most)
                next.values[key] = std::min(next.number(key), most);
            if (!(next == now) && check_goals(*recipe, next))
                found.push_back({k, remedy.label, std::move(next)});
        }
    }
    return found;
}

Result<Design> with_supply(const Design& design, const std::string& cell, int count) {
    Design out = design;
    const Part* source = design.circuit.source();
    if (!source) return Error{Fault::design, "circuit", "nothing feeds it", "a battery or a supply"};
    Part& part = *out.circuit.find(source->designator);
    if (!is(part, Role::cells)) {
        for (const PartKind& kind : part_kinds())
            if (kind.is(Role::cells)) part.kind = kind.id;
        std::erase_if(part.params, [](const auto& p) { return !p.first.starts_with("lead_"); });
    }
    put_cell(part, cell);
    part.params["count"] = static_cast<double>(count);
    for (std::size_t k = 0; k < out.blocks.size(); ++k) {
        const Recipe* recipe = recipe_of(out.blocks[k]);
        if (!recipe || !has_part(out.blocks[k], part.designator)) continue;
        const Goals goals = goals_of(out, out.blocks[k]);
        auto sized = with_goals(out, k, recipe->suited ? recipe->suited(goals) : goals);
        if (!sized) return sized.error();
        out = std::move(sized).value();
    }
    return out;
}

}  // namespace elkit
