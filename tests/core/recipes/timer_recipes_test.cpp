// Timer recipes against the engine, over sweeps of goals.
#include <gtest/gtest.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "circuit/connectivity.hpp"
#include "command/command.hpp"
#include "engine/measure.hpp"
#include "engine/transient.hpp"
#include "recipes/effect.hpp"
#include "recipes/measured.hpp"
#include "recipes/variants.hpp"
#include "recipes/ways_out.hpp"
#include "review/findings.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::expect_met;
using test::expect_reckoned;
using test::made;
using test::Said;
using test::sweep;
using test::told;

TEST(TimerFlasher, MeetsEveryRateAndShareOrSaysThatItCannot) {
    int met = 0, refused = 0;
    for (const double rate : {0.02, 0.5, 2.0, 30.0, 2e3})
        for (const double share : {5.0, 30.0, 50.0, 80.0})
            for (const auto& [chip, cell, cells] :
                 {std::tuple("timer-cmos", "LR6", 2.0), std::tuple("timer-cmos", "6LR61", 1.0),
                  std::tuple("timer-bipolar", "LR6", 4.0), std::tuple("timer-bipolar", "Lead-12V", 1.0)})
                for (const char* drives : {"output", "plus", "transistor"}) {
                    const Said said{{"rate", rate},
                                    {"share", share},
                                    {"chip", std::string(chip)},
                                    {"cell", std::string(cell)},
                                    {"cells", cells},
                                    {"drives", std::string(drives)},
                                    {"led", "red-5mm"s}};
                    const auto design = made("timer-flasher", said);
                    if (!design) {
                        ++refused;
                        EXPECT_FALSE(design.error().expected.empty()) << told(said);
                        continue;
                    }
                    ++met;
                    expect_met(design.value(), told(said));
                    if (rate < 1e3) expect_reckoned(design.value(), told(said));
                }
    EXPECT_GT(met, 200);
    EXPECT_LT(refused, 40);
}

TEST(TimerFlasher, KnowsThatALightOnTheOutputShiftsWhatIsTimedFromIt) {
    const auto design =
        made("timer-flasher", {{"way", "output"s}, {"drives", "output"s}, {"current", 0.006}});
    ASSERT_FALSE(design);
    EXPECT_NE(design.error().expected.find("transistor"), std::string::npos) << design.error().text();
}

TEST(TimerFlasher, TooLittleSupplyIsRefusedWithWhatWouldWork) {
    const Recipe& recipe = *find_recipe("timer-flasher");
    Goals goals = recipe.standard();
    goals.values["chip"] = "timer-bipolar"s, goals.values["cells"] = 2.0;
    goals.values["way"] = "steered"s, goals.values["led"] = "red-5mm"s;
    const auto refused = recipe.size(goals, {});
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().found.find("too low for the timer, bipolar"), std::string::npos);
    const auto ways = ways_out(recipe, goals, {});
    ASSERT_FALSE(ways.empty());
    for (const WayOut& way : ways) {
        Goals other = goals;
        other.values[way.key] = way.value;
        EXPECT_TRUE(recipe.size(other, {})) << way.label;
    }
}

TEST(WaysOut, OfferNothingWhereTheGoalsCanBeMet) {
    for (const Recipe& recipe : recipes())
        EXPECT_TRUE(ways_out(recipe, planned(recipe, {}), {}).empty()) << recipe.id;
}

