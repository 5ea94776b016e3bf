// Names of things to look at and to vary, and what comes of them.
#include "engine/goal.hpp"

#include <gtest/gtest.h>

#include <cmath>

#include "engine/long_run.hpp"
#include "engine/probe.hpp"
#include "engine/spread.hpp"
#include "engine/sweep.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

Circuit lamp() {
    return circuit({"supply PS1 +=V -=0 voltage=5 resistance=0.001 lead_length=0", "switch S1 a=V b=X",
                    "resistor R1 a=X b=A value=150", "led L1 a=A k=0",
                    "potentiometer RV1 a=V wiper=W b=0 value=10000", "resistor R2 a=W b=0 value=1e6",
                    "ldr LDR1 a=V b=M", "resistor R3 a=M b=0 value=10000"});
}

struct Probe {
    const char *words, *probe;
};
class Probes : public ::testing::TestWithParam<Probe> {};
TEST_P(Probes, AreNamedAsPeopleDo) {
    const auto probe = probe_from_words(lamp(), GetParam().words);
    ASSERT_TRUE(probe) << probe.error().text();
    EXPECT_EQ(probe.value(), GetParam().probe);
}
INSTANTIATE_TEST_SUITE_P(Words, Probes,
                         ::testing::Values(Probe{"A", "net:A"}, Probe{"L1", "part:L1"},
                                           Probe{"L1.i", "part:L1"}, Probe{"L1.light", "light:L1"},
                                           Probe{"R1.p", "power:R1"}, Probe{"RV1.wiper", "part:RV1.wiper"},
                                           Probe{"net:A", "net:A"}));

TEST(Goals, AreAProbeAndAReading) {
    const Goal g = goal_from_words(lamp(), "L1 max").value();
    EXPECT_EQ(g.probe, "part:L1");
    EXPECT_EQ(g.reading, "max");
    EXPECT_EQ(g.unit, Unit::ampere);
    EXPECT_EQ(goal_from_words(lamp(), "A").value().reading, "mean");
    EXPECT_EQ(goal_from_words(lamp(), "A period").value().unit, Unit::second);
    EXPECT_EQ(goal_from_words(lamp(), "R1.p").value().unit, Unit::watt);
    EXPECT_EQ(goal_from_words(lamp(), "R1.p cycle").value().unit, Unit::joule);
    EXPECT_EQ(goal_from_words(lamp(), "L1.light").value().unit, Unit::candela);
    for (const char* bad : {"nowhere", "A mode", "Z9 mean", ""})
        EXPECT_FALSE(goal_from_words(lamp(), bad)) << bad;
}

TEST(Goals, AtRestAreTheOperatingPoint) {
    const OperatingPoint op = solve(lamp());
    const auto value = [&](const char* words) {
        return evaluate(goal_from_words(lamp(), words).value(), lamp(), known_catalogue(), {}).value();
    };
    EXPECT_NEAR(value("L1"), op.part("L1").current, 1e-9);
    EXPECT_NEAR(value("A"), op.voltage("A"), 1e-9);
    EXPECT_NEAR(value("R1.p"), op.part("R1").power(), 1e-9);
    const LedType& led = *known_catalogue().led("red-5mm");
    EXPECT_NEAR(value("L1.light"), op.part("L1").current * led.intensity / led.test_current, 1e-6);
    EXPECT_FALSE(evaluate(goal_from_words(lamp(), "A period").value(), lamp(), known_catalogue(), {}))
        << "what rests has no period";
}

TEST(SetByName, ReachesConditionsKnobsContactsLevelsAndParameters) {
    Circuit c = lamp();
    Conditions q;
    ASSERT_TRUE(set_by_name("battery", 0.3, c, q));
    ASSERT_TRUE(set_by_name("temperature", 40, c, q));
    ASSERT_TRUE(set_by_name("lux", 5, c, q));
    ASSERT_TRUE(set_by_name("RV1", 0.7, c, q));
    ASSERT_TRUE(set_by_name("S1", 0, c, q));
    ASSERT_TRUE(set_by_name("PS1", 4.2, c, q));
    ASSERT_TRUE(set_by_name("R1.value", 220, c, q));
    ASSERT_TRUE(set_by_name("R3", 4700, c, q)) << "its printed value";
    EXPECT_EQ(q.battery, 0.3);
    EXPECT_EQ(q.celsius, 40);
    EXPECT_EQ(q.lux, 5);
    EXPECT_EQ(q.position(*c.find("RV1")), 0.7);
    EXPECT_FALSE(q.closed(*c.find("S1")));
    EXPECT_EQ(q.level(*c.find("PS1")), 4.2);
    EXPECT_EQ(c.find("R1")->number("value"), 220);
    EXPECT_EQ(c.find("R3")->number("value"), 4700);
    for (const auto& [name, value] :
         {std::pair("battery", 2.0), std::pair("RV1", 1.5), std::pair("R1.value", -5.0), std::pair("Z1", 1.0),
          std::pair("R1.colour", 1.0), std::pair("lux", -1.0)})
        EXPECT_FALSE(set_by_name(name, value, c, q)) << name;
}

