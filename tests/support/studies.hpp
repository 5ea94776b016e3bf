#pragma once
#include <gtest/gtest.h>

#include <map>
#include <string>
#include <utility>
#include <vector>

#include "board/board.hpp"
#include "command/command.hpp"
#include "drawing/stave.hpp"
#include "engine/queries.hpp"
#include "power/supplies.hpp"
#include "recipes/blocks.hpp"
#include "review/findings.hpp"
#include "store/store.hpp"

/// Queries as plain calls. What one test asked for is there for the others of this process.
namespace elkit::test {

Store& shared_store();

template <class Query>
Result<typename Query::Value> ask(const Query& query) {
    return shared_store().ask(query).result();
}

using GoalValues = std::map<std::string, ParamValue>;
/// The design's first block run for other goals.
Result<Design> try_goals(const Design& design, const GoalValues& goals);
Design with_goals(const Design& design, const GoalValues& goals);
/// A light from the recipe's standard goals and these.
Design light(const GoalValues& goals);
Goals goals_of(const Design& design);

Result<Discharge> discharge(const Circuit& circuit, const Conditions& conditions, double end,
                            const Corner& corner = {});
Result<PowerResult> power(const Design& design, const Conditions& conditions = {});
std::vector<SupplyRow> supplies(const Design& design, SupplyPolicy policy);

StaveLayout stave_layout(const Circuit& circuit, const StaveLayout* before = nullptr);
/// The lines that are offered when this has been typed.
std::vector<std::string> completed(const std::string& text, const Design& design,
                                   const std::vector<ActionName>& actions = {});
/// A view that shows every column of every group.
StaveView unfolded(const StaveLayout& layout, StaveView view = {});
Drawing stave(const Circuit& circuit, const Conditions& conditions, const StaveLayout& layout,
              StaveView view = {});
/// What the review finds; with a rule, only that one is asked.
std::vector<Finding> findings(const Design& design, const std::string& rule = {});
/// Those of one rule; nullptr if it says nothing.
const Finding* find(const std::vector<Finding>& all, const std::string& rule);

/// A demo with its board by this method, its lights where they suit the board.
struct DemoBoard {
    Design design;
    Board board;
};
DemoBoard board_of_demo(const std::string& id, const std::string& method);
/// Names a test of a demo by a method.
std::string demo_and_method(const ::testing::TestParamInfo<std::pair<const char*, const char*>>& param);

}  // namespace elkit::test
