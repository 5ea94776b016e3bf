// Where parts differ from what their goals ask for, and both ways to settle it.
#include <cmath>

#include "recipes/block_parts.hpp"
#include "recipes/blocks.hpp"

namespace elkit {

std::vector<Difference> differences(const Design& design) {
    std::vector<Difference> all;
    for (std::size_t k = 0; k < design.blocks.size(); ++k) {
        const Block& block = design.blocks[k];
        const Recipe* recipe = recipe_of(block);
        auto sized = sized_block(design, k);
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
                    if (g.mirror_param == key && says(g, wanted.designator)) d.mirrors = g.info.key;
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
    for (std::size_t k = 0; k < design.blocks.size(); ++k)
        for (const auto& [local, here] : design.blocks[k].parts) {
            if (here != designator) continue;
            auto sized = sized_block(design, k);
            if (!sized) return std::nullopt;
            const auto figure = sized.value().figures.find(local + "." + param);
            if (figure != sized.value().figures.end()) return figure->second;
        }
    return std::nullopt;
}

}  // namespace elkit
