// What takes minutes: cells that sag and recover, sensors and fuses that their own power warms.
#include <gtest/gtest.h>

#include <cmath>

#include "catalogue/catalogue.hpp"
#include "engine/measure.hpp"
#include "engine/operating_point.hpp"
#include "engine/transient.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"

namespace elkit::test {
namespace {

TEST(CoinCells, SagUnderALoadThatLastsAndRecover) {
    const CellType cell = *known_catalogue().cell("CR2032");
    ASSERT_EQ(cell.sag.size(), 2u);
    const Circuit c = circuit({"battery B1 +=V -=0 cell=CR2032 lead_length=0", "switch S1 a=V b=X",
                               "resistor R1 a=X b=0 value=1000"});
    Conditions on, off;
    on.switches["S1"] = true, off.switches["S1"] = false;
    const double v0 = cell.open_circuit.at(1), r0 = cell.resistance.at(1) * cell.resistance_factor.at(21);
    double slow = 0;
    for (const auto& s : cell.sag) slow += s.resistance * cell.resistance_factor.at(21);
    const Recording r = recorded(
        c,
        {.until = 2000, .start = Start::power_up, .probes = {"net:V"}, .changes = {{1000, off, "open S1"}}},
        on);
    const auto at = [&](double t) { return value_at(r.time, r.traces[0].values, t); };
    EXPECT_NEAR(at(1e-3), v0 * 1000 / (1000 + r0), 2e-3) << "at once its own resistance";
    EXPECT_NEAR(at(999), v0 * 1000 / (1000 + r0 + slow), 2e-3) << "after minutes all of it";
    EXPECT_NEAR(solve(c, on).voltage("V"), v0 * 1000 / (1000 + r0 + slow), 5e-4) << "which is its rest";
    EXPECT_LT(at(1001), v0 - 0.02) << "let go, it comes back slowly";
    EXPECT_NEAR(at(1999), v0, 2e-3);
}

TEST(CoinCells, SagLessWhereTheirOwnResistanceIsLess) {
    const auto volts = [](const char* own) {
        return solve(circuit({"battery B1 +=V -=0 cell=CR2032 lead_length=0" + std::string(own),
                              "resistor R1 a=V b=0 value=1000"}))
            .voltage("V");
    };
    const double v0 = known_catalogue().cell("CR2032")->open_circuit.at(1);
    EXPECT_NEAR((v0 - volts(" cell_resistance=6")) / (v0 - volts("")), 0.5, 0.02);
}

TEST(Thermistors, WarmUpWithinTheirTimeConstant) {
    // a current too small to change the resistance by much: T = I² R/δ (1 − e^(−t/τ))
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=5 resistance=0.001 lead_length=0",
                               "resistor R1 a=V b=0 value=1000", "isource I1 +=A -=0 value=0.0002",
                               "thermistor TH1 a=A b=0 value=10000 dissipation=0.002 time_constant=12"});
    const Recording r = recorded(c, {.until = 60, .start = Start::power_up, .probes = {"net:A"}});
    const auto ohms = [&](double t) { return value_at(r.time, r.traces[0].values, t) / 0.0002; };
    const double cold = 10e3 * std::exp(3950 * (1 / 294.15 - 1 / 298.15));
    const double slope = -3950 / (294.15 * 294.15);  // of ln R
    const auto warmer = [&](double t) { return std::log(ohms(t) / cold) / slope; };
    const double full = 0.0002 * 0.0002 * cold / 0.002;
    EXPECT_NEAR(ohms(1e-3), cold, 1);
    EXPECT_NEAR(warmer(12) / full, 1 - std::exp(-1), 0.03);
    EXPECT_NEAR(warmer(59) / full, 1, 0.05);
}

TEST(Thermistors, FeelAFingerOnThemselvesAlone) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=1 resistance=0.001 lead_length=0",
                               "thermistor TH1 a=V b=M dissipation=1000", "resistor R1 a=M b=0 value=10000"});
    Conditions touched;
    touched.warmth["TH1"] = 33;
    const double r = 10e3 * std::exp(3950 * (1 / 306.15 - 1 / 298.15));
    EXPECT_NEAR(solve(c, touched).voltage("M"), 10e3 / (10e3 + r), 1e-6);
}

TEST(Fuses, APtcLetsAShortGoAndComesBackWhenItIsOver) {
    const Circuit c = circuit({"supply PS1 +=V -=0 voltage=6 resistance=0.1 lead_length=0",
                               "fuse F1 a=V b=OUT type=ptc-100mA", "resistor R1 a=OUT b=0 value=200",
                               "resistor R2 a=OUT b=X value=0.5", "switch S1 a=X b=0"});
    Conditions shorted, free;
    shorted.switches["S1"] = true, free.switches["S1"] = false;
    const Recording r = recorded(
        c,
        {.until = 400, .start = Start::power_up, .probes = {"part:F1"}, .changes = {{30, free, "open S1"}}},
        shorted);
    const auto amps = [&](double t) { return value_at(r.time, r.traces[0].values, t); };
    EXPECT_GT(amps(1e-3), 1) << "cold it carries the short";
    EXPECT_NEAR(amps(29), 0.38 / 6, 0.01) << "tripped it gives off its tripped power";
    EXPECT_NEAR(amps(399), 6 / 202.6, 2e-3) << "cooled down it is back";
}

}  // namespace
}  // namespace elkit::test
