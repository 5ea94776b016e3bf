// Times of the two-threshold timer against closed forms, and their limits.
#include "recipes/timer_times.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

namespace elkit {
namespace {

constexpr double ln2 = std::numbers::ln2;

TEST(TimerTimes, OfThePlainAstableAreThoseOfAnyDatasheet) {
    const HighLow t = plain_times(10e3, 47e3, {1e-6}, 9);
    EXPECT_NEAR(t.high, ln2 * 57e3 * 1e-6, 1e-9);
    EXPECT_NEAR(t.low, ln2 * 47e3 * 1e-6, 1e-9);
    EXPECT_NEAR(plain_times(10e3, 47e3, {1e-6}, 3).high, t.high, 1e-12) << "whatever the supply";
}

TEST(TimerTimes, OfTheOneShot) { EXPECT_NEAR(one_shot_time(100e3, {1e-5}), std::log(3.0), 1e-7); }

TEST(TimerTimes, ALeakSlowsChargingAndSpeedsDischarging) {
    const TimingCapacitor leaky{1e-5, 10e6};
    EXPECT_GT(charging_time(1e6, leaky, 5, 5.0 / 3, 10.0 / 3), ln2 * 10);
    EXPECT_LT(charging_time(1e6, leaky, 0, 10.0 / 3, 5.0 / 3), ln2 * 10);
    // by hand: R' = 0.909 MΩ, V' = 4.545 V, ratio (4.545 − 1.667)/(4.545 − 3.333) = 2.375
    EXPECT_NEAR(charging_time(1e6, leaky, 5, 5.0 / 3, 10.0 / 3), 9.0909 * std::log(2.375), 1e-3);
    EXPECT_TRUE(std::isinf(charging_time(5e6, {1e-5, 10e6}, 3, 0, 2))) << "its half never comes above 2 V";
}

TEST(TimerTimes, SteeringDropsCountForMoreAtLittleSupply) {
    const Junction diode{1e-9, 0.047, 0.5};
    EXPECT_NEAR(steered_times(1e5, 1e5, {1e-6}, 15, diode).value().high / (ln2 * 0.1), 1.09, 0.03);
    EXPECT_GT(steered_times(1e5, 1e5, {1e-6}, 3, diode).value().high / (ln2 * 0.1), 1.4)
        << "0.69 R C is far off here";
}

TEST(TimerTimes, ThroughARealDiodeAreThoseOfItsMeanDropWhereThereIsPlenty) {
    const Junction diode{1e-9, 0.047, 0.5};
    const double mean = 7.5 / 100e3, drop = diode.voltage_at(mean);
    const HighLow t = steered_times(100e3, 100e3, {1e-6}, 15, diode).value();
    EXPECT_NEAR(t.high / (0.1 * std::log((10 - drop) / (5 - drop))), 1, 0.003);
    EXPECT_NEAR(t.high, t.low, 1e-6) << "both ways alike without a leak";
    EXPECT_FALSE(steered_times(100e3, 100e3, {1e-6}, 0.3, diode)) << "a tenth of a volt opens no diode";
}

TEST(TimerTimes, FromAnOutputThatReachesBothRailsAreTwoEqualHalves) {
    const HighLow ideal = output_times(1e5, {1e-6}, 5, 5, 0).value();
    EXPECT_NEAR(ideal.high, ln2 * 0.1, 1e-9);
    EXPECT_NEAR(ideal.low, ideal.high, 1e-10);
    EXPECT_GT(output_times(1e5, {1e-6}, 5, 3.6, 0).value().high, 2 * ideal.high) << "a loaded output is late";
    EXPECT_FALSE(output_times(1e5, {1e-6}, 5, 3.3, 0)) << "and below two thirds it stays for ever";
}

}  // namespace
}  // namespace elkit
