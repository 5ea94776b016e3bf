// The trial: its steps in order, what each reading tells, how it differs from the board to come.
#include "build/trial.hpp"

#include <gtest/gtest.h>

#include <algorithm>
#include <map>
#include <set>

#include "circuit/part_kind.hpp"
#include "kit/trial_sheet.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

Trial trial_of(const Design& d) {
    Store store;
    const auto trial = Ask(store)(TrialQuery{d.circuit, d.board, d.situations});
    EXPECT_TRUE(trial) << trial.error().text();
    return trial ? *trial : Trial{};
}

class Trials : public ::testing::TestWithParam<std::string> {};
TEST_P(Trials, PlugEachPartOnceMeasureAndTakeDown) {
    const Design d = demo(GetParam());
    const Trial trial = trial_of(d);
    EXPECT_TRUE(trial.board.differences.empty());
    std::set<std::string> ids;
    Phase last = Phase::prepare;
    for (const BuildStep& s : trial.steps) {
        EXPECT_TRUE(ids.insert(s.id).second) << s.id;
        EXPECT_TRUE(s.id.starts_with("trial.")) << "what is measured here is not of the board to come";
        EXPECT_GE(s.phase, last);
        last = s.phase;
        if (s.check) {
            EXPECT_FALSE(s.learnt.empty()) << s.id;
        }
    }
    for (const Part& p : d.circuit.parts)
        EXPECT_TRUE(ids.contains("trial.plug." + p.designator)) << p.designator;
    for (const BoardWire& w : trial.board.wires)
        EXPECT_TRUE(ids.contains("trial.plug." + w.from + "." + w.to)) << w.from << " to " << w.to;
    EXPECT_EQ(trial.steps.back().phase, Phase::close);
    EXPECT_FALSE(trial.differs.empty());
}
INSTANTIATE_TEST_SUITE_P(Some, Trials,
                         ::testing::Values("pier-lantern", "twin-blinker", "harbour-dimmer", "moth-jar"),
                         demo_name);

TEST(Trial, CellsComeLastAndGoFirst) {
    const Trial trial = trial_of(demo("twin-blinker"));
    std::map<std::string, std::size_t> at;
    for (std::size_t k = 0; k < trial.steps.size(); ++k) at[trial.steps[k].id] = k;
    for (const BoardWire& w : trial.board.wires)
        EXPECT_LT(at.at("trial.plug." + w.from + "." + w.to), at.at("trial.plug.B1"));
    EXPECT_LT(at.at("trial.plug.B1"), at.at("trial.volts.supply"));
    EXPECT_LT(at.at("trial.down.cells"), at.at("trial.down.wires"));
}

TEST(Trial, CellsStayBesideTheBreadboardWhateverHoldsThemLater) {
    Design d = demo("twin-blinker");
    d.board.parts = {{"B1", "cells-r6", "", "", {}}};
    const Trial trial = trial_of(d);
    EXPECT_EQ(trial.board.part("B1")->place, PartPlace::leads);
    std::map<std::string, std::size_t> at;
    for (std::size_t k = 0; k < trial.steps.size(); ++k) at[trial.steps[k].id] = k;
    for (const BoardWire& w : trial.board.wires)
        EXPECT_LT(at.at("trial.plug." + w.from + "." + w.to), at.at("trial.plug.B1"));
}

TEST(Trial, SaysWhatWillBeDifferentWithNumbers) {
    const auto told = [](const Trial& t, const char* what) {
        return std::any_of(t.differs.begin(), t.differs.end(),
                           [&](const std::string& s) { return s.find(what) != std::string::npos; });
    };
    Design d = demo("harbour-dimmer");
    const Trial as_it_is = trial_of(d);
    EXPECT_TRUE(told(as_it_is, "each adds about 0.02"));
    EXPECT_TRUE(told(as_it_is, "B1 hang on wires"));
    EXPECT_FALSE(told(as_it_is, "no capacitor") || told(as_it_is, "Too much") ||
                 told(as_it_is, "damp fingers"));
    std::erase_if(d.circuit.parts,
                  [](const Part& p) { return is(p, Role::capacitor) && p.number("value") > 2e-8; });
    d.circuit.find("R1")->params["value"] = 2.2e6;
    EXPECT_TRUE(told(trial_of(d), "no capacitor"));
    EXPECT_TRUE(told(trial_of(d), "at R1 damp fingers"));
    Design heavy;
    heavy.circuit =
        circuit({"supply PS1 +=V+ -=GND voltage=5 resistance=0.05", "resistor R1 a=V+ b=GND value=2"});
    EXPECT_TRUE(told(trial_of(heavy), "Too much for a breadboard"));
}

TEST(Trial, TheSheetHasThePlanTheWiresAndTheSteps) {
    const Trial trial = trial_of(demo("twin-blinker"));
    const auto pages = trial_sheet(trial, "Twin blinker");
    ASSERT_GE(pages.size(), 2u);
    std::string all;
    for (const Drawing& page : pages)
        for (const Item& item : page.items)
            if (const auto* t = std::get_if<Text>(&item.shape)) {
                all += t->text + "\n";
                EXPECT_LE(t->y, page.height) << t->text;
            }
    for (const BoardWire& w : trial.board.wires)
        EXPECT_NE(all.find(w.from + " to " + w.to), std::string::npos);
    EXPECT_NE(all.find("Take it down"), std::string::npos);
    const auto csv = board_wires_csv(trial.board);
    ASSERT_EQ(csv.size(), trial.board.wires.size() + 1);
    EXPECT_EQ(csv[1][6], trial.board.wires.front().colour);
}

}  // namespace
}  // namespace elkit::test
