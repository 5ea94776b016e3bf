#include "board/copper/mill_plan.hpp"

#include <algorithm>

#include "board/copper/words.hpp"
#include "quantity/parallel.hpp"

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
    plan.passes.resize(static_cast<std::size_t>(l.making.passes));
    parallel(l.making.passes, [&](int pass) {
        plan.passes[static_cast<std::size_t>(pass)] =
            copper.grown(plan.width / 2 + pass * plan.width * (1 - l.making.overlap)).rings();
    });
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

std::vector<Ring> MillPlan::isolation() const {
    std::vector<Ring> all;
    for (const auto& pass : passes) all.insert(all.end(), pass.begin(), pass.end());
    return all;
}

/// What a tool leaves that runs along the rim of a region is the region without its rim, and what lies so far
/// around it: far quicker to find than what each stroke sweeps.
Region copper_left(const CopperLayout& l, const MillPlan& plan) {
    const double half = plan.width / 2;
    Region left = board_region(l);
    if (!plan.passes.empty()) {
        const std::size_t passes = plan.passes.size();
        std::vector<Region> inner(passes), outer(passes);  // rims of what each pass cuts
        parallel(2 * passes, [&](std::size_t k) {
            const Region run = Region::of_rings(plan.passes[k / 2]);
            (k % 2 ? outer : inner)[k / 2] = run.grown(k % 2 ? half : -half);
        });
        left = left.without(outer.back());
        for (std::size_t k = 1; k < passes; ++k)  // where passes do not meet
            if (!inner[k].empty()) left = left.with(inner[k].without(outer[k - 1]));
        left = left.beside(inner.front());
    }
    std::vector<Region> cuts;
    for (const auto& line : plan.words)
        for (std::size_t k = 1; k < line.size(); ++k)
            cuts.push_back(Region::stroke(line[k - 1], line[k], plan.width));
    if (!plan.clearing.empty()) cuts.push_back(Region::along(plan.clearing, plan.clearing_width));
    return cuts.empty() ? left : left.without(Region::united(cuts));
}

std::vector<Region> copper_left(const CopperLayout& l) {
    std::vector<Region> left;
    left.reserve(static_cast<std::size_t>(l.layers));
    for (int layer = 0; layer < l.layers; ++layer) left.push_back(copper_left(l, mill_plan(l, layer)));
    return left;
}

}  // namespace elkit
