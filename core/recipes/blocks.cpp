#include "recipes/blocks.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace elkit {
namespace {

constexpr const char* no_recipe = "a design with a block of a recipe";

/// Designators of the parts that say a goal, in the order of the recipe's names.
std::vector<std::string> mirrors_of(const Block& block, const GoalInfo& goal) {
    std::vector<std::string> found;
    for (const auto* names : {&block.parts, &block.uses})
        for (const auto& [local, designator] : *names)
            if (local.starts_with(goal.mirror_parts)) found.push_back(designator);
    return found;
}

/// A parameter as it stands: the part's own or its kind's usual one.
ParamValue standing(const Part& part, const std::string& key) {
    const PartKind* kind = part_kind(part.kind);
    const ParamInfo* info = kind ? kind->param(key) : nullptr;
    if (info && std::holds_alternative<std::string>(info->standard)) return part.text(key);
    if (info && std::holds_alternative<PointList>(info->standard)) {
        const PointList* points = part.points(key);
        return points ? *points : PointList{};
    }
    return part.number(key);
}

std::string hand_key(const std::string& designator, const std::string& param) {
    return designator + "." + param;
}
std::string hand_pin(const std::string& designator, const std::string& pin) { return designator + ":" + pin; }

/// A goal within what is declared; the standard in place of what is not.
ParamValue tidied(const GoalInfo& goal, const ParamValue& value) {
    if (value.index() != goal.info.standard.index()) return goal.info.standard;
    const double* number = std::get_if<double>(&value);
    if (number) return std::clamp(*number, goal.info.low, goal.info.high);
    const auto& choices = goal.info.choices;
    const auto& text = std::get<std::string>(value);
    const bool known = choices.empty() || std::find(choices.begin(), choices.end(), text) != choices.end();
    return known ? value : goal.info.standard;
}

/// What is wrong with a value for a goal, if anything; `place` names it.
std::optional<Error> goal_error(const GoalInfo& g, const ParamValue& value, const std::string& place,
                                Fault fault) {
    const auto* text = std::get_if<std::string>(&value);
    const double* number = std::get_if<double>(&value);
    if (value.index() != g.info.standard.index())
        return Error{fault, place, text ? "found the text \"" + *text + "\"" : "found no text",
                     text ? "a number: " + g.info.meaning : g.info.meaning};
    if (number && !(*number >= g.info.low && *number <= g.info.high))
        return Error{fault, place, "found " + format_quantity(*number, g.info.unit),
                     fmt::format("{} to {}", format_quantity(g.info.low, g.info.unit),
                                 format_quantity(g.info.high, g.info.unit))};
    if (number && g.info.unit == Unit::count && *number != std::floor(*number))
        return Error{fault, place, "found " + format_plain(*number), "a whole number"};
    if (text && !g.info.choices.empty() && !(tidied(g, value) == value))
        return Error{fault, place, "found \"" + *text + "\"",
                     fmt::format("one of {}", fmt::join(g.info.choices, ", "))};
    return {};
}

Result<void> check_goals(const Recipe& recipe, const Goals& goals) {
    for (const GoalInfo& g : recipe.goals) {
        const auto found = goals.values.find(g.info.key);
        if (found == goals.values.end())
            return Error{Fault::usage, g.info.label, "is missing", g.info.meaning};
        if (auto wrong = goal_error(g, found->second, g.info.label, Fault::usage)) return *wrong;
    }
    return success();
}

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
            return std::any_of(block_.parts.begin(), block_.parts.end(),
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
        if (Part* part = out_.circuit.find(block_.uses.at(wanted.designator))) set_params(*part, wanted);
    }

    Part owned(const Part& wanted) {
        const PartKind& kind = *part_kind(wanted.kind);
        const auto known = block_.parts.find(wanted.designator);
        const Part* old = known == block_.parts.end() ? nullptr : out_.circuit.find(known->second);
        Part part = old && old->kind == wanted.kind ? *old : Part{};
        if (part.designator.empty()) {
            const bool free = !out_.circuit.find(wanted.designator) && !taken(wanted.designator);
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
    std::set<std::string> names_;
};

const Recipe* recipe_of(const Block& block) { return find_recipe(block.recipe); }

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
            if (!part) continue;
            const bool hand = block.by_hand.contains(hand_key(designator, g.mirror_param));
            if (!found || !hand) value = standing(*part, g.mirror_param);
            found = true;
            if (!hand) break;
        }
    }
    return goals;
}

