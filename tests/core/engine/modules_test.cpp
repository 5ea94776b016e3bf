// Bought modules: what they do at their pins, against what their entry says.
#include <fmt/format.h>
#include <gtest/gtest.h>

#include "circuit/part_kind.hpp"
#include "engine/long_run.hpp"
#include "engine/operating_point.hpp"
#include "engine/transient.hpp"
#include "support/circuits.hpp"

namespace elkit::test {
namespace {

OperatingPoint at_rest(const Circuit& c, const Conditions& under = {}) {
    auto op = operating_point(c, known_catalogue(), under);
    EXPECT_TRUE(op) << op.error().text();
    return op ? std::move(op).value() : OperatingPoint{};
}

TEST(Modules, OfTheHandGoOnWhileItIsThere) {
    const Circuit c =
        circuit({"supply PS1 +=V+ -=GND voltage=3 resistance=0", "touch_switch M1 vcc=V+ gnd=GND out=OUT",
                 "resistor R1 a=OUT b=GND value=1000"});
    EXPECT_NEAR(at_rest(c).voltage("OUT"), 0, 1e-3);
    Conditions touched;
    touched.switches["M1"] = true;
    EXPECT_NEAR(at_rest(c, touched).voltage("OUT"), 3.0 * 1000 / 1200, 1e-3) << "behind 200 Ω";
    EXPECT_NEAR(at_rest(c).part("PS1").current, -3e-6, 1e-7) << "its own current";
}

TEST(Modules, StepUpGiveTheirVoltageAndTakeTheirPower) {
    for (const double volts : {1.2, 2.4, 3.6}) {
        const Circuit c = circuit({fmt::format("supply PS1 +=V+ -=GND voltage={} resistance=0.05", volts),
                                   "step_up M1 in=V+ gnd=GND out=OUT", "resistor R1 a=OUT b=GND value=100"});
        const OperatingPoint op = at_rest(c);
        const double out = op.voltage("OUT"), load = out / 100, in = op.voltage("V+");
        EXPECT_NEAR(out, 5 - 0.2 * load, 0.01) << volts;
        EXPECT_NEAR(-op.part("PS1").current, load * out / (0.85 * in) + 2e-4, 1e-4) << volts;
    }
    const Circuit flat = circuit({"supply PS1 +=V+ -=GND voltage=0.5", "step_up M1 in=V+ gnd=GND out=OUT",
                                  "resistor R1 a=OUT b=GND value=100"});
    EXPECT_LT(at_rest(flat).voltage("OUT"), 0.5) << "below its lowest supply";
    const Circuit heavy = circuit({"supply PS1 +=V+ -=GND voltage=3.6", "step_up M1 in=V+ gnd=GND out=OUT",
                                   "resistor R1 a=OUT b=GND value=5"});
    EXPECT_NEAR(at_rest(heavy).voltage("OUT") / 5, 0.39, 0.02) << "its limit is 1.3 times its rating";
}

TEST(Modules, StepDownNeverGiveMoreThanTheirInput) {
    for (const double volts : {4.6, 7.0, 12.0}) {
        const Circuit c = circuit({fmt::format("supply PS1 +=V+ -=GND voltage={}", volts),
                                   "step_down M1 in=V+ gnd=GND out=OUT", "resistor R1 a=OUT b=GND value=50"});
        const OperatingPoint op = at_rest(c);
        EXPECT_NEAR(op.voltage("OUT"), std::min(5.0, op.voltage("V+") - 0.3), 0.03) << volts;
        EXPECT_LT(op.voltage("OUT") * op.voltage("OUT") / 50, -op.part("PS1").current * op.voltage("V+"))
            << volts;
    }
}

TEST(Modules, OfALevelSwitchWithHysteresisAfterTheirDelay) {
    const Circuit c =
        circuit({"supply PS1 +=V+ -=GND voltage=5",
                 "vsource VS1 +=IN -=GND wave=pulse value=0 high=3 delay=0.1 width=0.1 period=10",
                 "relay_module M1 vcc=V+ gnd=GND in=IN common=V+ no=A nc=B",
                 "resistor R1 a=A b=GND value=1000", "resistor R2 a=B b=GND value=1000"});
    const auto run = simulate(c, known_catalogue(), {}, {.until = 0.3, .probes = {"net:A", "net:B"}});
    ASSERT_TRUE(run) << run.error().text();
    const auto value = [&](const char* probe, double t) {
        const auto& trace = *run.value().trace(probe);
        const auto at =
            std::lower_bound(run.value().time.begin(), run.value().time.end(), t) - run.value().time.begin();
        return trace.values[static_cast<std::size_t>(at)];
    };
    EXPECT_LT(value("net:A", 0.05), 0.01);
    EXPECT_GT(value("net:B", 0.05), 4.9);
    EXPECT_LT(value("net:A", 0.107), 0.01) << "8 ms later";
    EXPECT_GT(value("net:A", 0.109), 4.9);
    EXPECT_LT(value("net:B", 0.109), 0.01);
    EXPECT_GT(value("net:A", 0.207), 4.9);
    EXPECT_LT(value("net:A", 0.209), 0.01);
}

TEST(Modules, ThatLatchTurnOverAtEachPress) {
    const Circuit c =
        circuit({"supply PS1 +=V+ -=GND voltage=5",
                 "vsource VS1 +=IN -=GND wave=pulse value=0 high=3 delay=0.1 width=0.1 period=0.3",
                 "soft_latch M1 vcc=V+ gnd=GND in=IN out=A", "resistor R1 a=A b=GND value=1000"});
    const auto run = simulate(c, known_catalogue(), {}, {.until = 0.9, .probes = {"net:A"}});
    ASSERT_TRUE(run) << run.error().text();
    const auto& trace = *run.value().trace("net:A");
    int turns = 0;
    for (std::size_t k = 1; k < trace.values.size(); ++k)
        turns += (trace.values[k] > 2.5) != (trace.values[k - 1] > 2.5);
    EXPECT_EQ(turns, 3) << "on, off, on";
}

TEST(Modules, WithAPatternAreAveragedOverIt) {
    const Circuit c = circuit({"battery B1 +=V+ -=GND count=2", "flicker_light M1 +=V+ -=GND"});
    const auto run = long_run(c, known_catalogue(), {}, {});
    ASSERT_TRUE(run) << run.error().text();
    EXPECT_TRUE(run.value().moves());
    EXPECT_NEAR(run.value().steady().period, 0.08, 1e-6);
    EXPECT_NEAR(run.value().mean().supply_current(), 0.004 + 0.016 * 0.05 / 0.08, 2e-4);
}

TEST(Modules, AreAllKindsWithASource) {
    int modules = 0;
    for (const PartKind& kind : part_kinds()) modules += kind.module.has_value();
    EXPECT_GE(modules, 12);
}

struct BadModule {
    const char *json, *place, *found;
};
class BadModules : public ::testing::TestWithParam<BadModule> {};
TEST_P(BadModules, AreToldWithTheirPlace) {
    const auto read = read_modules(GetParam().json);
    ASSERT_FALSE(read);
    EXPECT_NE(read.error().place.find(GetParam().place), std::string::npos) << read.error().text();
    EXPECT_NE(read.error().found.find(GetParam().found), std::string::npos) << read.error().text();
}
INSTANTIATE_TEST_SUITE_P(
    Lists, BadModules,
    ::testing::Values(
        BadModule{"{}", "modules", "no list"}, BadModule{"[3]", "entry 1", ""},
        BadModule{
            R"([{"id": "x", "name": "x", "pins": ["a", "b"], "supply": {"plus": "a", "minus": "c"}, "goes_on": "always"}])",
            "entry 1 (x)", "pin \"c\""},
        BadModule{
            R"([{"id": "x", "name": "x", "pins": ["a", "b"], "supply": {"plus": "a", "minus": "b"}, "goes_on": "magic"}])",
            "entry 1 (x)", "magic"},
        BadModule{
            R"([{"id": "x", "name": "x", "pins": ["a", "b"], "supply": {"plus": "a", "minus": "b"}, "goes_on": "always",
                       "values": {"idle_current": -1}}])",
            "entry 1 (x)", "idle_current"},
        BadModule{
            R"([{"id": "x", "name": "x", "pins": ["a", "b"], "supply": {"plus": "a", "minus": "b"}, "goes_on": "always",
                       "values": {"threshold": 1}}])",
            "entry 1 (x)", "threshold"}));

TEST(Converters, GiveNoPowerOfTheirOwnFromNextToNoInput) {
    for (const double in : {0.012, 0.05, 0.09, 0.11, 0.14, 0.2, 0.4})
        for (const double efficiency : {0.85, 1.0}) {
            const Circuit c = circuit(
                {"supply PS1 +=V -=0 voltage=5 lead_length=0",
                 "step_up M1 in=V gnd=G out=O lowest_supply=0.5 efficiency=" + std::to_string(efficiency),
                 "vsource VS1 +=V -=G value=" + std::to_string(in), "resistor R1 a=O b=G value=1000",
                 "resistor R2 a=G b=0 value=1e6"});
            EXPECT_GE(operating_point(c, known_catalogue(), {}).value().part("M1").power(), -1e-12)
                << in << " V, " << efficiency;
        }
}

}  // namespace
}  // namespace elkit::test
