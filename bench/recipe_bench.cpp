// Each recipe from its goals to what is seen: sized, simulated, drawn. Prints the milliseconds with standard
// goals, and the most with one goal another of its choices.
#include <algorithm>
#include <chrono>
#include <cstdio>

#include "catalogue/catalogue.hpp"
#include "drawing/layout_query.hpp"
#include "drawing/stave.hpp"
#include "engine/queries.hpp"
#include "recipes/blocks.hpp"
#include "recipes/measured.hpp"

namespace elkit {
namespace {

/// Milliseconds; nothing where the recipe refuses.
std::optional<double> once(const Recipe& recipe, const std::map<std::string, ParamValue>& said) {
    const auto start = std::chrono::steady_clock::now();
    const auto design = with_block(Design{}, recipe.id, planned(recipe, said));
    if (!design) return std::nullopt;
    Store store;
    const Ask ask(store);
    const Keyed<Circuit> circuit(design.value().circuit);
    const Conditions conditions = as_seen(*circuit, fresh(*circuit, {}));
    (void)ask(MeasuredQuery(design.value(), 0, conditions));
    const auto layout = ask(StaveLayoutQuery{circuit, {}});
    const auto now = operating_point(*circuit, known_catalogue(), conditions);
    if (layout && now) (void)draw_stave(*circuit, *layout, now.value(), conditions);
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

std::optional<double> median(const Recipe& recipe, const std::map<std::string, ParamValue>& said) {
    std::vector<double> times;
    for (int k = 0; k < 3; ++k) {
        const auto time = once(recipe, said);
        if (!time) return std::nullopt;
        times.push_back(*time);
    }
    std::sort(times.begin(), times.end());
    return times[1];
}

}  // namespace
}  // namespace elkit

int main() {
    using namespace elkit;
    for (const Recipe& recipe : recipes()) {
        const double standard = median(recipe, {}).value_or(0);
        double most = standard;
        std::string which = "standard goals";
        for (const GoalInfo& goal : recipe.goals)
            for (const std::string& choice : goal.info.choices)
                if (const auto time = median(recipe, {{goal.info.key, choice}}); time && *time > most)
                    most = *time, which = goal.info.key + "=" + choice;
        std::printf("%s:%.1f:%.1f:%s\n", recipe.id.c_str(), standard, most, which.c_str());
        std::fflush(stdout);
    }
    return 0;
}
