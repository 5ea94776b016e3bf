// What the stave shows: runs, bodies with what hangs on their legs, folded groups.
#include <algorithm>

#include "drawing/stave_measure.hpp"

namespace elkit {

void StaveMeasure::show(const StaveColumn& column) {
    const Part& first = part_of(column.parts.front());
    if (column.parts.size() == 1 && stance_of(first) == Stance::body) return show_body(first, column);
    const bool folded = !column.alike.empty() && !view_.unfolded.contains(column.parts.front());
    show_runs(column.parts, &column, folded ? column.alike.size() + 1 : 1);
    if (!folded)
        for (const auto& parts : column.alike) show_runs(parts, nullptr, 1);
}

void StaveMeasure::show_runs(const std::vector<std::string>& parts, const StaveColumn* group,
                             std::size_t stands_for) {
    const Part* before = nullptr;
    for (const auto& designator : parts) {
        const Part& part = part_of(designator);
        if (!before || row_of(joint_between(*before, part)) >= 0 || joint_between(*before, part).empty()) {
            if (before) end_run();
            runs_.push_back({{}, 0, 0, columns_, nullptr, 0, false, stands_for, group});
        }
        runs_.back().parts.push_back(&part);
        before = &part;
    }
    end_run();
    ++columns_;
}

std::pair<std::string_view, std::string_view> StaveMeasure::ends(const std::vector<const Part*>& parts) {
    const auto [first, last] = hanging_pins(*parts.front());
    if (parts.size() == 1) return {parts.front()->pins[first].net, parts.front()->pins[last].net};
    const auto outer = [](const Part& part, const std::string& joint) -> std::string_view {
        const auto [a, b] = hanging_pins(part);
        return part.pins[a].net == joint ? part.pins[b].net : part.pins[a].net;
    };
    return {outer(*parts.front(), joint_between(*parts[0], *parts[1])),
            outer(*parts.back(), joint_between(*parts[parts.size() - 2], *parts.back()))};
}

void StaveMeasure::end_run() {
    Hanging& run = runs_.back();
    const auto [from, to] = ends(run.parts);
    run.top_row = row_of(from), run.bottom_row = row_of(to);
    if (run.top_row <= run.bottom_row) return;
    std::swap(run.top_row, run.bottom_row);
    std::reverse(run.parts.begin(), run.parts.end());
}

void StaveMeasure::show_body(const Part& part, const StaveColumn& column) {
    Body body{&part, columns_++, 0, {}};
    std::vector<StaveSlots::Leg> reached;
    for (const Pin& pin : part.pins)
        if (const int row = row_of(pin.net); row >= 0) reached.push_back({track(row), 0});
    for (const auto& hung : column.hung) {
        Hanging run{{}, 0, 0, body.column, &part, 0, false, 1, nullptr};
        for (const auto& designator : hung.parts) run.parts.push_back(&part_of(designator));
        for (std::size_t k = 0; k < part.pins.size(); ++k)
            if (part.pins[k].name == hung.pin) run.leg = k;
        const std::string& leg_net = part.pins[run.leg].net;
        const auto [from, to] = ends(run.parts);
        run.bottom_row = run.top_row = row_of(from == leg_net ? to : from);
        reached.push_back({track(run.top_row), run.parts.size()});
        body.hung.push_back(runs_.size());
        runs_.push_back(std::move(run));
    }
    body.gap = slots_.shortest_gap(reached);
    slots_.need_body(body.gap);
    for (const std::size_t k : body.hung) {
        Hanging& run = runs_[k];
        run.up = track(run.top_row) <= static_cast<int>(body.gap);
        if (run.up) std::reverse(run.parts.begin(), run.parts.end());
    }
    bodies_.push_back(std::move(body));
}

void StaveMeasure::need_slots(const Body& body) {
    for (const std::size_t k : body.hung) {
        const Hanging& run = runs_[k];
        slots_.need_beside_body(body.gap, run.up, track(run.top_row), run.parts.size());
    }
}

}  // namespace elkit