TEST(Planned, GoalsOfWhichNobodySpokeSuitTheSupply) {
    const Recipe& flasher = *find_recipe("timer-flasher");
    for (const auto& [cell, cells] :
         {std::pair("CR2032", 1.0), std::pair("LR6", 2.0), std::pair("6LR61", 1.0),
          std::pair("Li-ion-1S", 1.0), std::pair("USB", 1.0)})
        for (const double count : {1.0, 4.0, 12.0}) {
            const Said said{{"cell", std::string(cell)}, {"cells", cells}, {"count", count}};
            const auto design = made("timer-flasher", said);
            ASSERT_TRUE(design) << told(said) << design.error().text();
            expect_met(design.value(), told(said));
        }
    EXPECT_EQ(planned(flasher, {{"count", 12.0}}).text("drives"), "transistor")
        << "10 mA feed no twelve lights";
    EXPECT_LT(planned(flasher, {{"rate", 1000.0}}).number("capacitor"), 1e-8);
    EXPECT_GT(planned(flasher, {{"rate", 0.02}}).number("capacitor"), 1e-5);
    const Environment drawer{{}, {1e-7, 1e-6}, {}};
    EXPECT_EQ(planned(flasher, {{"rate", 2.0}}, drawer).number("capacitor"), 1e-6) << "one that is there";
}

TEST(TimerFlasher, TimingResistorsOutOfRangeNameACapacitorThatWouldDo) {
    for (const double farads : {1e-9, 1e-3}) {
        const auto refused =
            made("timer-flasher", {{"rate", 2.0}, {"capacitor", farads}, {"way", "steered"s}});
        ASSERT_FALSE(refused) << farads;
        EXPECT_NE(refused.error().expected.find("such as with"), std::string::npos);
    }
}

TEST(TimerFlasher, TheCapacitorIsAGoalThatItsPartSays) {
    Design d = made("timer-flasher", {{"rate", 1.0}}).value();
    const std::string capacitor = d.blocks[0].parts.at("Ctiming"), r = d.blocks[0].parts.at("Rcharge");
    const double before = d.circuit.find(r)->number("value");
    auto smaller = set_parameter(d, capacitor, "value", "220n");
    ASSERT_TRUE(smaller) << smaller.error().text();
    EXPECT_GT(smaller.value().circuit.find(r)->number("value"), 1.5 * before) << "the resistors follow";
    expect_met(smaller.value(), "220 nF ");
    // another kind of capacitor stands in its place, under its name
    auto large = with_goal(d, 0, "capacitor", 10e-6);
    ASSERT_TRUE(large) << large.error().text();
    EXPECT_EQ(large.value().circuit.find(capacitor)->kind, "electrolytic");
    expect_met(large.value(), "10 µF ");
}

TEST(TimerFlasher, ValuesOfTheDrawerAreKnownAsChosenByHand) {
    const Environment drawer{{100, 220, 330, 100e3, 330e3, 390e3, 1e6}, {1e-7, 1e-6, 1e-5}, {}};
    const auto design = made("timer-flasher", {{"rate", 1.0}}, drawer);
    ASSERT_TRUE(design) << design.error().text();
    for (const Part& part : design.value().circuit.parts)
        if (part.kind == "resistor") {
            const double v = part.number("value");
            EXPECT_NE(std::find(drawer.owned.begin(), drawer.owned.end(), v), drawer.owned.end()) << v;
        }
    const Design slower = with_goal(design.value(), 0, "current", 0.005).value();
    EXPECT_EQ(*slower.circuit.find(slower.blocks[0].parts.at("Rcharge")),
              *design.value().circuit.find(design.value().blocks[0].parts.at("Rcharge")))
        << "and stay";
}

TEST(TimerFlasher, TellsWhatEachOwnedCapacitorWouldGive) {
    const Environment drawer{{}, {1e-9, 1e-7, 1e-6, 1e-5}, {}};
    const Design design = made("timer-flasher", {{"rate", 2.0}}).value();
    Store store;
    const auto rows = Ask(store)(VariantsQuery(design, 0, {}, drawer));
    ASSERT_TRUE(rows) << rows.error().text();
    ASSERT_EQ(rows->size(), 4u);
    EXPECT_EQ((*rows)[0].value.value, 0) << "1 nF leads to hundreds of megohms";
    EXPECT_NE((*rows)[0].note.find("MΩ"), std::string::npos);
    for (const std::size_t k : {2u, 3u}) {
        EXPECT_NEAR((*rows)[k].found.value, 2, 0.1) << k;
        const auto taken = with_variant(design, 0, (*rows)[k].variant, drawer);
        ASSERT_TRUE(taken);
        expect_met(taken.value(), (*rows)[k].variant.label);
    }
}

