// Every station tells the same story, from one store, whatever the circuit and the conditions.
#include <gtest/gtest.h>

#include <atomic>
#include <thread>

#include "drawer/import.hpp"
#include "light/light.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit {
namespace {

TEST(Stations, TellTheSameStory) {
    const Design d = test::pier_lantern();
    Store store;
    const Ask ask(store);
    const Keyed<Circuit> circuit(d.circuit);
    const auto light = ask(LightQuery(circuit, {}));
    const auto power = ask(PowerQuery(circuit, {}, d.brief.end_brightness));
    const auto op = ask(RestQuery(circuit, {}));
    const auto steps = ask(StepsQuery{circuit, d.board, d.brief.for_children});
    const auto board = ask(BoardQuery{circuit, d.board});
    const auto parts = ask(parts_query(d, demo_stock()));
    ASSERT_TRUE(light && power && op && steps && board && parts);
    // the discharge starts where the light stands, the leaflet's reading lies around the operating point
    EXPECT_NEAR(power->typical.samples.front().amps, light->total.value, 1e-9);
    EXPECT_NEAR(light->total.value, op->supply_current(), 1e-12);
    for (const auto& step : *steps)
        if (step.id == "amps.supply") {
            EXPECT_GT(op->supply_current(), *step.check->expected->low);
            EXPECT_LT(op->supply_current(), *step.check->expected->high);
        }
    EXPECT_TRUE(board->differences.empty());
    double leds = 0;
    for (const auto& line : parts->lines)
        if (line.key.starts_with("led/")) leds += line.per_kit.value;
    EXPECT_EQ(leds, 4);
}

TEST(Stations, ComputeOnSeveralThreadsAtOnce) {
    const Design a = test::pier_lantern(), b = test::coat_badge();
    const double alone = test::power(a).value().run_time.value;
    Store store;
    double first = 0, second = 0;
    std::thread one(
        [&] { first = store.ask(PowerQuery(a.circuit, {}, a.brief.end_brightness))->run_time.value; });
    std::thread two(
        [&] { second = store.ask(PowerQuery(b.circuit, {}, b.brief.end_brightness))->run_time.value; });
    std::thread three([&] { (void)store.ask(PowerQuery(a.circuit, {}, a.brief.end_brightness)); });
    one.join(), two.join(), three.join();
    EXPECT_EQ(first, alone);
    EXPECT_NE(second, alone);
    EXPECT_EQ(store.repeated(), 0u) << "two who ask for one thing share its computation";
}

TEST(Stations, SayWhyThereIsNothing) {
    Design d = test::pier_lantern();
    d.circuit.parts.clear();
    const auto light = test::ask(LightQuery(d.circuit, {}));
    ASSERT_FALSE(light);
    EXPECT_EQ(light.error().place, "circuit");
    EXPECT_FALSE(test::power(d));
    EXPECT_FALSE(test::ask(BoardQuery{d.circuit, d.board}));
}

class Temperatures : public ::testing::TestWithParam<double> {};

TEST_P(Temperatures, AllStationsComputeFromFrostToHeat) {
    const Conditions c{0.7, GetParam(), {}};
    for (const Design& d : {test::pier_lantern(), test::coat_badge()}) {
        const auto light = test::ask(LightQuery(d.circuit, c));
        ASSERT_TRUE(light) << d.name << ": " << light.error().text();
        EXPECT_GT(light.value().total.value, 0);
        const auto power = test::power(d, c);
        ASSERT_TRUE(power) << d.name;
        EXPECT_GT(power.value().run_time.value, 0);
        EXPECT_LE(*power.value().run_time.low, *power.value().run_time.high);
    }
}

INSTANTIATE_TEST_SUITE_P(Degrees, Temperatures, ::testing::Values(-20, -5, 0, 10, 21, 35, 60));

/// Whatever goals a person sets, the result is a working circuit or an error that says why not.
struct Wish {
    const char *cell, *led;
    int cells, count, per_string;
    double current;
};
class AnyGoals : public ::testing::TestWithParam<Wish> {};

TEST_P(AnyGoals, GiveAWorkingCircuitOrAReason) {
    const Wish& p = GetParam();
    Goals g = recipes().front().standard();
    g.values["cell"] = std::string(p.cell), g.values["led"] = std::string(p.led);
    g.values["cells"] = double(p.cells), g.values["count"] = double(p.count);
    g.values["per_string"] = double(p.per_string), g.values["current"] = p.current;
    const auto design = with_block({}, "steady-light", g);
    if (!design) {
        EXPECT_FALSE(design.error().found.empty() || design.error().expected.empty());
        return;
    }
    const auto light = test::ask(LightQuery(design.value().circuit, {}));
    ASSERT_TRUE(light) << light.error().text();
    for (const auto& s : light.value().strings) {
        EXPECT_LE(s.fresh_current.value, p.current * 1.001);
        EXPECT_LE(*s.fresh_current.low, s.fresh_current.value);
        EXPECT_GE(*s.fresh_current.high, s.fresh_current.value);
        EXPECT_FALSE(s.resistance.working.empty());
    }
    int leds = 0;
    for (const Part& part : design.value().circuit.parts) leds += is(part, Role::light);
    EXPECT_EQ(leds, p.count);
}

INSTANTIATE_TEST_SUITE_P(
    Wishes, AnyGoals,
    ::testing::Values(Wish{"LR6", "red-5mm", 2, 1, 1, 0.005}, Wish{"LR6", "white-5mm", 2, 1, 1, 0.005},
                      Wish{"LR6", "white-5mm", 4, 6, 1, 0.02}, Wish{"6LR61", "blue-5mm", 1, 5, 2, 0.01},
                      Wish{"6LR61", "red-3mm", 1, 8, 4, 0.008}, Wish{"CR2032", "red-3mm", 1, 1, 1, 0.001},
                      Wish{"CR2032", "blue-5mm", 1, 2, 2, 0.001},
                      Wish{"Li-ion-1S", "green-5mm", 1, 3, 1, 0.015},
                      Wish{"Lead-12V", "white-5mm", 1, 30, 3, 0.02}, Wish{"USB", "violet-5mm", 1, 2, 1, 0.01},
                      Wish{"NiMH-AA", "amber-5mm", 4, 7, 2, 0.012}, Wish{"LR44", "red-5mm", 3, 1, 1, 0.002},
                      Wish{"LR03", "yellow-green-5mm", 3, 2, 1, 0.0005}));

}  // namespace
}  // namespace elkit