TEST(Levels, OfASourceAreConditions) {
    Conditions q;
    q.levels["PS1"] = 3;
    EXPECT_LT(solve(lamp(), q).part("L1").current, 0.6 * solve(lamp()).part("L1").current);
    const Circuit c = circuit({"vsource VS1 +=V -=0 value=2", "resistor R1 a=V b=0 value=100"});
    q.levels = {{"VS1", 4.0}};
    EXPECT_NEAR(solve(c, q).part("R1").current, 0.04, 1e-5);
    const Circuit waves =
        circuit({"vsource VS1 +=V -=0 wave=sine value=1 amplitude=2", "resistor R1 a=V b=0"});
    EXPECT_FALSE(has_level(*waves.find("VS1"))) << "a waveform has no one level";
}

TEST(Ranges, AreTypedWithPointsAndRatio) {
    const SweepRange r = range_from_words("0..1:21").value();
    EXPECT_EQ(r.from, 0);
    EXPECT_EQ(r.to, 1);
    EXPECT_EQ(r.points, 21);
    EXPECT_TRUE(range_from_words("10..1k:31 log").value().logarithmic);
    EXPECT_EQ(range_from_words("1k..4k7").value().to, 4700);
    for (const char* bad : {"", "1", "1..", "a..b", "0..10:1", "0..10:x", "0..10 log", "-1..1 log"})
        EXPECT_FALSE(range_from_words(bad)) << bad;
}

TEST(Variables, AreWhatMattersToThisCircuit) {
    std::vector<std::string> names;
    for (const Variable& v : variables(lamp())) {
        names.push_back(v.name);
        EXPECT_LT(v.from, v.to) << v.name;
        Circuit c = lamp();
        Conditions q;
        EXPECT_TRUE(set_by_name(v.name, v.from, c, q)) << v.name;
        EXPECT_TRUE(set_by_name(v.name, v.to, c, q)) << v.name;
    }
    for (const char* name : {"battery", "temperature", "lux", "RV1", "PS1", "R1.value"})
        EXPECT_NE(std::find(names.begin(), names.end(), name), names.end()) << name;
    EXPECT_EQ(std::find(names.begin(), names.end(), "infrared"), names.end()) << "nothing here sees it";
}

TEST(Sweep, AgreesWithSolvingOneByOne) {
    const Goal goal = goal_from_words(lamp(), "L1").value();
    const Sweep s = sweep(lamp(), known_catalogue(), {}, "R1.value", {100, 1000, 7, true}, {goal}).value();
    ASSERT_EQ(s.at.size(), 7u);
    EXPECT_NEAR(s.at[1] / s.at[0], s.at[6] / s.at[5], 1e-9) << "even by ratio";
    for (std::size_t k = 0; k < s.at.size(); ++k) {
        Circuit c = lamp();
        c.find("R1")->params["value"] = s.at[k];
        EXPECT_NEAR(s.values[0][k], solve(c).part("L1").current, 1e-9);
        EXPECT_EQ(s.figure(0, k).value, s.values[0][k]);
        EXPECT_FALSE(s.figure(0, k).working.empty());
    }
    EXPECT_FALSE(sweep(lamp(), known_catalogue(), {}, "Z1", {}, {goal}));
    EXPECT_FALSE(sweep(lamp(), known_catalogue(), {}, "R1.value", {}, {goal}, [](auto, double) {
        return false;
    })) << "stopped";
}

TEST(Sweep, ReportsWhereItCouldNotSolve) {
    const Goal period = goal_from_words(lamp(), "A period").value();
    const Sweep s = sweep(lamp(), known_catalogue(), {}, "R1.value", {100, 200, 3}, {period}).value();
    EXPECT_EQ(s.troubles.size(), 3u);
    for (const double v : s.values[0]) EXPECT_TRUE(std::isnan(v));
}

TEST(Spread, HistogramHoldsEveryBuild) {
    const Spread s =
        spread(lamp(), known_catalogue(), {}, {goal_from_words(lamp(), "L1").value()}, 300, 3).value()[0];
    const Histogram h = s.histogram(12);
    double sum = 0;
    for (const double n : h.count) sum += n;
    EXPECT_EQ(sum, 300);
    EXPECT_LE(s.least, s.low);
    EXPECT_LE(s.low, s.median);
    EXPECT_LE(s.median, s.high);
    EXPECT_EQ(s.end_figure(true).value, s.most);
    EXPECT_EQ(s.end_figure(false).value, s.least);
    double shares = 0;
    for (const auto& i : s.influences) {
        shares += i.share;
        EXPECT_FALSE(i.figure().working.empty());
    }
    EXPECT_LE(shares, 1.001);
    const Corner one = random_build(lamp(), 3, 17), again = random_build(lamp(), 3, 17),
                 other = random_build(lamp(), 3, 18);
    EXPECT_EQ(one, again);
    EXPECT_FALSE(one == other);
    for (const auto& [part, place] : one.parts) EXPECT_LE(std::abs(place), 1) << part;
}

}  // namespace
}  // namespace elkit::test
