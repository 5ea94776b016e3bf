#include "recipes/variants.hpp"

#include <fmt/format.h>

#include <cmath>

#include "design/content.hpp"

namespace elkit {
namespace {

std::string on_target(double current, double target) {
    const double off = current / target - 1;
    if (std::abs(off) < 0.03) return "on target";  // less than half an E24 step
    return fmt::format("{:.0f} % {}", std::abs(off) * 100, off > 0 ? "over target" : "under target");
}

Environment environment_of(const Variant& variant, const std::vector<double>& owned) {
    return variant.from_drawer ? Environment{owned} : Environment{};
}

/// Numbers that the recipe chooses are no longer known as set by hand.
void free_choices(Block& block, const Sized& sized) {
    for (const auto& [key, figure] : sized.figures) {
        const auto dot = key.find('.');
        const auto part = block.parts.find(key.substr(0, dot));
        if (part != block.parts.end()) block.by_hand.erase(part->second + key.substr(dot));
    }
}

}  // namespace

VariantsQuery::VariantsQuery(const Design& of, std::size_t which, const Conditions& under,
                             std::vector<double> own)
    : block(which), conditions(as_seen(of.circuit, fresh(of.circuit, under))), owned(std::move(own)) {
    design.circuit = of.circuit, design.blocks = of.blocks;
}

Digest VariantsQuery::key() const {
    Digester d;
    d << content_digest(design.circuit) << content_digest(design.blocks) << content_digest(conditions)
      << block << owned;
    return d.digest();
}

Result<std::vector<VariantRow>> VariantsQuery::compute(const Ask& ask) const {
    if (block >= design.blocks.size())
        return Error{Fault::design, "/blocks", "there is no such block", "a block of a recipe"};
    const Recipe* recipe = find_recipe(design.blocks[block].recipe);
    std::vector<VariantRow> rows;
    if (!recipe || !recipe->variants) return rows;
    const Goals now = goals_of(design, design.blocks[block]);
    const auto expected = recipe->expect ? recipe->expect(now) : std::vector<Expectation>{};
    for (const Variant& variant : recipe->variants(now)) {
        if (variant.from_drawer && owned.empty()) continue;
        VariantRow row{variant, {}, {}, false, {}};
        const auto sized = recipe->size(variant.goals, environment_of(variant, owned));
        if (!sized || sized.value().figures.empty()) {
            row.note = sized ? "it chooses nothing" : sized.error().found;
            rows.push_back(std::move(row));
            continue;
        }
        row.value = sized.value().figures.begin()->second;
        row.value.id = "variant." + variant.label, row.value.label += ", " + variant.label;
        auto trial = with_variant(design, block, variant, owned);
        if (trial && !expected.empty()) {
            const Expectation& x = expected.front();
            const std::string& part = trial.value().blocks[block].parts.at(x.part);
            const auto op = ask(RestQuery(Keyed<Circuit>(trial.value().circuit), conditions));
            if (op) {
                row.current = {"variant.current." + variant.label,
                               fmt::format("current fresh with {}", row.value.text()),
                               op->part(part).current,
                               Unit::ampere,
                               {},
                               {},
                               {"the engine's operating point, lit and from fresh cells"}};
                row.note = on_target(row.current.value, x.target);
            }
        }
        const auto& key = sized.value().figures.begin()->first;
        const auto dot = key.find('.');
        const auto owner = design.blocks[block].parts.find(key.substr(0, dot));
        const Part* part =
            owner == design.blocks[block].parts.end() ? nullptr : design.circuit.find(owner->second);
        const bool same = part && std::abs(part->number(key.substr(dot + 1)) / row.value.value - 1) < 1e-6;
        const bool by_hand =
            part && design.blocks[block].by_hand.contains(part->designator + key.substr(dot));
        row.chosen = same && (variant.from_drawer ? by_hand : !by_hand && variant.goals == now);
        rows.push_back(std::move(row));
    }
    return rows;
}

Result<Design> with_variant(const Design& design, std::size_t block, const Variant& variant,
                            const std::vector<double>& owned) {
    if (block >= design.blocks.size())
        return Error{Fault::design, "/blocks", "there is no such block", "a block of a recipe"};
    const Recipe* recipe = find_recipe(design.blocks[block].recipe);
    if (!recipe)
        return Error{Fault::design, "/blocks", "its recipe is not known", "a recipe of this version"};
    const Environment environment = environment_of(variant, owned);
    auto sized = recipe->size(variant.goals, environment);
    if (!sized) return sized.error();
    Design from = design;
    free_choices(from.blocks[block], sized.value());
    auto next = with_goals(from, block, variant.goals, environment);
    if (!next || !variant.from_drawer) return next;
    Block& changed = next.value().blocks[block];
    for (const auto& [key, figure] : sized.value().figures) {
        const auto dot = key.find('.');
        changed.by_hand.insert(changed.parts.at(key.substr(0, dot)) + key.substr(dot));
    }
    return next;
}

}  // namespace elkit
