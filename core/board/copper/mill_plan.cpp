#include "board/copper/mill_plan.hpp"

#include <algorithm>

#include "board/copper/words.hpp"

namespace elkit {
namespace {

Region all_copper(const CopperLayout& l, int layer) {
    std::vector<Region> all;
    for (CopperShape& s : copper_on(l, layer)) all.push_back(std::move(s.region));
    return Region::united(all);
}

}  // namespace

MillPlan mill_plan(const CopperLayout& l, int layer, bool clear) {
    const MakingTable& table = makings();
    MillPlan plan;
    plan.width = table.tool(l.making.isolate)->width();
    const Region copper = all_copper(l, layer);
    for (int pass = 0; pass < l.making.passes; ++pass)
        for (const Ring& ring :
             copper.grown(plan.width / 2 + pass * plan.width * (1 - l.making.overlap)).rings())
            plan.isolation.push_back(ring);
    if (layer == solder_side)
        for (const BoardText& t : l.texts)
            for (auto& stroke : word_strokes(l, t)) plan.words.push_back(std::move(stroke));
    const MillTool* wide = table.tool(l.making.clear);
    if (!clear || !wide) return plan;
    plan.clearing_width = wide->width();
    // what no pass reached, from its rim inwards
    const double reach = plan.width * (1 + (l.making.passes - 1) * (1 - l.making.overlap));
    Region rest = Region::polygon(l.outline).without(copper.grown(reach)).grown(plan.clearing_width * 0.2);
    rest = rest.without(copper.grown(plan.width / 2));
    for (double in = plan.clearing_width / 2;; in += 0.6 * plan.clearing_width) {
        const auto rings = rest.grown(-in).rings();
        if (rings.empty()) return plan;
        plan.clearing.insert(plan.clearing.end(), rings.begin(), rings.end());
    }
}

Region copper_left(const CopperLayout& l, const MillPlan& plan) {
    std::vector<Region> cuts{Region::along(plan.isolation, plan.width)};
    for (const auto& line : plan.words)
        for (std::size_t k = 1; k < line.size(); ++k)
            cuts.push_back(Region::stroke(line[k - 1], line[k], plan.width));
    const Region swept = Region::united(cuts);
    if (plan.clearing.empty()) return board_region(l).without(swept);
    return board_region(l).without(swept.with(Region::along(plan.clearing, plan.clearing_width)));
}

std::vector<Region> copper_left(const CopperLayout& l) {
    std::vector<Region> left;
    for (int layer = 0; layer < l.layers; ++layer) left.push_back(copper_left(l, mill_plan(l, layer)));
    return left;
}

}  // namespace elkit
