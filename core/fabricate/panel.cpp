#include "fabricate/fabricated.hpp"

namespace elkit {
namespace {

constexpr double slot = 2, frame = 5;     // mm between boards with tabs; around a panel
constexpr double bridge = 3, bite = 0.8;  // mm wide; from bite to bite
constexpr int bites = 4;                  // whose middles lie on a bridge

}  // namespace

BoardPanel panel_of(const BoardChoices& choices) {
    return {static_cast<int>(choices.panel_across), static_cast<int>(choices.panel_down),
            choices.panel_parting.empty() ? "score" : choices.panel_parting};
}

PanelPlan panel_plan(double width, double height, const BoardPanel& panel) {
    PanelPlan plan;
    if (panel.single()) {
        plan.boards = {{0, 0}}, plan.width = width, plan.height = height;
        return plan;
    }
    const bool tabs = panel.parting == "tabs";
    const double between = tabs ? slot : 0, rim = frame + (tabs ? slot : 0);
    plan.width = 2 * rim + panel.across * width + (panel.across - 1) * between;
    plan.height = 2 * rim + panel.down * height + (panel.down - 1) * between;
    for (int row = 0; row < panel.down; ++row)
        for (int column = 0; column < panel.across; ++column)
            plan.boards.push_back({rim + column * (width + between), rim + row * (height + between)});
    if (!tabs) {
        for (int k = 0; k <= panel.across; ++k)
            plan.scores.push_back({{rim + k * width, 0}, {rim + k * width, plan.height}});
        for (int k = 0; k <= panel.down; ++k)
            plan.scores.push_back({{0, rim + k * height}, {plan.width, rim + k * height}});
        return plan;
    }
    const auto tab = [&](Point from, Point to) {
        plan.tabs.push_back({from, to});
        const bool down = from.x == to.x;
        for (const Point end : {from, to})
            for (int k = 0; k < bites; ++k) {
                const double off = (k + 0.5) * bite - bridge / 2;
                plan.bites.push_back(down ? Point{end.x + off, end.y} : Point{end.x, end.y + off});
            }
    };
    for (int k = 0; k <= panel.across; ++k)
        for (int row = 0; row < panel.down; ++row) {
            const double x = rim - slot + k * (width + slot), y = rim + row * (height + slot) + height / 2;
            tab({x, y}, {x + slot, y});
        }
    for (int k = 0; k <= panel.down; ++k)
        for (int column = 0; column < panel.across; ++column) {
            const double y = rim - slot + k * (height + slot), x = rim + column * (width + slot) + width / 2;
            tab({x, y}, {x, y + slot});
        }
    return plan;
}

}  // namespace elkit
