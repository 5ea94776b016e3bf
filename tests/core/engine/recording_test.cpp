// A recording: changes at their moment, pictures, copied cycles, probes, progress.
#include <gtest/gtest.h>

#include <cmath>

#include "circuit/part_kind.hpp"
#include "design/demo.hpp"
#include "design/file.hpp"
#include "engine/measure.hpp"
#include "engine/transient.hpp"
#include "support/circuits.hpp"

namespace elkit::test {
namespace {

Circuit demo(const char* id) { return read_design(find_demo(id)->text).value().circuit; }

TEST(Recording, TimeRunsForwardAndEveryTraceKeepsStep) {
    for (const Demo& d : demos()) {
        const Circuit c = demo(d.id.c_str());
        const auto first = [&](Role role) {
            return std::find_if(c.parts.begin(), c.parts.end(), [&](const Part& p) { return is(p, role); })
                ->designator;
        };
        const std::string light = first(Role::light), source = first(Role::source);
        RunRequest q{.until = 2e-3,
                     .start = Start::power_up,
                     .probes = {"part:" + light, "light:" + light, "power:" + source}};
        const Recording r = recorded(c, q);
        for (std::size_t k = 1; k < r.time.size(); ++k) EXPECT_GE(r.time[k], r.time[k - 1]) << d.id;
        for (const Trace& t : r.traces) EXPECT_EQ(t.values.size(), r.time.size()) << d.id << " " << t.probe;
        EXPECT_NEAR(r.time.back(), 2e-3, 1e-12);
        for (const double candela : r.trace("light:" + light)->values) EXPECT_GE(candela, 0);
        EXPECT_EQ(r.trace("net:NOWHERE"), nullptr);
    }
}

TEST(Recording, PicturesComeAboutEvenly) {
    RunRequest q{.until = 4e-3, .start = Start::power_up};
    q.frames = 200;
    const Recording r = recorded(demo("harbour-dimmer"), q);
    ASSERT_GT(r.frames.size(), 150u);
    ASSERT_EQ(r.frames.size(), r.frame_time.size());
    double widest = 0;
    for (std::size_t k = 1; k < r.frame_time.size(); ++k)
        widest = std::max(widest, r.frame_time[k] - r.frame_time[k - 1]);
    EXPECT_LT(widest, 4e-3 / 40);
    for (const auto& frame : r.frames) EXPECT_EQ(frame.nets.size(), r.frames.front().nets.size());
}

TEST(Recording, AKnobTurnedOnTheWayChangesTheDuty) {
    const Circuit c = demo("harbour-dimmer");
    Conditions low, high;
    low.knobs["RV1"] = 0.1, high.knobs["RV1"] = 0.9;
    const Recording r = recorded(c,
                                 {.until = 40e-3,
                                  .start = Start::power_up,
                                  .probes = {"part:L1"},
                                  .changes = {{20e-3, high, "RV1 at 90 %"}}},
                                 low);
    const double before = measure(r.time, r.traces[0].values, 8e-3, 19e-3).mean,
                 after = measure(r.time, r.traces[0].values, 26e-3, 39e-3).mean;
    EXPECT_GT(after, 4 * before);
    bool noted = false;
    for (const auto& h : r.happenings) noted = noted || (h.what == "RV1 at 90 %" && h.time == 20e-3);
    EXPECT_TRUE(noted);
}

TEST(Recording, ABatteryThatEmptiesDimsTheLight) {
    const Circuit c = demo("pier-lantern");
    Conditions flat;
    flat.battery = 0.1;
    const Recording r =
        recorded(c, {.until = 2e-3, .probes = {"part:L1"}, .changes = {{1e-3, flat, "battery 10 %"}}});
    EXPECT_GT(value_at(r.time, r.traces[0].values, 0.5e-3), 3 * value_at(r.time, r.traces[0].values, 1.5e-3));
}

TEST(Recording, StopsWhenAskedAndSaysSo) {
    int told = 0;
    const auto r = simulate(demo("firefly-jar"), known_catalogue(), {},
                            {.until = 5e-3, .start = Start::power_up}, {}, [&](auto, double fraction) {
                                EXPECT_GE(fraction, 0);
                                EXPECT_LE(fraction, 1);
                                return ++told < 4;
                            });
    ASSERT_FALSE(r);
    EXPECT_EQ(told, 4);
    EXPECT_NE(r.error().text().find("stopped"), std::string::npos);
}

TEST(Recording, RefusesWhatCannotBeRun) {
    const Circuit c = demo("pier-lantern");
    for (const double until : {0.0, -1.0})
        EXPECT_FALSE(simulate(c, known_catalogue(), {}, {.until = until})) << until;
    for (const char* probe : {"net:NOWHERE", "part:Z9", "part:R1.z", "colour:R1", ""})
        EXPECT_FALSE(simulate(c, known_catalogue(), {}, {.until = 1e-3, .probes = {probe}})) << probe;
    RunRequest many{.until = 1, .start = Start::power_up};
    many.most_samples = 100, many.copy_cycles = false;
    const auto r = simulate(demo("firefly-jar"), known_catalogue(), {}, many);
    ASSERT_FALSE(r);
    EXPECT_NE(r.error().expected.find("shorter"), std::string::npos);
}

class Tolerances : public ::testing::TestWithParam<double> {};
TEST_P(Tolerances, TheTighterTheCloser) {
    const Circuit c = astable(5, 10e3, 47e3, 1e-7);
    RunRequest q{.until = 0.06, .start = Start::power_up};
    q.copy_cycles = false;
    q.accuracy.relative = 1e-6;
    const auto period = [&](const RunRequest& request) {
        const auto h = recorded(c, request).happenings;
        return h[h.size() - 1].time - h[h.size() - 3].time;
    };
    const double exact = period(q);
    q.accuracy.relative = GetParam();
    EXPECT_NEAR(period(q) / exact, 1, 0.3 * GetParam() + 3e-5);
}
INSTANTIATE_TEST_SUITE_P(Relative, Tolerances, ::testing::Values(1e-2, 5e-3, 1e-3, 1e-4));

TEST(Recording, FromRestAndFromPowerUpMeetInTheEnd) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=5", "resistor R1 a=V b=A value=1000",
                               "capacitor C1 a=A b=0 value=1e-6", "led L1 a=A k=0"});
    const Recording rest = recorded(c, {.until = 0.02, .probes = {"net:A"}}),
                    power = recorded(c, {.until = 0.02, .start = Start::power_up, .probes = {"net:A"}});
    EXPECT_LT(power.traces[0].values.front(), 0.1) << "an empty capacitor";
    EXPECT_NEAR(power.traces[0].values.back(), rest.traces[0].values.back(), 5e-3);
    EXPECT_NEAR(rest.traces[0].values.front(), rest.traces[0].values.back(), 1e-3) << "rest stays";
}

TEST(Recording, ACapacitorStartsAtItsOwnVoltage) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=5", "resistor R1 a=V b=A value=10000",
                               "electrolytic C1 +=A -=0 value=1e-5 initial=3 esr=1"});
    const Recording r = recorded(c, {.until = 1e-3, .start = Start::power_up, .probes = {"net:A"}});
    EXPECT_NEAR(r.traces[0].values.front(), 3, 0.01);
}

}  // namespace
}  // namespace elkit::test
