// Filament lamps: what they take hot and cold, how they warm, how they glow.
#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/long_run.hpp"
#include "engine/measure.hpp"
#include "engine/operating_point.hpp"
#include "engine/transient.hpp"
#include "light/sight.hpp"
#include "light/strings.hpp"
#include "situations/propose.hpp"
#include "support/circuits.hpp"

namespace elkit::test {
namespace {

Circuit lamp_on(double volts) {
    return circuit({"supply PS1 +=V -=0 lead_length=0 resistance=1e-3 voltage=" + std::to_string(volts),
                    "lamp LP1 a=V b=0 type=lamp-12V"});
}
double amps_at(double volts) {
    const auto op = operating_point(lamp_on(volts), known_catalogue(), {});
    EXPECT_TRUE(op) << volts;
    return op ? op.value().part("LP1").current : 0;
}

TEST(Lamp, TakesItsRatedCurrentAndLessThanInProportionBelow) {
    EXPECT_NEAR(amps_at(12), 0.06, 2e-4);
    for (const double volts : {6.0, 9.0, 13.0})  // the usual law of data sheets
        EXPECT_NEAR(amps_at(volts), 0.06 * std::pow(volts / 12, 0.54), 0.01 * amps_at(volts)) << volts;
    const double cold = 200 * std::pow(293.0 / 2500, 1.2);
    EXPECT_NEAR(1e-4 / amps_at(1e-4), cold, 0.02 * cold) << "too little to warm it";
    EXPECT_NEAR(amps_at(0), 0, 1e-9);
}

/// The same wire by itself: C dT/dt = V²/R − loss, in small steps of Euler's.
double kelvin_after(double seconds, double volts) {
    constexpr double rated = 0.72, hot = 200, t0 = 2500, room = 293, tau = 0.04;
    const double heat = 4 * tau * rated / t0;
    const auto lost = [&](double t) { return rated * (std::pow(t / t0, 4) - std::pow(room / t0, 4)); };
    double t = room;
    const int steps = 200'000;
    for (int k = 0; k < steps; ++k)
        t += seconds / steps * (volts * volts / (hot * std::pow(t / t0, 1.2)) - lost(t)) / heat;
    return t;
}

TEST(Lamp, WarmsUpAsTheWireDoesByItself) {
    for (const double seconds : {0.002, 0.01, 0.05, 0.3}) {
        const auto run =
            simulate(lamp_on(12), known_catalogue(), {},
                     {.until = seconds, .start = Start::power_up, .probes = {"part:LP1", "light:LP1"}});
        ASSERT_TRUE(run) << run.error().text();
        const double t = kelvin_after(seconds, 12), ohms = 200 * std::pow(t / 2500, 1.2);
        const auto& traces = run.value().traces;
        EXPECT_NEAR(traces[0].values.back(), 12 / ohms, 0.02 * 12 / ohms) << seconds;
        EXPECT_NEAR(traces[1].values.back(), 0.32 * std::pow(t / 2500, 9), 0.01) << seconds;
        EXPECT_LT(run.value().balance.energy_error, 1e-2);
    }
    const auto begins = simulate(lamp_on(12), known_catalogue(), {},
                                 {.until = 0.2, .start = Start::power_up, .probes = {"part:LP1"}});
    ASSERT_TRUE(begins);
    const auto& amps = begins.value().traces[0].values;
    EXPECT_NEAR(*std::max_element(amps.begin(), amps.end()), 0.06 * std::pow(2500 / 293.0, 1.2), 0.06)
        << "cold it takes some 13 times as much";
}

TEST(Lamp, GlowsOnThroughQuickPulsesAndBlinksWithSlowOnes) {
    const auto pulsed = [](const char* period, const char* width) {
        return circuit({"vsource V1 +=V -=0 wave=pulse value=0 high=12 period=" + std::string(period) +
                            " width=" + width,
                        "lamp LP1 a=V b=0 type=lamp-12V"});
    };
    Store store;
    const auto seen = [&](const Circuit& c) {
        const auto sight = Ask(store)(SightQuery(c, {}, 1, 1));
        EXPECT_TRUE(sight) << (sight ? "" : sight.error().text());
        return sight->rows.at(0);
    };
    const SightRow quick = seen(pulsed("2e-3", "1e-3")), slow = seen(pulsed("4", "2"));
    // half the time at its volts: V²/2 = P R with P as T⁴ and R as T^1.2
    const double half = 0.32 * std::pow(0.5, 9 / 5.2);
    EXPECT_EQ(quick.frequency, 0);
    EXPECT_NEAR(quick.average.value, half, 0.06 * half);
    EXPECT_NEAR(slow.frequency, 0.25, 1e-3);
    EXPECT_NEAR(slow.on.value, 0.32, 0.02);
    EXPECT_NEAR(slow.average.value, 0.16, 0.02);
}

TEST(Lamp, IsLitOnlyOnceItGlows) {
    for (const auto& [volts, lit] : {std::pair(12.0, true), {6.0, true}, {0.5, false}}) {
        const auto op = operating_point(lamp_on(volts), known_catalogue(), {});
        ASSERT_TRUE(op);
        EXPECT_EQ(is_lit(lamp_on(volts), op.value()), lit) << volts;
        const double light = total_intensity(lamp_on(volts), known_catalogue(), op.value());
        EXPECT_NEAR(light, 0.32 * std::pow(volts / 12, 9 / 2.6), 0.01) << volts;
    }
    Circuit turned = lamp_on(12);
    std::swap(turned.find("LP1")->pins[0].net, turned.find("LP1")->pins[1].net);
    const auto op = operating_point(turned, known_catalogue(), {});
    ASSERT_TRUE(op);
    EXPECT_TRUE(is_lit(turned, op.value())) << "it has no plus and no minus";
    EXPECT_NEAR(total_intensity(turned, known_catalogue(), op.value()), 0.32, 0.01);
}

}  // namespace
}  // namespace elkit::test
