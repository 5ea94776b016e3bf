#include "recipes/variants.hpp"

#include <fmt/format.h>

#include <cmath>

#include "design/content.hpp"
#include "recipes/block_parts.hpp"
#include "recipes/measured.hpp"

namespace elkit {
namespace {

std::string on_target(double found, double target, Unit unit) {
    if (unit == Unit::celsius) {
        const double off = found - target;
        if (std::abs(off) < 0.5) return "on target";
        return fmt::format("{:.1f} °C {} target", std::abs(off), off > 0 ? "above" : "below");
    }
    const double off = found / target - 1;
    if (std::abs(off) < 0.03) return "on target";  // less than half an E24 step
    return fmt::format("{:.0f} % {}", std::abs(off) * 100, off > 0 ? "over target" : "under target");
}

Environment values_for(const Variant& variant, const Environment& drawer) {
    return variant.from_drawer ? drawer : Environment{};
}

/// Numbers that the recipe chooses are no longer known as set by hand.
void free_choices(Block& block, const Sized& sized) {
    for (const auto& [key, figure] : sized.figures) {
        const auto dot = key.find('.');
        const auto part = block.parts.find(key.substr(0, dot));
        if (part != block.parts.end()) block.by_hand.erase(part->second + key.substr(dot));
    }
}

/// The first thing that a recipe expects, of its block with a way taken.
void look(const Ask& ask, const Design& trial, std::size_t block, const Sized& sized,
          const Conditions& conditions, VariantRow& row) {
    if (sized.expected.empty()) return;
    const auto x = in_design(sized.expected.front(), trial.blocks[block], trial.circuit);
    if (!x) return;
    const auto found = measured(ask, Keyed<Circuit>(circuit_of_block(trial, block)), *x, conditions);
    if (!found) return;
    row.found = {"variant.found." + row.variant.label,
                 fmt::format("{} with {}", x->label, row.value.text()),
                 found.value(),
                 x->unit,
                 {},
                 {},
                 {"the engine's, from fresh cells"}};
    row.note = on_target(found.value(), x->target, x->unit);
}

}  // namespace

VariantsQuery::VariantsQuery(const Design& of, std::size_t which, const Conditions& under, Environment own)
    : block(which), conditions(as_seen(of.circuit, fresh(of.circuit, under))), drawer(std::move(own)) {
    design.circuit = of.circuit, design.blocks = of.blocks;
}

Digest VariantsQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << block << drawer.owned << drawer.capacitors;
    return d.digest();
}

Result<std::vector<VariantRow>> VariantsQuery::compute(const Ask& ask) const {
    if (block >= design.blocks.size())
        return Error{Fault::design, "/blocks", "there is no such block", "a block of a recipe"};
    const Recipe* recipe = find_recipe(design.blocks[block].recipe);
    std::vector<VariantRow> rows;
    if (!recipe || !recipe->variants) return rows;
    const Goals now = goals_of(design, design.blocks[block]);
    for (const Variant& variant : recipe->variants(now, drawer)) {
        if (variant.from_drawer && drawer.owned.empty()) continue;
        VariantRow row{variant, {}, {}, false, {}};
        const auto sized = recipe->size(
            variant.goals, environment_of(design, design.blocks[block], values_for(variant, drawer)));
        if (!sized || sized.value().figures.empty()) {
            row.note = sized ? "it chooses nothing" : sized.error().found;
            rows.push_back(std::move(row));
            continue;
        }
        row.value = sized.value().figures.begin()->second;
        row.value.id = "variant." + variant.label, row.value.label += ", " + variant.label;
        if (const auto trial = with_variant(design, block, variant, drawer)) {
            look(ask, trial.value(), block, sized.value(), conditions, row);
            row.chosen = trial.value().circuit == design.circuit && trial.value().blocks == design.blocks;
        }
        rows.push_back(std::move(row));
    }
    return rows;
}

Result<Design> with_variant(const Design& design, std::size_t block, const Variant& variant,
                            const Environment& drawer) {
    if (block >= design.blocks.size())
        return Error{Fault::design, "/blocks", "there is no such block", "a block of a recipe"};
    const Recipe* recipe = find_recipe(design.blocks[block].recipe);
    if (!recipe)
        return Error{Fault::design, "/blocks", "its recipe is not known", "a recipe of this version"};
    auto sized = recipe->size(variant.goals,
                              environment_of(design, design.blocks[block], values_for(variant, drawer)));
    if (!sized) return sized.error();
    Design from = design;
    free_choices(from.blocks[block], sized.value());
    return with_goals(from, block, variant.goals, values_for(variant, drawer));
}

}  // namespace elkit