TEST(TimerFlasher, RunAgainKeepsWhatAHandSet) {
    Design d = made("timer-flasher", {{"rate", 2.0}, {"drives", "transistor"s}}).value();
    const std::string gate = d.blocks[0].parts.at("Rgate");
    d = set_parameter(d, gate, "value", "1k").value();
    const auto slower = with_goal(d, 0, "rate", 0.7);
    ASSERT_TRUE(slower) << slower.error().text();
    EXPECT_EQ(slower.value().circuit.find(gate)->number("value"), 1e3);
    const auto changes = changed_parts(d, slower.value());
    ASSERT_FALSE(changes.empty());
    for (const std::string& line : changes) EXPECT_EQ(line.find(gate + ":"), std::string::npos) << line;
}

TEST(TimerOneShot, LastsAsLongAsAskedForOrSaysThatItCannot) {
    for (const double seconds : {2e-3, 0.3, 5.0, 60.0, 600.0})
        for (const char* trigger : {"pulse", "held"})
            for (const auto& [chip, cells] :
                 {std::pair("timer-cmos", 2.0), std::pair("timer-bipolar", 4.0)}) {
                const Said said{{"time", seconds},
                                {"trigger", std::string(trigger)},
                                {"chip", std::string(chip)},
                                {"cells", cells},
                                {"led", "red-5mm"s}};
                const auto design = made("timer-one-shot", said);
                ASSERT_TRUE(design) << told(said) << design.error().text();
                expect_met(design.value(), told(said));
                expect_reckoned(design.value(), told(said));
            }
}

TEST(TimerOneShot, HasASituationInWhichItIsLit) {
    const Design design = made("timer-one-shot", {{"time", 10.0}}).value();
    const auto all = test::ask(ProposalsQuery{Keyed<Circuit>(design.circuit)});
    ASSERT_TRUE(all);
    EXPECT_TRUE(all.value().front().lit) << "just after a press, while holding it long leads nowhere";
    EXPECT_GT(all.value().front().situation.conditions.moment, 0);
    for (const Finding& f : test::findings(design)) EXPECT_EQ(f.severity, Severity::note) << f.title;
}

TEST(TimerSetReset, StaysAsTheLastButtonSaid) {
    for (const char* chip : {"timer-cmos", "timer-bipolar"})
        for (const double cells : {4.0, 6.0}) {
            const Said said{{"chip", std::string(chip)}, {"cells", cells}};
            const auto design = made("timer-set-reset", said);
            ASSERT_TRUE(design) << design.error().text();
            expect_met(design.value(), told(said));
            for (const Finding& f : test::findings(design.value()))
                EXPECT_EQ(f.severity, Severity::note) << f.title;
        }
}

TEST(TimerDimmer, DimsOverItsRangeOrSaysThatItCannot) {
    std::vector<Said> all;
    for (const auto& [least, most] : {std::pair(2.0, 98.0), std::pair(10.0, 60.0)})
        for (const auto& [chip, cells, drives] :
             {std::tuple("timer-cmos", 2.0, "transistor"), std::tuple("timer-cmos", 4.0, "output"),
              std::tuple("timer-bipolar", 6.0, "transistor")})
            for (Said said : combined({{"rate", {120.0, 1000.0, 5000.0}}, {"knob", {10e3, 100e3, 1e6}}})) {
                said["least"] = least, said["most"] = most, said["led"] = "red-5mm"s;
                said["chip"] = std::string(chip), said["cells"] = cells, said["drives"] = std::string(drives);
                all.push_back(said);
            }
    const auto swept = sweep("timer-dimmer", all);
    EXPECT_GT(swept.met, 30);
    EXPECT_FALSE(swept.refused.empty()) << "a track of 10 kΩ leaves too little for its ends";
}

