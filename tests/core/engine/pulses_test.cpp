// Equal pulses of a dimmed light are followed once; what is left out must not show.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "behaviour/machine.hpp"
#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"
#include "engine/measure.hpp"
#include "support/circuits.hpp"

namespace elkit::test {
namespace {

constexpr double ohms = 10e3, farads = 10e-6, out_ohms = 30, start = 1e-3;

/// A pin that charges a capacitor through a resistor.
Circuit smoothed(const std::string& behaviour) {
    Circuit c = circuit({"supply PS1 +=V -=0 lead_length=0 resistance=0 voltage=4.5",
                         "controller_8 U1 vcc=V gnd=0 P0=O", "resistor R1 a=O b=F value=10000",
                         "capacitor C1 a=F b=0 value=1e-5"});
    c.find("U1")->params["behaviour"] = behaviour;
    return c;
}

/// What the capacitor has at the end of each tick, pulse after pulse in closed form.
std::vector<double> closed_form(const Circuit& c, int ticks, double pulse) {
    const Program program = program_of(*c.find("U1")).value();
    Machine machine(program, {});
    const double tau = (ohms + out_ohms) * farads;
    std::vector<double> at;
    double v = 0;
    for (int tick = 0; tick < ticks; ++tick) {
        machine.step({});
        const double on = machine.levels()[0] / 255.0 * pulse;
        for (double t = 0; t < tick_seconds - pulse / 2; t += pulse) {
            v = 4.5 + (v - 4.5) * std::exp(-on / tau);
            v *= std::exp(-(pulse - on) / tau);
        }
        at.push_back(v);
    }
    return at;
}

TEST(Pulses, OfAFadeOnACapacitorGoOnAsIfAllWereFollowed) {
    for (const char* table :
         {"state a; P0 breathe 2s", "state a; P0 on 30%; after 1s to b; state b; P0 on 80%",
          "state a; P0 rise 1500ms"}) {
        const Circuit c = smoothed(table);
        const Recording r = recorded(c, {.until = 3, .start = Start::power_up, .probes = {"net:F"}});
        const auto expected = closed_form(c, 290, 0.005);
        double worst = 0;
        for (std::size_t k = 0; k < expected.size(); ++k)
            worst = std::max(worst, std::abs(value_at(r.time, r.traces[0].values,
                                                      start + static_cast<double>(k + 1) * tick_seconds) -
                                             expected[k]));
        EXPECT_LT(worst, 0.005 * 4.5) << table;
        EXPECT_LT(r.balance.charge_error, 1e-3) << table;
        EXPECT_LT(r.balance.energy_error, 5e-3) << table;
        EXPECT_TRUE(std::is_sorted(r.time.begin(), r.time.end())) << table;
    }
}

TEST(Pulses, ThatAreAlikeAreFollowedOnce) {
    Circuit c = circuit({"supply PS1 +=V -=0 lead_length=0 voltage=4.5", "controller_8 U1 vcc=V gnd=0 P0=O",
                         "resistor R1 a=O b=A value=330", "led L1 a=A k=0 type=red-5mm"});
    c.find("U1")->params["behaviour"] = std::string("state a; P0 on 40%; after 10s to b; state b; P0 on 40%");
    const Recording r =
        recorded(c, {.until = 9.5, .start = Start::power_up, .probes = {"part:L1", "part:PS1"}});
    EXPECT_LT(r.steps, 1000) << "of 1900 pulses";
    EXPECT_GT(r.time.size(), 4000) << "all are shown";
    // the same light, followed for two pulses only
    Circuit steady = c;
    steady.find("U1")->params["behaviour"] = std::string("state a; P0 on 40%");
    const Recording two = recorded(
        steady, {.until = start + 0.01, .start = Start::power_up, .probes = {"part:L1", "part:PS1"}});
    for (std::size_t k = 0; k < 2; ++k) {
        const double all = integral(r.time, r.traces[k].values, start, start + 9) / 9;
        EXPECT_NEAR(all, integral(two.time, two.traces[k].values, start, start + 0.01) / 0.01,
                    1e-3 * std::abs(all));
    }
    EXPECT_NEAR(r.balance.charge, -integral(r.time, r.traces[1].values, r.time.front(), r.time.back()),
                1e-3 * r.balance.charge);
}

TEST(Pulses, DoNotHideAThresholdThatIsReachedSlowly) {
    Circuit c = smoothed("state a; P0 on 80%");
    const auto more =
        circuit({"comparator U2 in+=F in-=REF out=Y vcc=V gnd=0", "resistor R2 a=V b=REF value=10000",
                 "resistor R3 a=REF b=0 value=3300", "resistor R4 a=V b=Y value=10000"});
    c.parts.insert(c.parts.end(), more.parts.begin(), more.parts.end());
    const Recording r = recorded(c, {.until = 2, .start = Start::power_up, .probes = {"net:F"}});
    const auto expected = closed_form(c, 190, 0.005);
    const auto above =
        std::find_if(expected.begin(), expected.end(), [](double v) { return v > 4.5 * 3.3 / 13.3; });
    ASSERT_NE(above, expected.end());
    const double reached = start + static_cast<double>(above - expected.begin() + 1) * tick_seconds;
    const auto switches = std::find_if(r.happenings.begin(), r.happenings.end(),
                                       [](const Happening& h) { return h.what.starts_with("U2"); });
    ASSERT_NE(switches, r.happenings.end());
    EXPECT_NEAR(switches->time, reached, 1.5 * tick_seconds);
}

/// What settles within a pulse is not taken for something that drifts from pulse to pulse.
TEST(Pulses, OfAFadeBesideAQuickCapacitorAreFollowedOnceATick) {
    Circuit c = circuit({"supply PS1 +=V -=0 lead_length=0 resistance=0.5 voltage=4.5",
                         "capacitor C1 a=V b=0 value=1e-7", "controller_8 U1 vcc=V gnd=0 P0=O P1=P",
                         "resistor R1 a=O b=A value=330", "led L1 a=A k=0 type=red-5mm",
                         "resistor R2 a=P b=B value=330", "led L2 a=B k=0 type=red-5mm"});
    c.find("U1")->params["behaviour"] = std::string("state a; P0 breathe 4s; P1 on 40%");
    const Recording r =
        recorded(c, {.until = 8, .start = Start::power_up, .probes = {"part:L1"}, .copy_cycles = false});
    EXPECT_LT(r.steps, 14'000) << "of 1600 pulses";
    EXPECT_TRUE(std::is_sorted(r.time.begin(), r.time.end()));
    // the two breaths are the same light
    const auto light = [&](double from) { return integral(r.time, r.traces[0].values, from, from + 4); };
    EXPECT_NEAR(light(start), light(start + 3.9), 0.03 * light(start));
}

/// Each picture of a run is of its own moment, not of what stands behind a gap.
TEST(Pulses, AreNotLeftOutAcrossAPicture) {
    const Circuit c = smoothed("state a; P0 on 30%");
    const Recording r =
        recorded(c, {.until = 2, .start = Start::power_up, .probes = {"net:F"}, .frames = 100});
    ASSERT_GE(r.frames.size(), 95u);
    for (std::size_t k = 1; k < r.frame_time.size(); ++k)
        EXPECT_LT(r.frame_time[k] - r.frame_time[k - 1], 0.03);
}

}  // namespace
}  // namespace elkit::test
