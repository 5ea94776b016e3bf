#include "review/survey.hpp"

#include <algorithm>

#include "catalogue/catalogue.hpp"
#include "circuit/connectivity.hpp"
#include "light/brightness.hpp"

namespace elkit {

namespace {

/// Two transistors or a chip with feedback: only then can a circuit rest in more than one state.
bool may_latch(const Circuit& circuit) {
    int transistors = 0, chips = 0;
    for (const Part& p : circuit.parts) {
        transistors += p.kind == "npn" || p.kind == "pnp" || p.kind == "nmos" || p.kind == "pmos";
        chips += p.kind == "timer" || p.kind == "comparator" || p.kind == "relay";
    }
    return transistors > 1 || chips > 0;
}

}  // namespace

StaveLayout stave_layout(const Circuit& circuit, const StaveLayout* before) {
    Conditions fresh;
    if (auto op = operating_point(circuit, built_in_catalogue(), lit(circuit, fresh)))
        return lay_out_stave(circuit, op.value(), before);
    return lay_out_stave(circuit, {}, before);
}

std::map<std::string, double> glow_of(const Design& design, const OperatingPoint& op) {
    const double target = design.light ? design.light->current : 0.01;
    std::map<std::string, double> glow;
    for (const Part& part : design.circuit.parts)
        if (part.kind == "led" || part.kind == "prewired_led" || part.kind == "strip" || part.kind == "rgb")
            glow[part.designator] =
                std::min(1.0, perceived(std::max(0.0, op.part(part.designator).current) / target));
    return glow;
}

LiveSurvey live_survey(const Design& design, const Conditions& conditions, const StaveLayout& layout,
                       const std::vector<double>& owned, const StaveView& view) {
    LiveSurvey live;
    auto op = operating_point(design.circuit, built_in_catalogue(), conditions);
    if (op) {
        live.op = std::move(op).value();
        auto light = analyse_light(design, conditions, owned);
        if (light)
            live.light = std::move(light).value();
        else
            live.error = light.error();
    } else {
        live.error = op.error();
        for (const Part& part : design.circuit.parts)
            live.op.parts.emplace_back().designator = part.designator;
    }
    live.moves = live.op.oscillates;
    live.glow = glow_of(design, live.op);
    StaveView shown = view;
    shown.glow = live.glow;
    live.stave = draw_stave(design.circuit, layout, live.op, conditions, shown);
    return live;
}

DeepSurvey deep_survey(const Design& design, const Conditions& conditions,
                       const std::vector<DrawerItem>& drawer, const Progress& progress) {
    bool stopped = false;
    const auto go_on = [&](std::string_view stage, double fraction) {
        stopped = stopped || (progress && !progress(stage, fraction));
        return !stopped;
    };
    const auto stop = [&](const char* stage, double fraction) { return !go_on(stage, fraction); };
    DeepSurvey deep;
    if (stop("looking for a period", 0)) return deep;
    const Catalogue& catalogue = built_in_catalogue();
    Conditions on = lit(design.circuit, conditions);
    on.battery = 1;
    if (may_move(design.circuit))
        if (auto steady = steady_state(design.circuit, catalogue, conditions, {}))
            deep.steady = std::move(steady).value();
    if (stop("looking for a period", 0.05)) return deep;
    if (may_latch(design.circuit) && !(deep.steady && deep.steady->repeats))
        if (auto states = operating_points(design.circuit, catalogue, conditions))
            deep.states = std::move(states).value();
    if (auto run = long_run(design.circuit, catalogue, on)) deep.fresh_run = std::move(run).value();
    if (stop("discharging the cells", 0.1)) return deep;
    if (auto power = analyse_power(design, conditions)) {
        deep.power = std::move(power).value();
        on.battery = deep.power->typical.charge_left;
        if (auto run =
                long_run(design.circuit, catalogue, on, {}, deep.fresh_run ? &*deep.fresh_run : nullptr))
            deep.flat_run = std::move(run).value();
    } else {
        deep.error = power.error();
    }
    if (stop("placing the parts on the board", 0.2)) return deep;
    const auto placing = [&](std::string_view stage, double fraction) {
        return go_on(stage, 0.2 + 0.5 * fraction);
    };
    auto layout = lay_out_board(design.circuit, design.board, placing);
    if (layout) {
        deep.layout = std::move(layout).value();
        deep.layout_differences = layout_differences(*deep.layout, design.circuit);
        if (auto steps = build_steps(design, *deep.layout)) deep.steps = std::move(steps).value();
    } else {
        deep.layout_error = layout.error();
    }
    if (stop("comparing supplies", 0.7)) return deep;
    deep.parts = parts_list(design, drawer, deep.layout ? &*deep.layout : nullptr);
    if (auto rows = compare_supplies(design, conditions, ResistorPolicy::rechosen))
        deep.supplies = std::move(rows).value();
    if (stop("comparing supplies", 0.85)) return deep;
    if (auto rows = compare_supplies(design, conditions, ResistorPolicy::same))
        deep.supplies_same = std::move(rows).value();
    deep.complete = true;
    return deep;
}

}  // namespace elkit
