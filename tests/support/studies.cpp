#include "support/studies.hpp"

#include <gtest/gtest.h>

#include <algorithm>

#include "command/suggestions.hpp"
#include "drawer/import.hpp"
#include "drawing/layout_query.hpp"
#include "light/light.hpp"
#include "support/designs.hpp"

namespace elkit::test {

Store& shared_store() {
    static Store store(100000);
    return store;
}

Goals goals_of(const Design& design) { return elkit::goals_of(design, design.blocks.at(0)); }

Result<Design> try_goals(const Design& design, const GoalValues& goals) {
    Goals all = goals_of(design);
    for (const auto& [key, value] : goals) all.values[key] = value;
    return elkit::with_goals(design, 0, all);
}

Design with_goals(const Design& design, const GoalValues& goals) {
    auto next = try_goals(design, goals);
    EXPECT_TRUE(next) << (next ? "" : next.error().text());
    return next ? next.value() : design;
}

Design light(const GoalValues& goals) {
    Goals all = recipes().front().standard();
    for (const auto& [key, value] : goals) all.values[key] = value;
    return with_block({}, recipes().front().id, all).value();
}

Result<Discharge> discharge(const Circuit& circuit, const Conditions& conditions, double end,
                            const Corner& corner) {
    return ask(DischargeQuery(circuit, conditions, end, corner));
}

Result<PowerResult> power(const Design& design, const Conditions& conditions) {
    return ask(PowerQuery(design.circuit, conditions, design.brief.end_brightness));
}

std::vector<SupplyRow> supplies(const Design& design, SupplyPolicy policy) {
    return ask(SuppliesQuery(design, {}, policy)).value();
}

StaveLayout stave_layout(const Circuit& circuit, const StaveLayout* before) {
    return ask(StaveLayoutQuery{circuit, before ? *before : StaveLayout{}}).value();
}

std::vector<std::string> completed(const std::string& text, const Design& design,
                                   const std::vector<ActionName>& actions) {
    std::vector<std::string> lines;
    for (const Suggestion& s : suggestions(text, design, sayable(design, actions))) lines.push_back(s.line);
    return lines;
}

StaveView unfolded(const StaveLayout& layout, StaveView view) {
    for (const StaveColumn& column : layout.columns)
        if (!column.alike.empty()) view.unfolded.insert(column.parts.front());
    return view;
}

Drawing stave(const Circuit& circuit, const Conditions& conditions, const StaveLayout& layout,
              StaveView view) {
    const auto op = ask(RestQuery(circuit, conditions));
    const OperatingPoint readings = op ? op.value() : OperatingPoint{};
    view.glow = glow_of(circuit, readings);
    return draw_stave(circuit, layout, readings, conditions, view);
}

std::vector<Finding> findings(const Design& design, const std::string& rule) {
    Store& store = shared_store();
    if (rule.empty()) return review(Ask(store), design, {}, demo_stock());
    const auto subject = std::make_shared<const Case>(std::make_shared<const Design>(design), design.circuit,
                                                      Conditions{}, demo_stock());
    for (const Rule& r : rules())
        if (r.id == rule) return settled(store.ask(JudgementQuery{&r, subject}).result().value(), design);
    ADD_FAILURE() << "there is no rule " << rule;
    return {};
}

const Finding* find(const std::vector<Finding>& all, const std::string& rule) {
    for (const auto& f : all)
        if (f.rule == rule) return &f;
    return nullptr;
}

std::string demo_and_method(const ::testing::TestParamInfo<std::pair<const char*, const char*>>& param) {
    std::string name = std::string(param.param.first) + "_" + param.param.second;
    std::replace(name.begin(), name.end(), '-', '_');
    return name;
}

DemoBoard board_of_demo(const std::string& id, const std::string& method) {
    Design d = demo(id);
    d.board.method = method, d.board.lights.clear(), d.board.shape.clear();
    return {d, ask(BoardQuery{d.circuit, board_choices(d)}).value()};
}

}  // namespace elkit::test