TEST(TimerDimmer, TurnsBrighterAllTheWay) {
    const Goals goals = planned(*find_recipe("timer-dimmer"), {});
    const Effect effect = test::ask(EffectQuery{"timer-dimmer", goals}).value();
    ASSERT_GT(effect.brightness.size(), 100u);
    const std::size_t half = effect.brightness.size() / 2;
    for (std::size_t k = 1; k < half; ++k) EXPECT_GE(effect.brightness[k], effect.brightness[k - 1] - 1e-9);
    EXPECT_LT(effect.brightness.front(), 0.35);
    EXPECT_NEAR(effect.brightness[half], 1, 0.02);
}

TEST(TimerDimmer, FeedsAStripBehindATransistorOnly) {
    const Said strip{{"load", "strip"s}, {"cell", "Lead-12V"s}, {"cells", 1.0}, {"length", 1.0}};
    const auto design = made("timer-dimmer", strip);
    ASSERT_TRUE(design) << design.error().text();
    expect_met(design.value(), "strip ");
    for (const Finding& f : test::findings(design.value())) EXPECT_NE(f.severity, Severity::error) << f.title;
    Said direct = strip;
    direct["drives"] = "output"s;
    EXPECT_FALSE(made("timer-dimmer", direct));
}

TEST(Joined, AOneShotLetsAFlasherRun) {
    const Design first = made("timer-one-shot", {{"time", 3.0}, {"drives", "nothing"s}}).value();
    ASSERT_EQ(offered_nets(first).size(), 1u);
    const Recipe& flasher = *find_recipe("timer-flasher");
    const Goals goals = planned_in(first, flasher, {{"rate", 5.0}});
    const auto both = with_block(first, "timer-flasher", goals, {{"RUN", offered_nets(first).front().net}});
    ASSERT_TRUE(both) << both.error().text();
    const Design& d = both.value();
    int cells = 0, switches = 0;
    for (const Part& p : d.circuit.parts) cells += is(p, Role::cells), switches += p.kind == "switch";
    EXPECT_EQ(cells, 1);
    EXPECT_EQ(switches, 1) << "both behind one switch";
    RunRequest request;
    request.until = 5.5, request.probes = {"net:OUT_2"};
    Conditions now;
    const std::string press = d.blocks[0].parts.at("Spress");
    now.switches[press] = true;
    request.changes.push_back({1, now, "press"});
    now.switches[press] = false;
    request.changes.push_back({1.2, now, "let go"});
    const auto run = simulate(d.circuit, known_catalogue(), {}, request);
    ASSERT_TRUE(run) << run.error().text();
    const auto& values = run.value().trace("net:OUT_2")->values;
    int early = 0, during = 0, late = 0;
    for (const LevelCrossing& x : level_crossings(run.value().time, values, 2)) {
        if (!x.rising) continue;
        (x.time < 1 ? early : x.time < 4.3 ? during : late)++;
    }
    EXPECT_EQ(early, 0);
    EXPECT_NEAR(during, 15, 3) << "three seconds of five a second";
    EXPECT_EQ(late, 0);
    for (const Finding& f : test::findings(d)) EXPECT_NE(f.severity, Severity::error) << f.title;
}

TEST(Joined, ToWhatIsNotThereIsRefused) {
    const Design first = made("timer-flasher", {}).value();
    const Goals goals = planned_in(first, *find_recipe("timer-flasher"), {});
    EXPECT_FALSE(with_block(first, "timer-flasher", goals, {{"RUN", "NOWHERE"}}));
    const auto wrong = with_block(first, "timer-flasher", goals, {{"OUT", "GND"}});
    ASSERT_FALSE(wrong);
    EXPECT_NE(wrong.error().expected.find("RUN"), std::string::npos);
}