std::vector<Error> block_errors(const Design& design) {
    std::vector<Error> errors;
    std::map<std::string, std::string> owners;  // designator → place of the first that owns it
    for (std::size_t k = 0; k < design.blocks.size(); ++k) {
        const Block& block = design.blocks[k];
        const Recipe* recipe = recipe_of(block);
        if (!recipe) continue;
        for (const auto& [key, value] : block.goals) {
            const GoalInfo* goal = recipe->goal(key);
            const std::string place = fmt::format("/blocks/{}/goals/{}", k, key);
            if (auto wrong = goal ? goal_error(*goal, value, place, Fault::design) : std::nullopt)
                errors.push_back(*wrong);
        }
        for (const auto& [local, designator] : block.parts) {
            const std::string place = fmt::format("/blocks/{}/parts/{}", k, local);
            const auto [first, fresh] = owners.emplace(designator, place);
            if (!design.circuit.find(designator))
                errors.push_back(
                    {Fault::design, place, "there is no part " + designator, "a part of the circuit"});
            else if (!fresh)
                errors.push_back({Fault::design, place, designator + " is owned by " + first->second,
                                  "a part that no other recipe owns"});
        }
    }
    return errors;
}

Result<Design> with_goals(const Design& design, std::size_t index, const Goals& goals,
                          const Environment& environment) {
    auto recipe = block_recipe(design, index);
    if (!recipe) return recipe.error();
    if (auto good = check_goals(*recipe.value(), goals); !good) return good.error();
    auto sized = recipe.value()->size(goals, environment);
    if (!sized) return sized.error();
    Design out = Placing(design, index).place(sized.value());
    Block& block = out.blocks[index];
    for (const GoalInfo& g : recipe.value()->goals)
        if (!g.mirrored()) block.goals[g.info.key] = goals.values.at(g.info.key);
    std::erase_if(block.by_hand, [&](const std::string& what) {
        return !out.circuit.find(what.substr(0, what.find_first_of(".:")));
    });
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

Result<Design> with_block(const Design& design, std::string_view id, const Goals& goals) {
    const Recipe* recipe = find_recipe(id);
    if (!recipe) return Error{Fault::usage, std::string(id), "there is no such recipe", "one of the recipes"};
    Design out = design;
    Block block;
    block.recipe = recipe->id;
    if (const Part* source = design.circuit.source(); source && is(*source, Role::cells)) {
        auto sized = recipe->size(goals, {});
        if (!sized) return sized.error();
        for (const Part& part : sized.value().parts)
            if (is(part, Role::source)) {
                block.uses[part.designator] = source->designator;
                for (const Pin& pin : part.pins) block.nets[pin.net] = source->net(pin.name);
            }
    }
    out.blocks.push_back(std::move(block));
    return with_goals(out, out.blocks.size() - 1, goals);
}

Design new_design() {
    Design d;
    d.name = "New light";
    return with_block(d, recipes().front().id, recipes().front().standard()).value();
}

namespace {

/// A part that went while another of the same kind and joints came in its place: it was renamed.
std::map<std::string, std::string> renamed_parts(const Circuit& before, const Circuit& after) {
    std::map<std::string, std::string> names;
    if (before.parts.size() != after.parts.size()) return names;
    for (std::size_t k = 0; k < before.parts.size(); ++k) {
        const Part &a = before.parts[k], &b = after.parts[k];
        if (a.designator != b.designator && a.kind == b.kind && a.pins == b.pins &&
            !after.find(a.designator) && !before.find(b.designator))
            names[a.designator] = b.designator;
    }
    return names;
}

/// Nets that went, with every pin of theirs on one new net.
std::map<std::string, std::string> renamed_nets(const Circuit& before, const Circuit& after) {
    std::map<std::string, std::set<std::string>> to;
    const auto old_nets = before.nets(), new_nets = after.nets();
    const auto in = [](const std::vector<std::string>& list, const std::string& net) {
        return std::find(list.begin(), list.end(), net) != list.end();
    };
    for (const Part& part : before.parts)
        for (const Pin& pin : part.pins)
            if (const Part* now = after.find(part.designator)) to[pin.net].insert(now->net(pin.name));
    std::map<std::string, std::string> names;
    for (const auto& [net, now] : to)
        if (now.size() == 1 && *now.begin() != net && !in(new_nets, net) && !in(old_nets, *now.begin()))
            names[net] = *now.begin();
    return names;
}

/// Follows one edit through one block; true if its recipe has to run again.
class Following {
  public:
    Following(const Design& before, Design& after, std::size_t index)
        : before_(before), after_(after), block_(after.blocks[index]), recipe_(recipe_of(block_)) {
        if (recipe_) {
            auto sized = recipe_->size(goals_of(before, before.blocks[index]), {});
            if (sized) sized_ = std::move(sized).value();
        }
    }

    bool follow() {
        const auto nets = renamed_nets(before_.circuit, after_.circuit);
        for (auto& [local, net] : block_.nets)
            if (const auto now = nets.find(net); now != nets.end()) net = now->second;
        bool again = false;
        for (const auto* names : {&block_.parts, &block_.uses})
            for (const auto& [local, designator] : *names)
                again = part(local, designator, names == &block_.parts) || again;
        for (auto* names : {&block_.parts, &block_.uses})
            std::erase_if(*names, [&](const auto& entry) { return !after_.circuit.find(entry.second); });
        std::erase_if(block_.by_hand, [&](const std::string& what) {
            return !after_.circuit.find(what.substr(0, what.find_first_of(".:")));
        });
        return again;
    }

  private:
    bool part(const std::string& local, const std::string& designator, bool owned) {
        const Part *was = before_.circuit.find(designator), *is = after_.circuit.find(designator);
        if (!was || !is || *was == *is) return false;
        bool again = false;
        std::set<std::string> sized_keys;
        if (recipe_)
            for (const GoalInfo& g : recipe_->goals)
                if (g.mirrored() && local.starts_with(g.mirror_parts)) sized_keys.insert(g.mirror_param);
        for (const Part& p : sized_.parts)
            if (p.designator == local)
                for (const auto& [key, value] : p.params) sized_keys.insert(key);
        for (const std::string& key : sized_keys)
            if (!(standing(*was, key) == standing(*is, key))) {
                if (alone(local, key))
                    again = true;
                else if (owned)
                    block_.by_hand.insert(hand_key(designator, key));
            }
        if (owned)
            for (const Pin& pin : is->pins) {
                const std::string& net = was->net(pin.name);
                const auto moved = [&] {
                    return std::none_of(block_.nets.begin(), block_.nets.end(),
                                        [&](const auto& entry) { return entry.second == pin.net; }) ||
                           before_net_kept(net);
                };
                if (net != pin.net && moved()) block_.by_hand.insert(hand_pin(designator, pin.name));
            }
        return again;
    }
    /// The net is still there after the edit, so that a pin that left it was moved and not renamed.
    bool before_net_kept(const std::string& net) const {
        const auto nets = after_.circuit.nets();
        return std::find(nets.begin(), nets.end(), net) != nets.end();
    }
    /// The only part that says a goal.
    bool alone(const std::string& local, const std::string& key) const {
        if (!recipe_) return false;
        return std::any_of(recipe_->goals.begin(), recipe_->goals.end(), [&](const GoalInfo& g) {
            return g.mirrored() && g.mirror_param == key && local.starts_with(g.mirror_parts) &&
                   mirrors_of(block_, g).size() == 1;
        });
    }

    const Design& before_;
    Design& after_;
    Block& block_;
    const Recipe* recipe_;
    Sized sized_;
};

}  // namespace

Design with_circuit(const Design& design, Circuit circuit) {
    Design out = design;
    out.circuit = std::move(circuit);
    if (out.blocks.empty() || out.circuit == design.circuit) return out;
    Design before = design;
    for (const auto& [old, now] : renamed_parts(design.circuit, out.circuit)) {
        before.circuit.find(old)->designator = now;
        for (Design* d : {&out, &before})
            for (Block& block : d->blocks) {
                for (auto* names : {&block.parts, &block.uses})
                    for (auto& [local, designator] : *names)
                        if (designator == old) designator = now;
                std::set<std::string> by_hand;
                for (const std::string& what : block.by_hand) {
                    const auto end = what.find_first_of(".:");
                    by_hand.insert(what.substr(0, end) == old ? now + what.substr(end) : what);
                }
                block.by_hand = std::move(by_hand);
            }
    }
    std::vector<std::size_t> again;
    for (std::size_t k = 0; k < out.blocks.size(); ++k)
        if (Following(before, out, k).follow()) again.push_back(k);
    for (const std::size_t k : again)  // where the goals cannot be met with it, the edit stands by itself
        if (auto sized = with_goals(out, k, goals_of(out, out.blocks[k]))) out = std::move(sized).value();
    return out;
}

std::vector<Difference> differences(const Design& design) {
    std::vector<Difference> all;
    for (std::size_t k = 0; k < design.blocks.size(); ++k) {
        const Block& block = design.blocks[k];
        const Recipe* recipe = recipe_of(block);
        auto sized = recipe ? recipe->size(goals_of(design, block), {}) : Result<Sized>(Sized{});
        if (!sized) continue;
        for (const Part& wanted : sized.value().parts) {
            const auto at = block.parts.find(wanted.designator);
            const Part* part = at == block.parts.end() ? nullptr : design.circuit.find(at->second);
            if (!part || part->kind != wanted.kind) continue;
            for (const auto& [key, value] : wanted.params) {
                const ParamValue is = standing(*part, key);
                const double *a = std::get_if<double>(&is), *b = std::get_if<double>(&value);
                if (a && b ? std::abs(*a - *b) <= 1e-6 * std::abs(*b) : is == value) continue;
                Difference d{k, part->designator, key, is, value, false, {}};
                d.by_hand = block.by_hand.contains(hand_key(part->designator, key));
                for (const GoalInfo& g : recipe->goals)
                    if (g.mirrored() && g.mirror_param == key &&
                        wanted.designator.starts_with(g.mirror_parts))
                        d.mirrors = g.info.key;
                all.push_back(std::move(d));
            }
        }
    }
    return all;
}

Result<Design> settle_to_goals(const Design& design, const Difference& d) {
    if (d.block >= design.blocks.size())
        return Error{Fault::design, "/blocks", "the block is gone", no_recipe};
    Design out = design;
    out.blocks[d.block].by_hand.erase(hand_key(d.designator, d.param));
    return with_goals(out, d.block, goals_of(design, design.blocks[d.block]));
}

Result<Design> settle_to_part(const Design& design, const Difference& d) {
    if (!d.mirrors)
        return Error{Fault::usage, d.designator, "no goal says this", "a value that a goal stands for"};
    return with_goal(design, d.block, *d.mirrors, d.is);
}

std::optional<Figure> chosen_figure(const Design& design, const std::string& designator,
                                    const std::string& param) {
    for (const Block& block : design.blocks)
        for (const auto& [local, here] : block.parts) {
            if (here != designator) continue;
            const Recipe* recipe = recipe_of(block);
            auto sized = recipe ? recipe->size(goals_of(design, block), {}) : Result<Sized>(Sized{});
            if (!sized) return std::nullopt;
            const auto figure = sized.value().figures.find(local + "." + param);
            if (figure != sized.value().figures.end()) return figure->second;
        }
    return std::nullopt;
}

std::optional<std::size_t> block_of(const Design& design, std::string_view designator) {
    for (std::size_t k = 0; k < design.blocks.size(); ++k)
        for (const auto* names : {&design.blocks[k].parts, &design.blocks[k].uses})
            for (const auto& [local, here] : *names)
                if (here == designator) return k;
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
    part.params["cell"] = cell, part.params["count"] = static_cast<double>(count);
    for (std::size_t k = 0; k < out.blocks.size(); ++k) {
        const Recipe* recipe = recipe_of(out.blocks[k]);
        if (!recipe || block_of(out, part.designator) != k) continue;
        const Goals goals = goals_of(out, out.blocks[k]);
        auto sized = with_goals(out, k, recipe->suited ? recipe->suited(goals) : goals);
        if (!sized) return sized.error();
        out = std::move(sized).value();
    }
    return out;
}

}  // namespace elkit
