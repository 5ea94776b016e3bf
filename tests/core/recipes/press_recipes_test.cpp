// Recipes that wait for a hand, against the engine.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/measure.hpp"
#include "engine/transient.hpp"
#include "recipes/effect.hpp"
#include "review/findings.hpp"
#include "support/recipes.hpp"

namespace elkit {
namespace {
using namespace std::string_literals;
using test::combined;
using test::expect_met;
using test::made;
using test::Said;
using test::sweep;

const Measured& named(const std::vector<Measured>& all, const std::string& label) {
    for (const Measured& m : all)
        if (m.asked.label == label) return m;
    ADD_FAILURE() << label << " is not measured";
    return all.front();
}

TEST(PressFade, DiesAwayInTheTimeAskedForOrSaysThatItCannot) {
    const auto swept = sweep("press-fade", combined({{"time", {0.3, 8.0, 120.0, 3600.0}},
                                                     {"shape", {"gentle"s, "sudden"s}},
                                                     {"led", {"red-5mm"s, "white-5mm"s}},
                                                     {"cells", {2.0, 3.0, 6.0}}}));
    EXPECT_GT(swept.met, 30);
    EXPECT_GT(swept.refused.size(), 2u) << "two cells light no white LED behind a follower";
}

TEST(PressFade, FollowingTheCapacitorItDiesAwayAllAlong) {
    const auto half_of_tenth = [](const char* shape) {
        const auto all =
            test::ask(MeasuredQuery(made("press-fade", {{"shape", std::string(shape)}}).value(), 0, {}))
                .value();
        return named(all, "time to half").found.value / named(all, "time to a tenth").found.value;
    };
    EXPECT_LT(half_of_tenth("gentle"), 0.6);
    EXPECT_GT(half_of_tenth("sudden"), 0.9);
}

TEST(PressFade, WithoutABleedResistorIsTooWideToPromiseATime) {
    const auto wide = made("press-fade", {{"bleed", "leak"s}});
    ASSERT_TRUE(wide) << wide.error().text();
    expect_met(wide.value(), "leak ");
    const Figure time = sized_block(wide.value(), 0).value().results.front();
    EXPECT_GT(*time.high / *time.low, 50) << "leakage differs a hundred times";
    const Figure bled = sized_block(made("press-fade", {}).value(), 0).value().results.front();
    EXPECT_LT(*bled.high / *bled.low, 10);
    const auto short_one = made("press-fade", {{"bleed", "leak"s}, {"time", 5.0}, {"cells", 3.0}});
    ASSERT_FALSE(short_one);
    EXPECT_NE(short_one.error().expected.find("bleed resistor"), std::string::npos);
    EXPECT_FALSE(made("press-fade", {{"bleed", "leak"s}, {"capacitor", 1e-7}}))
        << "a film capacitor leaks nothing known";
}

TEST(PressFade, AFloatingGateIsFoundAndBledByOneStep) {
    const Design leaky = made("press-fade", {{"bleed", "leak"s}}).value();
    const auto floats = [](const Design& d) {
        const auto all = test::findings(d);
        return std::any_of(all.begin(), all.end(), [](const Finding& f) { return f.rule == "gate-floats"; });
    };
    ASSERT_TRUE(floats(leaky));
    const auto ways = declared_remedies(leaky, "gate-floats", "");
    ASSERT_EQ(ways.size(), 1u);
    const auto bled = with_goals(leaky, ways.front().block, ways.front().goals);
    ASSERT_TRUE(bled) << bled.error().text();
    EXPECT_FALSE(floats(bled.value()));
}

TEST(PressFade, IsStartedByAnotherBlock) {
    const Design first = made("timer-one-shot", {{"time", 1.0}, {"drives", "nothing"s}}).value();
    const Recipe& fade = *find_recipe("press-fade");
    const auto both = with_block(first, fade.id, planned_in(first, fade, {{"time", 4.0}}),
                                 {{"CHARGE", offered_nets(first).front().net}});
    ASSERT_TRUE(both) << both.error().text();
    const Design& d = both.value();
    RunRequest request;
    const std::string light = "part:" + d.blocks[1].parts.at("L1");
    request.until = 12, request.probes = {light};
    Conditions now;
    const std::string press = d.blocks[0].parts.at("Spress");
    now.switches[press] = true;
    request.changes.push_back({1, now, "press"});
    now.switches[press] = false;
    request.changes.push_back({1.2, now, "let go"});
    const auto run = simulate(d.circuit, known_catalogue(), {}, request);
    ASSERT_TRUE(run) << run.error().text();
    const auto at = [&](double t) { return value_at(run.value().time, run.value().trace(light)->values, t); };
    EXPECT_LT(at(0.9), 1e-5);
    EXPECT_GT(at(1.9), 3e-3);
    EXPECT_LT(at(11.5), 0.2 * at(1.9));
    EXPECT_LT(at(4), at(2.2));
}

TEST(PulseLatch, IsSetHeldAndResetOrSaysThatItCannot) {
    const auto swept = sweep("pulse-latch", combined({{"trigger", {"contact"s, "loop"s}},
                                                      {"cells", {1.0, 2.0, 3.0, 6.0}},
                                                      {"count", {1.0, 6.0}},
                                                      {"current", {0.002, 0.015}},
                                                      {"led", {"red-5mm"s}}}));
    EXPECT_GT(swept.met, 20);
    ASSERT_GE(swept.refused.size(), 8u);
    for (const Said& said : swept.refused)
        EXPECT_EQ(std::get<double>(said.at("cells")), 1) << "one cell opens no two junctions in a row";
}

TEST(PulseLatch, WaitsThroughPowerUpAndWarmth) {
    for (const char* trigger : {"contact", "loop"}) {
        const Design d = made("pulse-latch", {{"trigger", std::string(trigger)}}).value();
        for (const double celsius : {-10.0, 21.0, 60.0}) {
            Conditions world;
            world.celsius = celsius;
            const auto run = test::ask(RunQuery(Keyed<Circuit>(d.circuit), world));
            ASSERT_TRUE(run);
            EXPECT_LT(run.value().mean().supply_current(), 2e-6) << trigger << celsius;
        }
    }
}

TEST(PulseLatch, ShowsTheLightComeOn) {
    for (const char* trigger : {"contact", "loop"}) {
        const Recipe& recipe = *find_recipe("pulse-latch");
        const Effect effect =
            test::ask(EffectQuery{recipe.id, planned(recipe, {{"trigger", std::string(trigger)}})}).value();
        ASSERT_FALSE(effect.brightness.empty()) << trigger;
        EXPECT_LT(effect.brightness.front(), 0.05) << trigger;
        EXPECT_GT(*std::max_element(effect.brightness.begin(), effect.brightness.end()), 0.9) << trigger;
    }
}

TEST(PulseLatch, TooFewTurnsAreRefusedWithHowManyItTakes) {
    const auto few = made("pulse-latch", {{"trigger", "loop"s}, {"turns", 100.0}});
    ASSERT_FALSE(few);
    EXPECT_NE(few.error().expected.find("at least"), std::string::npos) << few.error().text();
}

TEST(PulseLatch, LetsAFlasherRunOnceItIsSet) {
    const Design first = made("pulse-latch", {{"current", 0.001}}).value();
    const Recipe& flasher = *find_recipe("timer-flasher");
    const auto both = with_block(first, flasher.id, planned_in(first, flasher, {{"rate", 4.0}}),
                                 {{"RUN", offered_nets(first).front().net}});
    ASSERT_TRUE(both) << both.error().text();
    const Keyed<Circuit> circuit(both.value().circuit);
    EXPECT_FALSE(test::ask(RunQuery(circuit, {})).value().moves());
    Conditions set;
    const std::string button = both.value().blocks[0].parts.at("Sset");
    set.events = {{1, button, true}, {1.3, button, false}};
    EXPECT_TRUE(test::ask(RunQuery(circuit, set)).value().moves());
}

}  // namespace
}  // namespace elkit