TEST(Blocks, OnAPlainSupplyAreSizedForIt) {
    Design on_supply;
    on_supply.circuit.parts = {test::supply("5V", "GND", 5, 0.1)};
    const auto design = with_block(on_supply, "timer-flasher",
                                   planned_in(on_supply, *find_recipe("timer-flasher"), {{"rate", 3.0}}));
    ASSERT_TRUE(design) << design.error().text();
    for (const Part& part : design.value().circuit.parts) EXPECT_FALSE(is(part, Role::cells));
    expect_met(design.value(), "on 5 V ");
    const auto dimmer = with_goal(design.value(), 0, "current", 0.003);
    ASSERT_TRUE(dimmer) << dimmer.error().text();
    expect_met(dimmer.value(), "run again on 5 V ");
}

TEST(Blocks, GoAndLeaveWhatOthersHangOn) {
    const Design one = made("timer-flasher", {}).value();
    EXPECT_TRUE(without_block(one, 0).value().circuit.parts.empty());
    const Recipe& shot = *find_recipe("timer-one-shot");
    const Design two = with_block(one, shot.id, planned_in(one, shot, {})).value();
    const Design left = without_block(two, 0).value();
    ASSERT_EQ(left.blocks.size(), 1u);
    EXPECT_TRUE(left.circuit.source()) << "the cells changed hands";
    EXPECT_TRUE(main_switch(left.circuit));
    expect_met(left, "the one shot alone ");
    for (const Finding& f : test::findings(left)) EXPECT_NE(f.severity, Severity::error) << f.title;
    EXPECT_FALSE(without_block(one, 1));
}

TEST(Blocks, HangBehindAFuse) {
    const Design torch = test::demo("rock-pool-torch");
    const Recipe& shot = *find_recipe("timer-one-shot");
    const auto with = with_block(torch, shot.id, planned_in(torch, shot, {}));
    ASSERT_TRUE(with) << with.error().text();
    const Circuit& circuit = with.value().circuit;
    const std::string& raw = circuit.source()->net("+");
    for (const auto& [local, designator] : with.value().blocks.back().parts)
        for (const Pin& pin : circuit.find(designator)->pins)
            EXPECT_NE(pin.net, raw) << designator << " hangs at the cell before its fuse";
}

TEST(Blocks, HangOnASourceThatCameInPlaceOfTheirs) {
    Design d = made("timer-flasher", {{"rate", 2.0}}).value();
    const Part cells = *d.circuit.source();
    Circuit other = d.circuit;
    std::erase_if(other.parts, [&](const Part& part) { return part.designator == cells.designator; });
    d = with_circuit(d, other);
    other.parts.push_back(test::supply(cells.net("+"), cells.net("-"), 5, 0.1));
    d = with_circuit(d, other);
    const auto slower = with_goal(d, 0, "rate", 1.0);
    ASSERT_TRUE(slower) << slower.error().text();
    int sources = 0;
    for (const Part& part : slower.value().circuit.parts) sources += is(part, Role::source);
    EXPECT_EQ(sources, 1) << "no second one beside it";
    expect_met(slower.value(), "on another source ");
}

TEST(Blocks, FollowASupplyThatAnotherBlockOwns) {
    const Design one = made("timer-flasher", {{"cells", 3.0}}).value();
    const Recipe& shot = *find_recipe("timer-one-shot");
    const Design two = with_block(one, shot.id, planned_in(one, shot, {})).value();
    const auto resistor = [](const Design& d) {
        return d.circuit.find(d.blocks[1].parts.at("Rlight1"))->number("value");
    };
    const Design more = with_goal(two, 0, "cells", 4.0).value();
    EXPECT_GT(resistor(more), 1.3 * resistor(two)) << "its light keeps its current";
    Store store;
    for (const std::size_t k : {0u, 1u}) {
        const auto all = Ask(store)(MeasuredQuery(more, k, {}));
        ASSERT_TRUE(all);
        for (const Measured& m : *all) EXPECT_TRUE(m.met) << k << m.asked.label << m.found.text();
    }
}

}  // namespace
}  // namespace elkit
