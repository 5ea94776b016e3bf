// Cells with values of their own, supply ranges, standby, and what a circuit's averages do to the discharge.
#include <gtest/gtest.h>

#include <cmath>

#include "engine/long_run.hpp"
#include "engine/models.hpp"
#include "power/discharge.hpp"
#include "power/standby.hpp"
#include "power/supply_range.hpp"
#include "support/circuits.hpp"
#include "support/designs.hpp"
#include "support/studies.hpp"

namespace elkit::test {
namespace {

Part battery(const std::string& extra = "") {
    return circuit({"battery B1 +=V -=0 cell=LR6 count=2 " + extra}).parts[0];
}

TEST(CellOf, ScalesItsTypeByThePartsOwnValues) {
    const CellType typical = *cell_of(battery(), known_catalogue());
    const CellType own =
        *cell_of(battery("capacity=1.25 open_circuit=1.4 cell_resistance=0.3"), known_catalogue());
    EXPECT_NEAR(own.open_circuit.at(1), 1.4, 1e-12);
    EXPECT_NEAR(own.resistance.at(1), 0.3, 1e-12);
    EXPECT_NEAR(own.capacity.points.front().y, 1.25, 1e-12);
    for (const double s : {0.1, 0.5, 0.9}) {
        EXPECT_NEAR(own.open_circuit.at(s) / typical.open_circuit.at(s), 1.4 / typical.open_circuit.at(1),
                    1e-12)
            << s;
        EXPECT_NEAR(own.resistance.at(s) / typical.resistance.at(s), 0.3 / typical.resistance.at(1), 1e-12)
            << s;
    }
    EXPECT_FALSE(cell_of(supply("V", "0", 5, 1), known_catalogue()));
    Part unknown = battery();
    unknown.params["cell"] = std::string("XX1");
    EXPECT_FALSE(cell_of(unknown, known_catalogue()));
}

TEST(CellOf, ChangesWhatTheEngineAndTheDischargeSee) {
    const auto with = [](const std::string& extra) {
        return circuit({"battery B1 +=V -=0 cell=LR6 count=3 " + extra, "resistor R1 a=V b=A value=150",
                        "led L1 a=A k=0"});
    };
    EXPECT_NEAR(solve(with("open_circuit=1.5")).voltage("V"), 4.5, 0.05);
    const double usual = test::discharge(with(""), {}, 0.5).value().hours;
    EXPECT_NEAR(test::discharge(with("capacity=1.25"), {}, 0.5).value().hours / usual, 0.5, 0.01)
        << "half the charge, half the time";
}

TEST(SupplyRanges, AreOfPartsThatWantAVoltage) {
    const Circuit c = circuit(
        {"battery B1 +=V -=0", "timer U1 gnd=0 trig=T out=O reset=V thr=T vcc=V type=timer-bipolar",
         "comparator U2 in+=T in-=O out=X vcc=V gnd=0", "regulator U3 in=V gnd=0 out=R type=regulator-3V3",
         "buzzer BZ1 +=V -=0", "prewired_led L1 a=V k=0 low=3 high=9", "resistor R1 a=V b=0"});
    const auto ranges = supply_ranges(c);
    ASSERT_EQ(ranges.size(), 5u);
    EXPECT_EQ(ranges[0].designator, "U1");
    EXPECT_EQ(ranges[0].low, 4.5);
    EXPECT_EQ(ranges[0].high, 16);
    EXPECT_TRUE(ranges[0].stops);
    EXPECT_NEAR(ranges[2].low, 3.35, 1e-9) << "its output and its dropout";
    EXPECT_FALSE(ranges[3].stops);
    EXPECT_EQ(ranges[4].plus, "V");
    EXPECT_EQ(ranges[4].minus, "0");
    for (const auto& r : ranges) EXPECT_LT(r.low, r.high) << r.designator;
}

TEST(Discharge, EndsWhereTheTimerStops) {
    const auto with = [](const char* type) {
        return circuit({"battery B1 +=V -=0 cell=LR6 count=4",
                        "timer U1 gnd=0 trig=T out=OUT reset=V thr=T disch=D vcc=V type=" + std::string(type),
                        "resistor R1 a=V b=D value=10000", "resistor R2 a=D b=T value=100000",
                        "capacitor C1 a=T b=0 value=1e-6", "resistor R3 a=OUT b=A value=680",
                        "led L1 a=A k=0"});
    };
    const Discharge bipolar = test::discharge(with("timer-bipolar"), {}, 0.1).value();
    EXPECT_EQ(bipolar.ended_by.find("U1 below"), 0u) << bipolar.ended_by;
    EXPECT_NEAR(bipolar.samples.back().volts, 4.5, 0.05);
    EXPECT_GT(bipolar.charge_left, 0.05);
    const Discharge cmos = test::discharge(with("timer-cmos"), {}, 0.1).value();
    EXPECT_GT(cmos.hours, bipolar.hours);
    for (std::size_t k = 1; k < cmos.samples.size(); ++k)
        EXPECT_GT(cmos.samples[k].hours, cmos.samples[k - 1].hours);
}

TEST(Standby, ListsWhoTakesTheCurrent) {
    const Circuit c =
        circuit({"battery B1 +=V -=0 count=3", "switch S1 a=V b=X", "resistor R1 a=X b=A value=150",
                 "led L1 a=A k=0", "resistor R2 a=V b=0 value=100000", "resistor R3 a=V b=0 value=10000"});
    const OperatingPoint off = solve(c, switched_off(c, {}));
    const auto list = takers(c, off);
    ASSERT_EQ(list.size(), 2u);
    EXPECT_EQ(list[0].first, "R3") << "the largest first";
    EXPECT_NEAR(list[0].second, 4.8e-4, 2e-5);
    EXPECT_EQ(list[1].first, "R2");
    double sum = 0;
    for (const auto& [part, amps] : list) sum += amps;
    EXPECT_NEAR(sum, off.supply_current(), 1e-8);
    EXPECT_FALSE(can_be_off(circuit({"battery B1 +=V -=0", "resistor R1 a=V b=0"})));
    EXPECT_TRUE(can_be_off(circuit({"battery B1 +=V -=0", "button S1 a=V b=0"})));
}

TEST(Standby, ADarkSwitchIsOffInDaylight) {
    const Circuit c =
        circuit({"battery B1 +=V -=0 count=3", "resistor R1 a=V b=B value=100000", "ldr LDR1 a=B b=0",
                 "npn Q1 c=C b=B e=0", "resistor R2 a=V b=A value=150", "led L1 a=A k=C"});
    Conditions dark;
    dark.lux = 0.5;
    EXPECT_GT(solve(c, dark).part("L1").current, 5e-3);
    const OperatingPoint day = solve(c, switched_off(c, dark));
    EXPECT_LT(day.part("L1").current, 1e-5);
    EXPECT_GT(day.supply_current(), 3e-5) << "the divider drinks all day";
}

class Duty : public ::testing::TestWithParam<double> {};
TEST_P(Duty, TheAverageIsTheShareOfTheTime) {
    std::ostringstream width;
    width << GetParam() * 1e-3;
    const Circuit c =
        circuit({"vsource VS1 +=V -=0 wave=pulse value=0 high=5 period=1e-3 edge=1e-7 width=" + width.str(),
                 "resistor R1 a=V b=0 value=1000"});
    const LongRun run = long_run(c, known_catalogue(), {}).value();
    EXPECT_NEAR(run.mean().part("R1").current, GetParam() * 5e-3, 2e-5);
    EXPECT_NEAR(run.rms("R1", "a"), std::sqrt(GetParam()) * 5e-3, 5e-5);
    EXPECT_NEAR(run.lasting("R1", "a"), 5e-3, 1e-5);
    EXPECT_NEAR(run.mean_figure("R1", "a").value, run.mean().part("R1").current, 1e-12);
    EXPECT_EQ(run.rms("R9", "a"), 0) << "what is not there carries nothing";
}
INSTANTIATE_TEST_SUITE_P(Shares, Duty, ::testing::Values(0.1, 0.25, 0.5, 0.9));

TEST(LongRun, LastingLeavesOutSpikes) {
    // 100 ns of a millisecond
    const Circuit c =
        circuit({"vsource VS1 +=V -=0 wave=pulse value=1 high=50 period=1e-3 edge=1e-8 width=1e-7",
                 "resistor R1 a=V b=0 value=1000"});
    const LongRun run = long_run(c, known_catalogue(), {}).value();
    EXPECT_NEAR(run.peak("R1", "a"), 50e-3, 1e-3);
    EXPECT_NEAR(run.lasting("R1", "a"), 1e-3, 1e-4);
    EXPECT_NEAR(run.between("V", "0").first, 1, 1e-2);
}

TEST(MayMove, AsksForGainAndStorageOrAWaveform) {
    EXPECT_FALSE(may_move(pier_lantern().circuit));
    EXPECT_FALSE(may_move(circuit({"battery B1 +=V -=0", "npn Q1 c=V b=V e=0"})));
    EXPECT_FALSE(may_move(circuit({"battery B1 +=V -=0", "capacitor C1 a=V b=0"})));
    EXPECT_TRUE(may_move(circuit({"battery B1 +=V -=0", "npn Q1 c=V b=B e=0", "capacitor C1 a=B b=0"})));
    EXPECT_TRUE(may_move(circuit({"vsource VS1 +=V -=0 wave=sine", "resistor R1 a=V b=0"})));
    EXPECT_FALSE(may_move(circuit({"vsource VS1 +=V -=0", "resistor R1 a=V b=0"})));
}

}  // namespace
}  // namespace elkit::test
